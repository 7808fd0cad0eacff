import type { EntryRow, ItemEntry } from '../../item/entry.ts'
import { nameInWords } from '../../support/wording.ts'
import type { CatalogueField } from '../schema-catalogue.ts'
import type { Kind, Rulebook } from '../schema.ts'
import { fieldsOfKind, rowsOfKind } from './fields.ts'

type Fields = ItemEntry['fields']

/** What an entry is about: what the item is called in the game, and the names of its looks. */
export interface EntryOf {
  rulebook: Rulebook
  kind: Pick<Kind, 'id'>
  itemName: string
  looks: readonly string[]
}

/**
 * An entry as it is packed: what nobody said takes its usual value or the item's name in words, lines stand in the
 * rulebook's order, what the rulebook does not know stands last. An entry that was read as a whole is left as it is.
 *
 * @example completeEntry(undefined, { rulebook, kind, itemName: 'mooring_bell', looks: ['plain'] }).fields
 */
export function completeEntry(entry: ItemEntry | undefined, of: EntryOf): ItemEntry {
  const said: ItemEntry = entry ?? { fields: {}, rows: [], events: [] }
  if (said.whole) return said
  const { rulebook, kind, itemName } = of
  const rows = rowsOfKind(rulebook, kind)
  return {
    ...said,
    fields: completed(said.fields, fieldsOfKind(rulebook, kind), nameInWords(itemName)),
    rows: rows ? completedRows(said.rows, rows, of) : said.rows,
  }
}

function completedRows(
  said: readonly EntryRow[],
  { fields, everyLook }: NonNullable<Rulebook['catalogue']['rows']>,
  { itemName, looks }: EntryOf,
): EntryRow[] {
  const name = nameInWords(itemName)
  const inWords = (look: string): string => (looks.length > 1 ? `${name}, ${nameInWords(look).toLowerCase()}` : name)
  const missing = everyLook ? looks.filter((look) => !said.some((row) => row.look === look)) : []
  const all = [...said, ...missing.map((look) => ({ look, fields: {} }))]
  // Looks in the item's order; rows of what is no look stand last.
  const placeOf = ({ look }: EntryRow): number => (looks.includes(look) ? looks.indexOf(look) : looks.length)
  return all
    .sort((a, b) => placeOf(a) - placeOf(b))
    .map(({ look, fields: own }) => ({ look, fields: completed(own, fields, inWords(look)) }))
}

function completed(said: Fields, fields: readonly CatalogueField[], name: string): Fields {
  const known = new Set(fields.map(({ key }) => key))
  return Object.fromEntries([
    ...fields.flatMap((field): [string, Fields[string]][] => {
      if (Object.hasOwn(said, field.key)) return [[field.key, said[field.key]]]
      if (field.usual !== null) return [[field.key, field.usual]]
      if (!field.fromName || field.value.sort !== 'text') return []
      return [[field.key, [...name].slice(0, field.value.longest).join('')]]
    }),
    ...Object.entries(said).filter(([key]) => !known.has(key)),
  ])
}
