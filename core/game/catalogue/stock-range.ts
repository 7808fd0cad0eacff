import { formatCount } from '../../support/wording.ts'
import type { CatalogueField } from '../schema-catalogue.ts'
import type { Kind, Rulebook } from '../schema.ts'
import { nowhereInPack, type EntryFault } from './entry-faults.ts'

/** How many times the range of what the game has counts as far outside of it. */
const FAR_TIMES = 3

/** The least and the most that things in stock say of a number: those of the kind, or all where it has none. */
export function stockRange(
  field: Pick<CatalogueField, 'key'>,
  { stock }: Pick<Rulebook, 'stock'>,
  kind: Pick<Kind, 'id'>,
): { least: number; most: number; of: number } | null {
  const valuesOf = (entries: Rulebook['stock']['entries']): number[] =>
    entries.flatMap(({ fields }) => {
      const value = fields[field.key]
      return typeof value === 'number' ? [value] : []
    })
  const own = valuesOf(stock.entries.filter((entry) => entry.kind === kind.id))
  const values = own.length > 0 ? own : valuesOf(stock.entries)
  return values.length === 0 ? null : { least: Math.min(...values), most: Math.max(...values), of: values.length }
}

/** A number that lies far outside of what things in stock say. */
export function far(field: CatalogueField, value: unknown, rulebook: Rulebook, kind: Kind): EntryFault[] {
  if (field.value.sort !== 'number' || typeof value !== 'number') return []
  const range = stockRange(field, rulebook, kind)
  if (!range) return []
  const isFar = value > Math.max(range.most * FAR_TIMES, range.most) || value < range.least / FAR_TIMES
  if (!isFar) return []
  const between =
    range.least === range.most ? formatCount(range.most) : `${formatCount(range.least)} to ${formatCount(range.most)}`
  const shown = `${between} ${field.value.unit}`.trim()
  return [
    {
      ...nowhereInPack,
      rule: 'entry-unusual',
      severity: 'note',
      title: 'Far from what the game has',
      where: field.key,
      value: `${formatCount(value)} ${field.value.unit}`.trim(),
      limit: shown,
      message: `“${field.key}” is ${formatCount(value)}; what the game has of its own says ${shown}`,
      why: 'Players see it beside what the game has of its own.',
      mend: null,
    },
  ]
}
