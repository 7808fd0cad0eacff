import { useState } from 'react'
import type { SingleCommand } from '../../core/crate/commands'
import type { CrateItem } from '../../core/crate/schema'
import { useCrate } from '../crate/use-crate'
import { runId, useItemRun } from '../queries/runs'
import { DialogFrame } from '../ui/dialog-frame'
import { plural } from '../ui/format'
import { tell } from '../ui/notify'
import { copyTo, linesOf, type Copied } from './copied'

interface CopyDialogProps {
  /** The items that get it; null while it is closed. */
  to: readonly CrateItem[] | null
  onClose: () => void
}

/** Copies a worklist, a step or lines of an entry from one item to those that are chosen. */
export function CopyDialog({ to, onClose }: CopyDialogProps) {
  const { crate, send } = useCrate()
  const withSteps = crate.items.filter(({ worklist }) => worklist.length > 0)
  const [fromId, setFromId] = useState('')
  const outside = withSteps.find(({ id }) => !to?.some((each) => each.id === id))
  const from = withSteps.find(({ id }) => id === fromId) ?? outside ?? withSteps.at(0)
  const run = useItemRun(runId(crate.id, from?.id ?? ''))
  const [what, setWhat] = useState('worklist')
  if (!to) return null
  const steps = run?.evaluation?.steps ?? []
  const entry = from?.worklist.find(({ id }) => id === what)
  const lines = from && entry ? linesOf(from, entry.id) : null
  const others = to.filter(({ id }) => id !== from?.id)

  const copy = async (data: FormData): Promise<void> => {
    if (!from) return
    const chosen = data.getAll('line').map(String)
    const copied: Copied =
      what === 'worklist'
        ? { what: 'worklist' }
        : lines
          ? { what: 'lines', entry: what, lines: chosen }
          : { what: 'step', entry: what }
    const order = steps.map(({ id }) => id)
    const commands = others.flatMap((each): SingleCommand[] => copyTo(from, copied, each, order))
    if (commands.length > 0 && (await send({ do: 'several', commands })))
      tell(`Copied from ${from.name} to ${plural(others.length, 'item')}. Undo takes it back at once.`)
    onClose()
  }

  return (
    <DialogFrame
      open
      title={others.length === 0 ? 'Copy to other items' : `Copy to ${plural(others.length, 'item')}`}
      action="Copy"
      disabled={!from || others.length === 0}
      onClose={onClose}
      onSubmit={(data) => void copy(data)}
    >
      {!from && <p>No item has a worklist yet: prepare one first.</p>}
      {from && (
        <>
          <label className="flex flex-col gap-1">
            <span className="caption">From</span>
            <select
              className="field py-1.5"
              value={from.id}
              onChange={(event) => {
                setFromId(event.target.value)
                setWhat('worklist')
              }}
            >
              {withSteps.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </select>
          </label>
          <label className="flex flex-col gap-1">
            <span className="caption">What</span>
            <select className="field py-1.5" value={what} onChange={(event) => setWhat(event.target.value)}>
              <option value="worklist">the whole worklist, {plural(from.worklist.length, 'step')}</option>
              {from.worklist.map(({ id, step }, at) => (
                <option key={id} value={id}>
                  {at + 1}. {steps.find((each) => each.id === step)?.title ?? step}
                </option>
              ))}
            </select>
          </label>
          {lines && (
            <fieldset className="max-h-52 relative overflow-y-auto">
              <legend className="caption">Lines of its entry</legend>
              {Object.entries(lines).map(([line, value]) => (
                <label
                  key={line}
                  className="flex items-center gap-2 border-b border-dashed border-edge py-1 text-[13px]"
                >
                  <input type="checkbox" name="line" value={line} defaultChecked />
                  <span className="num">{line}</span>
                  <span className="min-w-0 flex-1 truncate text-ink-2">{JSON.stringify(value)}</span>
                </label>
              ))}
              {Object.keys(lines).length === 0 && <p className="text-[13px] text-ink-2">It says nothing of its own.</p>}
            </fieldset>
          )}
          <p className="text-[13px] text-ink-2">
            {others.length === 0
              ? 'Only this item is chosen: choose those that get it as well.'
              : what === 'worklist'
                ? 'Their own worklists are replaced.'
                : 'Where the step is there already, it takes these settings; where not, it is put in.'}
          </p>
        </>
      )}
    </DialogFrame>
  )
}
