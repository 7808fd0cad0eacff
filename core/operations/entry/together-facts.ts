import type { Document } from '@gltf-transform/core'
import { fieldsOfKind } from '../../game/catalogue/fields.ts'
import { isOwnOrInStock, referencesOf } from '../../game/catalogue/references.ts'
import type { TogetherFacts } from '../../game/catalogue/together-facts.ts'
import type { Kind, Rulebook } from '../../game/schema.ts'
import { entryAsPacked, lookNamesOf } from './entry-as-packed.ts'
import { namesWithin } from './names-within.ts'

/**
 * What the other items of a pack have to know of an item.
 * @example togetherFaults(items.map((item) => togetherFacts(item.document, rulebook, item.kind, item.name)), rulebook)
 */
export function togetherFacts(document: Document, rulebook: Rulebook, kind: Kind, itemName: string): TogetherFacts {
  const { fields, rows, events } = entryAsPacked(document, rulebook, kind, itemName)
  const known = fieldsOfKind(rulebook, kind)
  const own = namesWithin(document, kind, itemName, lookNamesOf(document))
  return {
    name: itemName,
    kind: kind.id,
    unique: Object.fromEntries(
      known
        .filter((field) => field.unique && Object.hasOwn(fields, field.key))
        .map(({ key }) => [key, JSON.stringify(fields[key])]),
    ),
    things: events.length > 0 ? [...new Set([...own.part, ...own.group])] : [],
    events,
    names: referencesOf({ fields, rows }, rulebook, kind)
      .filter(({ to }) => to.includes('item'))
      .filter((reference) => !isOwnOrInStock(reference, own, rulebook))
      .map(({ where, name, ofKinds, look, key, list, at }) => ({ where, name, ofKinds, look, key, list, at })),
  }
}
