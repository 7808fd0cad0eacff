import type { CatalogueField } from '../schema-catalogue.ts'
import type { Kind, Rulebook } from '../schema.ts'
import { nowhereInPack, type EntryFault } from './entry-faults.ts'
import { formatNumber } from './value-fault.ts'

/** How many times the range of what the game has counts as far outside of it. */
const FAR_TIMES = 3

/**
 * The least and the most that things in stock say of a number: those of the kind, or all where it has none.
 * @example const range = stockRange({ key: 'price' }, rulebook, kind)
 */
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

/** A bound so many times further from nought, or nearer to it, whichever leads out of the range. */
const away = (bound: number, way: 1 | -1): number => (bound * way > 0 ? bound * FAR_TIMES : bound / FAR_TIMES)

/**
 * A number that the game takes, and that lies far outside of what things in stock say.
 * @example const unusual = far(field, entry.fields[field.key], rulebook, kind)
 */
export function far(field: CatalogueField, value: unknown, rulebook: Rulebook, kind: Kind): EntryFault[] {
  if (field.value.sort !== 'number' || typeof value !== 'number') return []
  if (value < field.value.least || value > field.value.most) return []
  const range = stockRange(field, rulebook, kind)
  if (!range) return []
  const [low, high] = [away(range.least, -1), away(range.most, 1)]
  if (value >= low && value <= high) return []
  const between =
    range.least === range.most
      ? formatNumber(range.most)
      : `${formatNumber(range.least)} to ${formatNumber(range.most)}`
  const shown = `${between} ${field.value.unit}`.trim()
  return [
    {
      ...nowhereInPack,
      rule: 'entry-unusual',
      severity: 'note',
      title: 'Far from what the game has',
      where: field.key,
      value: `${formatNumber(value)} ${field.value.unit}`.trim(),
      limit: shown,
      message: `“${field.key}” is ${formatNumber(value)}; what the game has of its own says ${shown}`,
      why: 'Players see it beside what the game has of its own.',
      mend: null,
    },
  ]
}
