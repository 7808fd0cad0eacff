import type { ItemEntry } from '../../item/entry.ts'
import type { CatalogueField, ReferenceTarget } from '../schema-catalogue.ts'
import type { Kind, Rulebook } from '../schema.ts'
import { fieldsOfKind, rowsOfKind } from './fields.ts'

type Fields = ItemEntry['fields']

/** What an entry may name of its own item, each by its name as it is packed. */
export type OwnNames = Readonly<Record<Exclude<ReferenceTarget, 'item' | 'stock'>, readonly string[]>>

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

/**
 * Every name that an entry says; what is no text is told elsewhere.
 * @example const names = referencesOf(entry, rulebook, kind).map(({ name }) => name)
 */
export function referencesOf(
  { fields, rows }: Pick<ItemEntry, 'fields' | 'rows'>,
  rulebook: Rulebook,
  kind: Pick<Kind, 'id'>,
): EntryReference[] {
  const ofRows = rowsOfKind(rulebook, kind)
  return [
    ...referencesIn(fields, fieldsOfKind(rulebook, kind), '', null),
    ...rows.flatMap((row, number) =>
      referencesIn(row.fields, ofRows?.fields ?? [], `${ofRows?.key ?? ''}[${number}].`, row.look),
    ),
  ]
}

function referencesIn(
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

/**
 * What is in stock under names: entries of some kinds, and objects where any will do.
 * @example const names = stockNames(rulebook, ['prop'])
 */
export const stockNames = ({ stock }: Pick<Rulebook, 'stock'>, ofKinds: readonly string[] | null): string[] => [
  ...stock.entries.filter(({ kind }) => ofKinds === null || ofKinds.includes(kind)).map(({ id }) => id),
  ...(ofKinds === null ? stock.objects.map(({ id }) => id) : []),
]

/**
 * Whether a name leads to a thing of the item itself, or to one in stock.
 * @example const others = references.filter((each) => !isOwnOrInStock(each, own, rulebook))
 */
export const isOwnOrInStock = ({ name, to, ofKinds }: EntryReference, own: OwnNames, rulebook: Rulebook): boolean =>
  to.some((target) => {
    if (target === 'item') return false
    return target === 'stock' ? stockNames(rulebook, ofKinds).includes(name) : own[target].includes(name)
  })
