import type { EntryRow, ItemEntry } from '../../item/entry.ts'

type Fields = ItemEntry['fields']

/** Lines with others said over them; null takes one out. */
export const withLines = (fields: Readonly<Fields>, change: Readonly<Fields>): Fields =>
  Object.fromEntries(Object.entries({ ...fields, ...change }).filter(([, value]) => value !== null))

/** Rows with others said over them, line by line, by the look that they are of. */
export function withRows(rows: readonly EntryRow[], change: readonly EntryRow[]): EntryRow[] {
  const merged = [...rows]
  for (const { look, fields } of change) {
    const at = merged.findIndex((row) => row.look === look)
    const row = { look, fields: withLines(at >= 0 ? merged[at].fields : {}, fields) }
    if (at >= 0) merged[at] = row
    else merged.push(row)
  }
  return merged
}

/**
 * Settings of the step that writes an entry, with more said in them: what null takes out stays null, since it may stand
 * in what the step is given.
 */
export function withSaid(
  settings: { fields?: Fields; rows?: EntryRow[] },
  change: { fields?: Fields; rows?: EntryRow[] },
): { fields: Fields; rows: EntryRow[] } {
  const rows = [...(settings.rows ?? [])]
  for (const { look, fields } of change.rows ?? []) {
    const at = rows.findIndex((row) => row.look === look)
    if (at >= 0) rows[at] = { look, fields: { ...rows[at].fields, ...fields } }
    else rows.push({ look, fields })
  }
  return { fields: { ...settings.fields, ...change.fields }, rows }
}
