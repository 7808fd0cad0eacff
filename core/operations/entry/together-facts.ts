import type { Document } from '@gltf-transform/core'
import { fieldsOfKind, rowsOfKind } from '../../game/catalogue/fields.ts'
import type { TogetherFacts } from '../../game/catalogue/together-facts.ts'
import type { Kind, Rulebook } from '../../game/schema.ts'
import { entryAsPacked } from './entry-as-packed.ts'
import { namesWithin } from './names-within.ts'
import { isOwnOrInStock, referencesIn } from './references.ts'

/** What the other items of a pack have to know of an item. */
export function togetherFacts(document: Document, rulebook: Rulebook, kind: Kind, itemName: string): TogetherFacts {
  const { fields, rows, events } = entryAsPacked(document, rulebook, kind, itemName)
  const known = fieldsOfKind(rulebook, kind)
  const { part, group } = namesWithin(document, kind, itemName)
  const ofRows = rowsOfKind(rulebook, kind)
  const references = [
    ...referencesIn(fields, known, '', null),
    ...rows.flatMap((row, number) =>
      referencesIn(row.fields, ofRows?.fields ?? [], `${ofRows?.key ?? ''}[${number}].`, row.look),
    ),
  ]
  return {
    name: itemName,
    kind: kind.id,
    unique: Object.fromEntries(
      known
        .filter((field) => field.unique && Object.hasOwn(fields, field.key))
        .map(({ key }) => [key, JSON.stringify(fields[key])]),
    ),
    things: events.length > 0 ? [...new Set([...part, ...group])] : [],
    events,
    names: references
      .filter(({ to }) => to.includes('item'))
      .filter((reference) => !isOwnOrInStock(reference, document, rulebook, kind, itemName))
      .map(({ where, name, ofKinds, look, key, list, at }) => ({ where, name, ofKinds, look, key, list, at })),
  }
}
