import { useMemo, useState } from 'react'
import { useNavigate } from 'react-router'
import { takeOutParts } from '../../core/crate/take-parts'
import type { CrateItem } from '../../core/crate/schema'
import { useCrate } from '../crate/use-crate'
import { formatCount } from '../ui/format'
import { tellError } from '../ui/notify'
import type { SourceReport } from '../workers/source-messages'
import { fitsPattern } from '../../core/support/name-pattern'
import { stateWords, useOfficial } from './use-official'
import type { Picks } from './use-picks'

interface PartListProps {
  item: CrateItem
  source: SourceReport
  picks: Picks
  areaPicking: boolean
  onAreaPicking: (on: boolean) => void
}

/**
 * The parts of a source: picked by name, material, click or area; kept, left out, or taken out as an item of their own.
 */
export function PartList({ item, source, picks, areaPicking, onAreaPicking }: PartListProps) {
  const { crate, rulebook, send } = useCrate()
  const navigate = useNavigate()
  const [typed, setTyped] = useState('')
  const [material, setMaterial] = useState('')
  const official = useOfficial(item)
  const materials = useMemo(
    () => [...new Set(source.parts.flatMap((part) => part.material.split(', ').filter(Boolean)))].sort(),
    [source.parts],
  )
  const shown = source.parts.filter(
    (part) => fitsPattern(part.name, typed) && (material === '' || part.material.split(', ').includes(material)),
  )
  const picked = source.parts.filter((part) => picks.has(part.name)).map((part) => part.name)
  const allShownPicked = shown.length > 0 && shown.every((part) => picks.has(part.name))

  /** One step at the front of the worklist says which parts go or stay; asked again, it is changed. */
  const sendStep = async (step: 'drop-strays' | 'keep-parts', parts: string[], reason: string): Promise<void> => {
    const present = item.worklist.find((entry) => entry.step === step)
    const before =
      present && Array.isArray(present.parameters['parts']) ? (present.parameters['parts'] as string[]) : []
    const merged = step === 'drop-strays' ? [...new Set([...before, ...parts])] : parts
    if (present)
      await send({
        do: 'edit-step',
        item: item.id,
        entry: present.id,
        parameters: { ...present.parameters, parts: merged },
      })
    else {
      const parameters =
        step === 'keep-parts'
          ? { parts }
          : {
              cameras: false,
              lamps: false,
              empties: false,
              groundShade: false,
              endBones: false,
              doubles: false,
              farParts: false,
              parts,
            }
      await send({ do: 'add-steps', item: item.id, at: 0, entries: [{ step, on: true, parameters, reason }] })
    }
    picks.set([])
  }
  const takeOut = async (parts: string[], kind: string, name: string): Promise<void> => {
    const made = takeOutParts(
      item,
      parts,
      name,
      kind,
      crate.items.map((each) => each.id),
    )
    await send({ do: 'add-items', items: [made] })
    await navigate(`/crate/${crate.id}/item/${made.id}?stage=intake`)
  }
  const additions = rulebook.kinds.find((kind) => kind.addsTo === 'official')
  const fresh = official.comparison?.parts.filter((part) => part.state === 'new').map((part) => part.name) ?? []

  return (
    <div className="flex min-h-0 min-w-0 flex-col border-l border-edge px-3 pt-2">
      <div className="flex items-center justify-between gap-2 pb-1">
        <p className="caption">{picked.length === 0 ? 'Parts' : `${picked.length} picked`}</p>
        <button type="button" className="link" aria-pressed={areaPicking} onClick={() => onAreaPicking(!areaPicking)}>
          {areaPicking ? 'Drag in the yard…' : 'Pick an area'}
        </button>
      </div>
      <div className="flex gap-1.5 pb-1">
        <input
          className="field min-w-0 flex-1"
          aria-label="Part name or pattern"
          placeholder="name, or post_*"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
        {materials.length > 1 && (
          <select
            className="field w-[104px]"
            aria-label="Material"
            value={material}
            onChange={(event) => setMaterial(event.target.value)}
          >
            <option value="">any material</option>
            {materials.map((each) => (
              <option key={each} value={each}>
                {each}
              </option>
            ))}
          </select>
        )}
      </div>
      <ul className="min-h-0 flex-1 relative overflow-y-auto" aria-label="Parts of the source" tabIndex={0}>
        <li className="border-b border-edge py-0.5">
          <label className="flex items-center gap-2 text-ink-2">
            <input
              type="checkbox"
              checked={allShownPicked}
              onChange={() =>
                picks.set(
                  allShownPicked
                    ? picked.filter((name) => !shown.some((part) => part.name === name))
                    : [...picked, ...shown.map((part) => part.name)],
                )
              }
            />
            all {shown.length} shown
          </label>
        </li>
        {shown.map((part) => {
          const state = official.comparison?.parts.find((each) => each.name === part.name)
          return (
            <li key={part.name} className="border-b border-dashed border-edge py-0.5">
              <label className="grid grid-cols-[auto_1fr_auto] items-center gap-2">
                <input type="checkbox" checked={picks.has(part.name)} onChange={() => picks.toggle(part.name)} />
                <span className="truncate" title={`${part.name} · ${part.material || 'no material'}`}>
                  {part.name}
                  {part.stray && <i className="text-ink-2"> · {part.stray}</i>}
                  {state && (
                    <b className={`font-semibold ${state.state === 'new' ? 'text-spruce' : 'text-ink-2'}`}>
                      {' '}
                      · {stateWords[state.state]}
                    </b>
                  )}
                </span>
                <span className="num text-ink-2">{formatCount(part.triangles)}</span>
              </label>
            </li>
          )
        })}
        {official.comparison?.gone.map((name) => (
          <li key={name} className="border-b border-dashed border-edge py-0.5 text-ink-2">
            {name} · of the official one, not here
          </li>
        ))}
        {source.others.map((other) => (
          <li
            key={other.name}
            className="flex justify-between gap-2 border-b border-dashed border-edge py-0.5 text-ink-2"
          >
            <span className="truncate">{other.name}</span>
            <i>{other.what}</i>
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1 py-1.5">
        {picked.length > 0 ? (
          <>
            <button
              type="button"
              className="link"
              onClick={() => void sendStep('keep-parts', picked, 'Picked by hand.').catch(tellError)}
            >
              Keep only these
            </button>
            <button
              type="button"
              className="link"
              onClick={() => void sendStep('drop-strays', picked, 'Picked by hand.').catch(tellError)}
            >
              Leave out
            </button>
            <button
              type="button"
              className="link"
              onClick={() => void takeOut(picked, item.kind, `${item.name}, ${picked[0]}`).catch(tellError)}
            >
              Take out as an item
            </button>
          </>
        ) : (
          <>
            <select
              className="field max-w-[150px]"
              aria-label="Compare with an official object"
              value={official.chosen}
              disabled={official.busy}
              onChange={(event) => void official.choose(event.target.value)}
            >
              <option value="">Compare with…</option>
              {rulebook.stock.objects.map((object) => (
                <option key={object.id} value={`stock ${object.id}`}>
                  {object.title}
                </option>
              ))}
              {crate.items
                .filter((each) => each.id !== item.id)
                .map((each) => (
                  <option key={each.id} value={`item ${each.id}`}>
                    {each.name}
                  </option>
                ))}
            </select>
            {official.comparison && fresh.length > 0 && (
              <button
                type="button"
                className="link"
                onClick={() =>
                  void takeOut(fresh, additions?.id ?? item.kind, `${item.name} addition`).catch(tellError)
                }
              >
                Take what is new ({fresh.length})
              </button>
            )}
            {official.comparison && fresh.length === 0 && <span className="text-ink-2">Nothing is new.</span>}
          </>
        )}
      </div>
    </div>
  )
}
