import { z } from 'zod'
import { keptFileSchema } from '../game/game.ts'
import { rulebookSchema } from '../game/schema.ts'
import { presetsSchema } from './preset.ts'
import { itemSchema, type Crate, type CrateItem } from './schema.ts'

/**
 * What is other in one crate than in another: only the fields that differ, and of the items only those that do. An item
 * that is as it was stands as its id.
 */
export const crateChangeSchema = z.object({
  name: z.string().min(1).max(200).optional(),
  rulebook: rulebookSchema.optional(),
  stock: keptFileSchema.nullable().optional(),
  presets: presetsSchema.optional(),
  items: z.array(z.union([z.string(), itemSchema])).optional(),
})
export type CrateChange = z.infer<typeof crateChangeSchema>

const same = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b)

/**
 * What makes one crate into another, in proportion to what differs.
 * @example
 *   const back = changeBetween(after, before)
 *   withChange(after, back) // is `before` again, byte for byte
 */
export function changeBetween(from: Crate, to: Crate): CrateChange {
  const known = new Map(from.items.map((item) => [item.id, item]))
  const items = to.items.map((item) => (same(known.get(item.id), item) ? item.id : item))
  const asBefore = items.length === from.items.length && items.every((item, at) => item === from.items[at].id)
  return {
    ...(from.name === to.name ? {} : { name: to.name }),
    ...(same(from.rulebook, to.rulebook) ? {} : { rulebook: to.rulebook }),
    ...(same(from.stock, to.stock) ? {} : { stock: to.stock }),
    ...(same(from.presets ?? [], to.presets ?? []) ? {} : { presets: to.presets ?? [] }),
    ...(asBefore ? {} : { items }),
  }
}

/**
 * The crate with a change made to it; the one given stays as it is. An item that it no longer has is left out.
 * @example const renamed = withChange(crate, { name: 'Otterby Landing' })
 */
export function withChange(crate: Crate, { items, ...fields }: CrateChange): Crate {
  const known = new Map(crate.items.map((item) => [item.id, item]))
  const itemOf = (item: string | CrateItem): CrateItem | undefined =>
    typeof item === 'string' ? known.get(item) : item
  return {
    ...crate,
    ...fields,
    ...(items ? { items: items.flatMap((item) => itemOf(item) ?? []) } : {}),
  }
}
