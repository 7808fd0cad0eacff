import type { CrateItem } from '../../core/crate/schema'
import { useManyJob } from '../crate/many-jobs'
import { useCrate } from '../crate/use-crate'
import { plural } from '../ui/format'
import { ProgressStrip } from '../ui/progress-strip'
import { fleetStates, stateWords, type FleetFilter, type FleetRow, type FleetState } from './fleet-rows'

interface FleetBarProps {
  rows: readonly FleetRow[]
  shown: readonly FleetRow[]
  filter: FleetFilter
  onFilter: (filter: FleetFilter) => void
  selected: readonly CrateItem[]
  onSelectNone: () => void
  onPrepare: (items: readonly CrateItem[]) => void
  onChange: () => void
  onCopy: () => void
  onKeepPreset: (item: CrateItem) => void
  onPresets: () => void
  onRemove: () => void
}

/** What is looked at, and what can be done to those that are chosen. */
export function FleetBar(props: FleetBarProps) {
  const { rows, selected, onPrepare, onPresets } = props
  const { crate } = useCrate()
  const job = useManyJob((state) => (state.job?.crateId === crate.id ? state.job : null))
  const unprepared = rows.filter(({ state }) => state === 'unprepared').map(({ item }) => item)
  return (
    <div className="flex flex-col gap-2">
      {job && (
        <ProgressStrip
          title={job.title}
          doing={`${job.done} of ${plural(job.of, 'item')}`}
          fraction={job.done / job.of}
          of="of the items"
          onStop={job.stop}
        />
      )}
      <div className="flex min-h-[34px] flex-wrap items-center gap-2 text-[13px]">
        {selected.length === 0 ? (
          <>
            {unprepared.length > 0 && (
              <button
                type="button"
                className="button-main"
                disabled={job !== null}
                onClick={() => onPrepare(unprepared)}
              >
                {unprepared.length === rows.length
                  ? `Prepare ${rows.length === 1 ? 'it' : `all ${rows.length}`}`
                  : `Prepare ${unprepared.length} more`}
              </button>
            )}
            {rows.length > 1 && <Filters {...props} />}
            <button type="button" className="button ml-auto" onClick={onPresets}>
              Presets{crate.presets?.length ? ` (${crate.presets.length})` : ''}…
            </button>
          </>
        ) : (
          <Chosen {...props} busy={job !== null} />
        )}
      </div>
    </div>
  )
}

function Filters({ rows, shown, filter, onFilter }: FleetBarProps) {
  const kinds = [...new Set(rows.map(({ item }) => item.kind))].sort()
  const states = fleetStates.filter((state) => rows.some((row) => row.state === state))
  return (
    <>
      <input
        className="field w-[150px]"
        aria-label="Item name or pattern"
        placeholder="name, or post_*"
        value={filter.name}
        onChange={(event) => onFilter({ ...filter, name: event.target.value })}
      />
      <select
        className="field"
        aria-label="State"
        value={filter.state}
        onChange={(event) => onFilter({ ...filter, state: event.target.value as FleetState | '' })}
      >
        <option value="">any state</option>
        {states.map((state) => (
          <option key={state} value={state}>
            {stateWords[state]} ({rows.filter((row) => row.state === state).length})
          </option>
        ))}
      </select>
      {kinds.length > 1 && (
        <select
          className="field"
          aria-label="Kind"
          value={filter.kind}
          onChange={(event) => onFilter({ ...filter, kind: event.target.value })}
        >
          <option value="">any kind</option>
          {kinds.map((kind) => (
            <option key={kind} value={kind}>
              {kind}
            </option>
          ))}
        </select>
      )}
      <span className="text-ink-2" role="status">
        <span className="num">{shown.length === rows.length ? rows.length : `${shown.length} of ${rows.length}`}</span>{' '}
        items
      </span>
    </>
  )
}

function Chosen({
  selected,
  busy,
  onSelectNone,
  onPrepare,
  onChange,
  onCopy,
  onKeepPreset,
  onRemove,
}: FleetBarProps & { busy: boolean }) {
  const [only] = selected
  return (
    <>
      <b className="num">{selected.length} chosen</b>
      <button type="button" className="button-main" disabled={busy} onClick={() => onPrepare(selected)}>
        {selected.every(({ worklist }) => worklist.length === 0) ? 'Prepare' : 'Prepare anew'}
      </button>
      <button type="button" className="button" onClick={onChange}>
        Change…
      </button>
      <button type="button" className="button" onClick={onCopy}>
        Copy to {selected.length === 1 ? 'it' : 'them'}…
      </button>
      {selected.length === 1 && (
        <button type="button" className="button" onClick={() => onKeepPreset(only)}>
          Keep as preset
        </button>
      )}
      <button type="button" className="button" onClick={onRemove}>
        Remove
      </button>
      <button type="button" className="link ml-auto" onClick={onSelectNone}>
        Choose none
      </button>
    </>
  )
}
