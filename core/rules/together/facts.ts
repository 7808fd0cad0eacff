import type { Document } from '@gltf-transform/core'
import { z } from 'zod'
import { itemEventSchema } from '../../item/entry.ts'
import type { Kind, Rulebook } from '../../game/schema.ts'
import { fieldsOfKind } from '../../game/catalogue/fields.ts'
import { entryAsPacked } from '../../operations/entry/entry-as-packed.ts'
import { namesWithin } from '../../operations/entry/names-within.ts'

/** What the other items of a pack have to know of one. */
export const togetherFactsSchema = z.object({
  name: z.string(),
  kind: z.string(),
  /** Lines that no other thing may say as well, by their keys. */
  unique: z.record(z.string(), z.string()),
  things: z.array(z.string()),
  events: z.array(itemEventSchema),
})
export type TogetherFacts = z.infer<typeof togetherFactsSchema>

/** What the other items of a pack have to know of an item. */
export function togetherFacts(document: Document, rulebook: Rulebook, kind: Kind, itemName: string): TogetherFacts {
  const { fields, events } = entryAsPacked(document, rulebook, kind, itemName)
  const unique = fieldsOfKind(rulebook, kind).filter((field) => field.unique && Object.hasOwn(fields, field.key))
  const { part, group } = namesWithin(document, kind, itemName)
  return {
    name: itemName,
    kind: kind.id,
    unique: Object.fromEntries(unique.map(({ key }) => [key, JSON.stringify(fields[key])])),
    things: events.length > 0 ? [...new Set([...part, ...group])] : [],
    events,
  }
}
