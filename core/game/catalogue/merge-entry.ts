import type { EntryRow, ItemEntry } from '../../item/entry.ts'
import type { Rulebook } from '../schema.ts'

type Fields = ItemEntry['fields']

/** What is said of an entry over what it says already: null takes a line or a row out. */
export interface EntryChange {
  /** A stock entry that it starts from; empty for none. */
  from: string
  fields: Fields
  /** Lines of rows, by the look that they are of. */
  rows: Record<string, Fields | null>
}

/**
 * What an entry says once more is said of it. Of the stock entry that it starts from everything is taken that its kind
 * has and that need not be said by one thing alone; what the entry said before stands over that.
 *
 * @example const said = saidOver(entryOf(document), { from: 'stove', fields: {}, rows: {} }, rulebook, known)
 */
export function saidOver(
  before: ItemEntry,
  { from, fields, rows }: EntryChange,
  { stock, catalogue }: Rulebook,
  known: ReadonlySet<string>,
): Pick<ItemEntry, 'from' | 'fields' | 'rows'> {
  const begun = stock.entries.find(({ id }) => id === from)
  const own = new Set(catalogue.fields.filter(({ unique }) => unique).map(({ key }) => key))
  const taken = Object.entries(begun?.fields ?? {}).filter(([key]) => known.has(key) && !own.has(key))
  return {
    ...(begun ? { from: begun.id } : before.from === undefined ? {} : { from: before.from }),
    fields: withLines({ ...Object.fromEntries(taken), ...before.fields }, fields),
    rows: withRows(before.rows, rows),
  }
}

const withLines = (fields: Readonly<Fields>, change: Readonly<Fields>): Fields =>
  Object.fromEntries(Object.entries({ ...fields, ...change }).filter(([, value]) => value !== null))

function withRows(rows: readonly EntryRow[], change: EntryChange['rows']): EntryRow[] {
  const changed = rows.map(({ look, fields }) => ({ look, fields: withLines(fields, change[look] ?? {}) }))
  const added = Object.entries(change).filter(([look]) => !rows.some((row) => row.look === look))
  return [...changed, ...added.map(([look, fields]) => ({ look, fields: withLines({}, fields ?? {}) }))].filter(
    ({ look }) => change[look] !== null,
  )
}
