import { CircleStop, RotateCcw, Trash2 } from 'lucide-react'
import { Link } from 'react-router'
import type { CrateItem } from '../../core/crate/schema'
import { findKind } from '../../core/game/load'
import { slotsFor } from '../../core/game/slots'
import { ItemPicture } from '../crate/item-picture'
import { stopOne } from '../crate/many-jobs'
import { findingsOf, worstStatus } from '../crate/stage-status'
import { useCrate } from '../crate/use-crate'
import { requestAgain, runId, useProgress } from '../queries/runs'
import { formatCount, formatMegabytes, plural } from '../ui/format'
import { GaugeBar } from '../ui/gauge-bar'
import { StatusMark } from '../ui/status-mark'
import { useFleetHome } from './fleet-home'
import type { FleetRow } from './fleet-rows'

export function ItemName({ item }: { item: CrateItem }) {
  const { crateId, game } = useFleetHome()
  return (
    <Link to={`/crate/${crateId}/item/${item.id}`} className="flex items-center gap-2.5 font-semibold hover:underline">
      <ItemPicture crateId={crateId} item={item} game={game} size={44} />
      <span className="min-w-0 leading-tight [overflow-wrap:anywhere]" id={`name-of-${item.id}`}>
        {item.name}
        <span className="block text-[12px] font-normal text-ink-2">
          {item.worklist.length === 0 ? 'not prepared' : plural(item.worklist.length, 'step')}
        </span>
      </span>
    </Link>
  )
}

/** In a game of numbered places: which thing an item stands in for; one that another has changes places. */
export function SlotChoice({ item }: { item: CrateItem }) {
  const { crate, rulebook, send } = useCrate()
  return (
    <label className="flex items-center gap-1.5 text-[12.5px] whitespace-nowrap text-ink-2">
      instead of
      <select
        className="field max-w-[150px]"
        aria-label={`Slot of ${item.name}`}
        value={item.slot ?? ''}
        onChange={(event) => void send({ do: 'set-slot', item: item.id, slot: event.target.value })}
      >
        {item.slot === undefined && <option value="">none is free</option>}
        {slotsFor(rulebook, item.kind).map(({ slot, title }) => {
          const other = crate.items.find((each) => each.slot === slot && each.id !== item.id)
          return (
            <option key={slot} value={slot}>
              {slot} {title}
              {other ? ` (${other.name})` : ''}
            </option>
          )
        })}
      </select>
    </label>
  )
}

export function KindChoice({ item }: { item: CrateItem }) {
  const {
    game: { rulebook },
    send,
  } = useFleetHome()
  return (
    <select
      className="field"
      aria-label={`Kind of ${item.name}`}
      value={item.kind}
      onChange={(event) => void send({ do: 'set-kind', item: item.id, kind: event.target.value })}
    >
      {!findKind(rulebook, item.kind) && <option value={item.kind}>{item.kind} (not in this game)</option>}
      {rulebook.kinds.map((kind) => (
        <option key={kind.id} value={kind.id}>
          {kind.id}
        </option>
      ))}
    </select>
  )
}

/** What the game's catalogue says of it. */
export function EntryLink({ item }: { item: CrateItem }) {
  const { crateId } = useFleetHome()
  return (
    <Link
      className="link text-[13px]"
      to={`/crate/${crateId}/item/${item.id}/entry`}
      aria-describedby={`name-of-${item.id}`}
    >
      Entry
    </Link>
  )
}

export function Remove({ item }: { item: CrateItem }) {
  const { send } = useFleetHome()
  return (
    <button
      type="button"
      className="rounded p-1 text-ink-2 hover:text-block"
      aria-label={`Remove ${item.name}`}
      title="Remove; Undo brings it back"
      onClick={() => void send({ do: 'remove-item', item: item.id })}
    >
      <Trash2 size={16} aria-hidden="true" />
    </button>
  )
}

export function GaugeCell({ row: { run }, gauge: id }: { row: FleetRow; gauge: string }) {
  const gauge = run?.evaluation?.gauges.find((each) => each.id === id)
  if (!gauge) return <span className="text-ink-2">{run?.state === 'running' ? '…' : '–'}</span>
  return (
    <span className="flex flex-col gap-1">
      <GaugeBar gauge={gauge} compact />
      <span className="num text-[12px] whitespace-nowrap text-ink-2">
        {gauge.unit === 'bytes'
          ? `${(gauge.value / 1024 / 1024).toFixed(1)} / ${formatMegabytes(gauge.limit ?? 0)}`
          : `${formatCount(gauge.value)} / ${gauge.limit === null ? '–' : formatCount(gauge.limit)}`}
      </span>
    </span>
  )
}

/** What was found; while something runs how far it is, with a way to stop it. */
export function Findings({ row: { item, run, counts } }: { row: FleetRow }) {
  const { crateId, game } = useFleetHome()
  const id = runId(crateId, item.id)
  const progress = useProgress(id)
  if (progress)
    return (
      <span className="flex items-center gap-1.5 text-[13px] text-ink-2">
        <button
          type="button"
          className="rounded p-0.5 hover:text-block"
          aria-label={`Stop ${item.name}`}
          title="Stop; what was finished is kept"
          onClick={() => stopOne(crateId, item.id)}
        >
          <CircleStop size={16} aria-hidden="true" />
        </button>
        {progress.fraction > 0 ? (
          <span className="num">{Math.round(progress.fraction * 100)} %</span>
        ) : (
          <span>in the queue</span>
        )}
      </span>
    )
  if (run?.state === 'stopped' || run?.state === 'failed')
    return (
      <span className="flex items-center gap-1.5 text-[13px]">
        <button
          type="button"
          className="rounded p-0.5 text-ink-2 hover:text-spruce"
          aria-label={`Run ${item.name} again`}
          title="Run again"
          onClick={() => requestAgain(crateId, item, game, false)}
        >
          <RotateCcw size={16} aria-hidden="true" />
        </button>
        <span className="min-w-0">{run.state === 'stopped' ? 'stopped' : run.message}</span>
      </span>
    )
  if (!run?.evaluation) return <span className="text-ink-2">not run</span>
  const findings = findingsOf(item, run)
  const waived = findings.filter((finding) => finding.waived !== null).length
  return (
    <span className="flex items-center gap-2 text-[13px]">
      <StatusMark status={worstStatus(findings, true)} />
      <span>
        {counts.blocks > 0 && (
          <b className="text-block">
            {counts.blocks} block{counts.risky + counts.note > 0 ? ', ' : ''}
          </b>
        )}
        {counts.risky > 0 && (
          <span className="text-risk">
            {counts.risky} risky{counts.note > 0 ? ', ' : ''}
          </span>
        )}
        {counts.note > 0 && (
          <span className="text-ink-2">
            {counts.note} note{counts.note === 1 ? '' : 's'}
          </span>
        )}
        {counts.blocks + counts.risky + counts.note === 0 && <span className="text-clear">clear</span>}
        {waived > 0 && <span className="text-ink-2">, {waived} waived</span>}
      </span>
    </span>
  )
}
