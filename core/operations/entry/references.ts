import type { Document } from '@gltf-transform/core'
import type { CatalogueField, ReferenceTarget } from '../../game/schema-catalogue.ts'
import type { Kind, Rulebook } from '../../game/schema.ts'
import type { ItemEntry } from '../../item/entry.ts'
import { lookNamesOf } from './entry-as-packed.ts'
import { namesWithin } from './names-within.ts'

type Fields = ItemEntry['fields']

/** A name in an entry, and what it may be the name of. */
export interface EntryReference {
  /** As the game writes it: `goes_with[1]`. */
  where: string
  name: string
  to: readonly ReferenceTarget[]
  ofKinds: string[] | null
  /** The look whose row says it; null at the top. */
  look: string | null
  key: string
  /** The whole list that it stands in, and where; null and 0 where it stands alone. */
  list: Fields[string][] | null
  at: number
}

/** Every name that lines of an entry say; what is no text is told elsewhere. */
export function referencesIn(
  said: Readonly<Fields>,
  fields: readonly CatalogueField[],
  place: string,
  look: string | null,
): EntryReference[] {
  return fields.flatMap(({ key, value: allowed }): EntryReference[] => {
    const value = said[key]
    if (allowed.sort === 'reference')
      return typeof value === 'string' && value !== ''
        ? [{ ...allowed, where: place + key, name: value, look, key, list: null, at: 0 }]
        : []
    if (allowed.sort !== 'list' || allowed.of.sort !== 'reference' || !Array.isArray(value)) return []
    const { of } = allowed
    return value.flatMap((each, at) =>
      typeof each === 'string' && each !== ''
        ? [{ ...of, where: `${place}${key}[${at}]`, name: each, look, key, list: value, at }]
        : [],
    )
  })
}

/** What a reference may name without other items: things of the item, and what is in stock. */
export function namesFor(
  ofKinds: readonly string[] | null,
  document: Document,
  { stock }: Rulebook,
  kind: Kind,
  itemName: string,
): Record<Exclude<ReferenceTarget, 'item'>, string[]> {
  return {
    ...namesWithin(document, kind, itemName, lookNamesOf(document)),
    stock: [
      ...stock.entries.filter((each) => ofKinds === null || ofKinds.includes(each.kind)).map(({ id }) => id),
      ...(ofKinds === null ? stock.objects.map(({ id }) => id) : []),
    ],
  }
}

/** Whether a name leads to a thing of the item itself, or to one in stock. */
export function isOwnOrInStock(
  { name, to, ofKinds }: EntryReference,
  document: Document,
  rulebook: Rulebook,
  kind: Kind,
  itemName: string,
): boolean {
  const known = namesFor(ofKinds, document, rulebook, kind, itemName)
  return to.some((target) => target !== 'item' && known[target].includes(name))
}
