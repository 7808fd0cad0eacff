import { Dialog, DialogPanel } from '@headlessui/react'
import { Command } from 'cmdk'
import { useMemo, useState } from 'react'
import { useNavigate } from 'react-router'
import { findingKinds, tellKind } from '../../core/crate/finding-kinds'
import type { CrateItem } from '../../core/crate/schema'
import { stages } from '../../core/support/stages'
import { ItemPicture } from '../crate/item-picture'
import { findingsOf, stageTitles } from '../crate/stage-status'
import { useBenchJobs } from '../crate/use-bench-jobs'
import { useCrate } from '../crate/use-crate'
import { runId, useItemRun } from '../queries/runs'
import { beginsWords } from '../ui/begins-words'
import { StatusMark } from '../ui/status-mark'

/** Finds items, steps, findings and screens by typing, and goes there or does it. */
export function CommandSearch({
  open,
  item,
  onClose,
}: {
  open: boolean
  /** The item that is on the bench. */
  item: CrateItem | null
  onClose: () => void
}) {
  return (
    <Dialog open={open} onClose={onClose} className="relative z-50">
      <div className="fixed inset-0 flex justify-center bg-ink/30 p-6 pt-[12vh]">
        <DialogPanel className="h-fit max-h-[70vh] w-full max-w-xl overflow-hidden rounded-xl border border-edge-strong bg-slip shadow-lg">
          <Command label="Search this crate" loop filter={begins}>
            <Command.Input
              autoFocus
              placeholder="An item, a step, a finding, a screen…"
              className="w-full border-b border-edge bg-transparent px-4 py-3 text-[15px] outline-none"
            />
            <Command.List className="relative max-h-[56vh] overflow-y-auto p-2 text-[13.5px]">
              <Command.Empty className="px-3 py-4 text-ink-2">Nothing is called so here.</Command.Empty>
              {item && <OfItem item={item} onDone={onClose} />}
              <OfCrate onDone={onClose} />
            </Command.List>
          </Command>
        </DialogPanel>
      </div>
    </Dialog>
  )
}

const begins = (value: string, typed: string, keywords: string[] = []): number =>
  beginsWords([value, ...keywords].join(' '), typed) ? 1 : 0

const group =
  '[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-[12px] ' +
  '[&_[cmdk-group-heading]]:font-semibold [&_[cmdk-group-heading]]:text-ink-2'
const entry =
  'flex cursor-pointer items-center gap-2.5 rounded px-2 py-1 data-[selected=true]:bg-spruce-wash ' +
  'data-[selected=true]:outline data-[selected=true]:outline-spruce'

function OfCrate({ onDone }: { onDone: () => void }) {
  const { crate, game, rulebook } = useCrate()
  const navigate = useNavigate()
  const go = (to: string) => (): void => {
    onDone()
    void navigate(to)
  }
  const screens: [string, string][] = [
    ['Whole crate', `/crate/${crate.id}`],
    ['Pack', `/crate/${crate.id}/pack`],
    ['Names and paths', `/crate/${crate.id}/paths`],
    ['Trial', `/crate/${crate.id}/trial`],
    [`Rulebook of ${rulebook.title}`, `/crate/${crate.id}/rulebook`],
    ['The shelf', '/'],
  ]
  return (
    <>
      <Command.Group heading="Items" className={group}>
        {crate.items.map((each) => (
          <Command.Item
            key={each.id}
            value={`item ${each.id}`}
            keywords={[each.name, each.kind]}
            onSelect={go(`/crate/${crate.id}/item/${each.id}`)}
            className={entry}
          >
            <ItemPicture crateId={crate.id} item={each} game={game} size={26} />
            <span className="flex-1 truncate">{each.name}</span>
            <span className="text-[12px] text-ink-2">{each.kind}</span>
          </Command.Item>
        ))}
      </Command.Group>
      <Command.Group heading="Screens" className={group}>
        {screens.map(([title, to]) => (
          <Command.Item key={to} value={`screen ${title}`} onSelect={go(to)} className={entry}>
            {title}
          </Command.Item>
        ))}
      </Command.Group>
    </>
  )
}

/** Stages, findings and steps of the item on the bench. */
function OfItem({ item, onDone }: { item: CrateItem; onDone: () => void }) {
  const { crate } = useCrate()
  const navigate = useNavigate()
  const jobs = useBenchJobs(item)
  const run = useItemRun(runId(crate.id, item.id))
  const [stagesShown] = useState(() => stages.filter((stage) => stage !== 'pack' && stage !== 'trial'))
  const kinds = useMemo(() => findingKinds(findingsOf(item, run)), [item, run])
  const go = (stage: string) => (): void => {
    onDone()
    void navigate(`/crate/${crate.id}/item/${item.id}?stage=${stage}`)
  }
  return (
    <>
      {kinds.length > 0 && (
        <Command.Group heading={`Findings of ${item.name}`} className={group}>
          {kinds.map((kind) => (
            <Command.Item
              key={`${kind.rule} ${kind.severity} ${kind.waived}`}
              value={`finding ${kind.rule} ${kind.severity} ${kind.waived}`}
              keywords={[kind.title, tellKind(kind)]}
              onSelect={go(kind.stage)}
              className={entry}
            >
              <StatusMark status={kind.waived ? 'idle' : kind.severity} />
              <span className="shrink-0 font-semibold">{kind.title}</span>
              <span className="truncate text-[12px] text-ink-2">{tellKind(kind)}</span>
            </Command.Item>
          ))}
        </Command.Group>
      )}
      <Command.Group heading={`Stages of ${item.name}`} className={group}>
        {stagesShown.map((stage) => (
          <Command.Item key={stage} value={`stage ${stageTitles[stage]}`} onSelect={go(stage)} className={entry}>
            {stageTitles[stage]}
          </Command.Item>
        ))}
      </Command.Group>
      <Command.Group heading={`Entry of ${item.name}`} className={group}>
        <Command.Item
          value="entry"
          keywords={['catalogue', 'donor', 'events']}
          onSelect={() => {
            onDone()
            void navigate(`/crate/${crate.id}/item/${item.id}/entry`)
          }}
          className={entry}
        >
          Entry
        </Command.Item>
      </Command.Group>
      <Command.Group heading="Add a step" className={group}>
        <Command.Item
          value="prepare for me"
          onSelect={() => {
            onDone()
            jobs.prepare()
          }}
          className={entry}
        >
          <b className="font-semibold">Prepare for me</b>
          <span className="text-[12px] text-ink-2">proposes, runs and checks the whole worklist</span>
        </Command.Item>
        {run?.evaluation?.steps.map((step) => (
          <Command.Item
            key={step.id}
            value={`step ${step.id}`}
            keywords={[step.title, step.purpose]}
            onSelect={() => {
              onDone()
              jobs.addStep(step.id)
            }}
            className={entry}
          >
            <span className="shrink-0 font-semibold">{step.title}</span>
            <span className="truncate text-[12px] text-ink-2">{step.purpose}</span>
          </Command.Item>
        ))}
      </Command.Group>
    </>
  )
}
