import { recordFields, wordFor } from '../schema-records.ts'
import type { CatalogueField } from '../schema-catalogue.ts'
import type { Kind, Rulebook } from '../schema.ts'

const isOf = (kinds: readonly string[] | null, kind: Pick<Kind, 'id'>): boolean =>
  kinds === null || kinds.includes(kind.id)

/**
 * The lines that an entry of a kind has besides its files, in the order of the rulebook.
 * @example fieldsOfKind(rulebook, { id: 'prop' }).map(({ key }) => key)
 */
export const fieldsOfKind = ({ catalogue }: Rulebook, kind: Pick<Kind, 'id'>): CatalogueField[] =>
  catalogue.fields.filter(({ kinds }) => isOf(kinds, kind))

/**
 * The lines for each look that an entry of a kind has; null where it has none.
 * @example const rows = rowsOfKind(rulebook, kind)?.fields ?? []
 */
export const rowsOfKind = (
  { catalogue }: Rulebook,
  kind: Pick<Kind, 'id'>,
): NonNullable<Rulebook['catalogue']['rows']> | null =>
  catalogue.rows && isOf(catalogue.rows.kinds, kind) ? catalogue.rows : null

/**
 * The game's words for what an entry says of its files, in the order in which they are written.
 * @example const own = Object.keys(words).filter((key) => !fileKeys(rulebook).includes(key))
 */
export const fileKeys = ({ files }: Rulebook): string[] =>
  Object.keys(recordFields.entry)
    .filter((field) => field !== 'like' && field !== 'events')
    .map((field) => wordFor(field, files.words.entry))

/**
 * The game's words for the donor and the events of an entry.
 * @example const taken = [...fileKeys(rulebook), ...behaviourKeys(rulebook)]
 */
export const behaviourKeys = ({ files, behaviour }: Rulebook): string[] => [
  ...(behaviour.likeDonor ? [wordFor('like', files.words.entry)] : []),
  ...(behaviour.events.when.length > 0 ? [wordFor('events', files.words.entry)] : []),
]

/**
 * Every key that an entry of the game may have at its top, whatever its kind, in the order in which they are written.
 *
 * @example const passedOver = keys.filter((key) => !entryKeys(rulebook).includes(key))
 */
export const entryKeys = (rulebook: Rulebook): string[] => [
  ...fileKeys(rulebook),
  ...rulebook.catalogue.fields.map(({ key }) => key),
  ...(rulebook.catalogue.rows ? [rulebook.catalogue.rows.key] : []),
  ...behaviourKeys(rulebook),
]
