import { countOpen } from '../../core/crate/waivers'
import type { CrateItem } from '../../core/crate/schema'
import type { Severity } from '../../core/rules/rule'
import { fitsPattern } from '../../core/support/name-pattern'
import { findingsOf } from '../crate/stage-status'
import type { ItemRun } from '../queries/runs'

/** How far an item is, the one that wants most attention first. */
export const fleetStates = ['halted', 'blocks', 'risky', 'unprepared', 'running', 'clear'] as const
export type FleetState = (typeof fleetStates)[number]

export const stateWords: Record<FleetState, string> = {
  halted: 'did not run',
  blocks: 'blocks',
  risky: 'risky',
  unprepared: 'not prepared',
  running: 'under way',
  clear: 'clear',
}

/** What a row tells of an item's run. */
export type RowRun = Pick<ItemRun, 'evaluation' | 'together' | 'state' | 'message'>

/** An item as one row of many. */
export interface FleetRow {
  item: CrateItem
  run: RowRun | undefined
  state: FleetState
  counts: Record<Severity, number>
}

/** The last row of each item: of many, only those of which something came are made anew. */
const lastRows = new WeakMap<CrateItem, { busy: boolean; row: FleetRow }>()

export function rowOf(item: CrateItem, run: RowRun | undefined, busy: boolean): FleetRow {
  const last = lastRows.get(item)
  if (last?.busy === busy && last.row.run === run) return last.row
  const counts = countOpen(findingsOf(item, run))
  const row = { item, run, counts, state: stateOf(item, run, busy, counts) }
  lastRows.set(item, { busy, row })
  return row
}

function stateOf(
  item: CrateItem,
  run: RowRun | undefined,
  busy: boolean,
  { blocks, risky }: FleetRow['counts'],
): FleetState {
  if (busy) return 'running'
  if (run?.state === 'failed' || run?.state === 'stopped') return 'halted'
  if (item.worklist.length === 0) return 'unprepared'
  if (!run?.evaluation || run.state === 'running') return 'running'
  return blocks > 0 ? 'blocks' : risky > 0 ? 'risky' : 'clear'
}

/** What of the rows is looked at. */
export interface FleetFilter {
  /** A part of a name, or a pattern with * and ?. */
  name: string
  state: FleetState | ''
  kind: string
}

export const noFilter: FleetFilter = { name: '', state: '', kind: '' }

export const shownRows = (rows: readonly FleetRow[], { name, state, kind }: FleetFilter): FleetRow[] =>
  rows.filter(
    (row) =>
      fitsPattern(row.item.name, name) &&
      (state === '' || row.state === state) &&
      (kind === '' || row.item.kind === kind),
  )

/** By what rows stand: the order of the crate, or a column either way. */
export interface FleetSort {
  by: 'item' | 'kind' | 'findings' | `gauge ${string}` | null
  descending: boolean
}

const byName = new Intl.Collator('en', { numeric: true, sensitivity: 'base' })

/** How near a gauge is to its limit; what has none, or did not run, stands last. */
export function gaugeShare({ run }: Pick<FleetRow, 'run'>, id: string): number {
  const gauge = run?.evaluation?.gauges.find((each) => each.id === id)
  return gauge ? gauge.value / Math.max(gauge.limit ?? Infinity, 1e-9) : -1
}

/** Rows in the order that is asked for; equals stay as they stood. */
export function sortedRows(rows: readonly FleetRow[], { by, descending }: FleetSort): FleetRow[] {
  if (by === null) return [...rows]
  const rank = ({ state, counts }: FleetRow): number =>
    (fleetStates.length - fleetStates.indexOf(state)) * 1e6 + counts.blocks * 1e4 + counts.risky * 100 + counts.note
  const compare = (a: FleetRow, b: FleetRow): number => {
    if (by === 'item') return byName.compare(a.item.name, b.item.name)
    if (by === 'kind') return byName.compare(a.item.kind, b.item.kind)
    if (by === 'findings') return rank(a) - rank(b)
    const id = by.slice('gauge '.length)
    return gaugeShare(a, id) - gaugeShare(b, id)
  }
  return rows.toSorted((a, b) => (descending ? compare(b, a) : compare(a, b)))
}

/** The sorting after a press on a column's head: up, down, and back to the crate's order. */
export const nextSort = (present: FleetSort, by: NonNullable<FleetSort['by']>): FleetSort => {
  const first = by === 'item' || by === 'kind' ? false : true
  if (present.by !== by) return { by, descending: first }
  return present.descending === first ? { by, descending: !first } : { by: null, descending: false }
}
