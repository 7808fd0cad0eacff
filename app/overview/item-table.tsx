import { createColumnHelper, tableFeatures, useTable } from '@tanstack/react-table'
import { Trash2 } from 'lucide-react'
import { useMemo } from 'react'
import { Link } from 'react-router'
import type { CrateItem } from '../../core/crate/schema'
import { slotsFor } from '../../core/game/slots'
import { findKind } from '../../core/game/load'
import { countOpen } from '../../core/crate/waivers'
import { ItemPicture } from '../crate/item-picture'
import { runId, useRuns, type ItemRun } from '../queries/runs'
import { findingsOf, worstStatus } from '../crate/stage-status'
import { useCrate } from '../crate/use-crate'
import { GaugeBar } from '../ui/gauge-bar'
import { StatusMark } from '../ui/status-mark'

interface Row {
  item: CrateItem
  run: ItemRun | undefined
}

const features = tableFeatures({})
const helper = createColumnHelper<typeof features, Row>()

/** What counts most in a game: what it is built of, and what its pictures take. */
const gaugesOf = (ofHalfBlocks: boolean, withMaps: boolean): { id: string; label: string }[] => [
  ofHalfBlocks ? { id: 'half-blocks', label: 'Half-blocks' } : { id: 'triangles', label: 'Triangles' },
  ...(withMaps ? [{ id: 'texture-memory', label: 'Texture memory' }] : []),
]

const columnsOf = (gauges: readonly { id: string; label: string }[]) =>
  helper.columns([
    helper.display({ id: 'item', header: 'Item', cell: ({ row }) => <ItemName item={row.original.item} /> }),
    helper.display({
      id: 'kind',
      header: 'Kind',
      cell: ({ row }) => (
        <div className="flex flex-col items-start gap-1">
          <KindChoice item={row.original.item} />
          <SlotChoice item={row.original.item} />
        </div>
      ),
    }),
    ...gauges.map(({ id, label }) =>
      helper.display({ id, header: label, cell: ({ row }) => <GaugeCell row={row.original} gauge={id} /> }),
    ),
    helper.display({ id: 'findings', header: 'Findings', cell: ({ row }) => <Findings row={row.original} /> }),
    helper.display({ id: 'entry', header: 'Entry', cell: ({ row }) => <EntryLink item={row.original.item} /> }),
    helper.display({
      id: 'remove',
      header: () => <span className="sr-only">Remove</span>,
      cell: ({ row }) => <Remove item={row.original.item} />,
    }),
  ])

/** Made once: cells of columns that were made anew would be taken out of the page and put in again at each progress. */
const columnSets = new Map<string, ReturnType<typeof columnsOf>>()

function columnsFor(ofHalfBlocks: boolean, withMaps: boolean): ReturnType<typeof columnsOf> {
  const key = `${ofHalfBlocks} ${withMaps}`
  const known = columnSets.get(key) ?? columnsOf(gaugesOf(ofHalfBlocks, withMaps))
  columnSets.set(key, known)
  return known
}

/** The crate's items, each with its gauges and what was found. */
export function ItemTable() {
  const { crate, rulebook } = useCrate()
  const columns = columnsFor(rulebook.halfBlocks !== null, rulebook.maps.roles.length > 0)
  const runs = useRuns((state) => state.runs)
  const rows = useMemo<Row[]>(
    () => crate.items.map((item) => ({ item, run: runs[runId(crate.id, item.id)] })),
    [crate, runs],
  )
  const table = useTable({ features, data: rows, columns })
  return (
    <table className="w-full text-left">
      <thead>
        {table.getHeaderGroups().map((group) => (
          <tr key={group.id} className="caption border-b border-edge-strong">
            {group.headers.map((header) => (
              <th key={header.id} scope="col" className="py-1.5 pr-4 font-semibold">
                <table.FlexRender header={header} />
              </th>
            ))}
          </tr>
        ))}
      </thead>
      <tbody>
        {table.getRowModel().rows.map((row) => (
          <tr key={row.id} className="border-b border-dashed border-edge">
            {row.getAllCells().map((cell) => (
              <td key={cell.id} className="py-2 pr-4">
                <table.FlexRender cell={cell} />
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** In a game of numbered places: which thing an item stands in for; one that another has changes places. */
function SlotChoice({ item }: { item: CrateItem }) {
  const { crate, rulebook, send } = useCrate()
  if (!rulebook.slots) return null
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

function KindChoice({ item }: { item: CrateItem }) {
  const { rulebook, send } = useCrate()
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
function EntryLink({ item }: { item: CrateItem }) {
  const { crate } = useCrate()
  return (
    <Link
      className="link text-[13px]"
      to={`/crate/${crate.id}/item/${item.id}/entry`}
      aria-describedby={`name-of-${item.id}`}
    >
      Entry
    </Link>
  )
}

function Remove({ item }: { item: CrateItem }) {
  const { send } = useCrate()
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

function ItemName({ item }: { item: CrateItem }) {
  const { crate, game } = useCrate()
  return (
    <Link to={`/crate/${crate.id}/item/${item.id}`} className="flex items-center gap-2.5 font-semibold hover:underline">
      <ItemPicture crateId={crate.id} item={item} game={game} size={44} />
      <span className="leading-tight" id={`name-of-${item.id}`}>
        {item.name}
        <span className="block text-[12px] font-normal text-ink-2">
          {item.worklist.length === 0 ? 'not prepared' : `${item.worklist.length} steps`}
        </span>
      </span>
    </Link>
  )
}

function GaugeCell({ row: { run }, gauge: id }: { row: Row; gauge: string }) {
  const gauge = run?.evaluation?.gauges.find((each) => each.id === id)
  if (!gauge) return <span className="text-ink-2">{run?.state === 'running' ? '…' : '–'}</span>
  return (
    <span className="flex flex-col gap-1">
      <GaugeBar gauge={gauge} compact />
      <span className="num text-[12px] text-ink-2">
        {gauge.unit === 'bytes' ? (gauge.value / 1024 / 1024).toFixed(1) : gauge.value.toLocaleString('en-GB')} /{' '}
        {gauge.unit === 'bytes'
          ? `${((gauge.limit ?? 0) / 1024 / 1024).toFixed(1)} MB`
          : gauge.limit?.toLocaleString('en-GB')}
      </span>
    </span>
  )
}

function Findings({ row: { item, run } }: { row: Row }) {
  if (!run?.evaluation)
    return (
      <span className="text-ink-2">
        {run?.state === 'running'
          ? `${Math.round((run.progress?.fraction ?? 0) * 100)} %`
          : run?.state === 'failed'
            ? run.message
            : 'not run'}
      </span>
    )
  const findings = findingsOf(item, run)
  const counts = countOpen(findings)
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
