import type { ItemEntry } from '../../item/entry.ts'
import { nearest, orNearest } from '../nearest.ts'
import type { CatalogueField } from '../schema-catalogue.ts'
import type { Kind, Rulebook } from '../schema.ts'
import { behaviourKeys, entryKeys, fieldsOfKind, fileKeys, rowsOfKind } from './fields.ts'
import { far } from './stock-range.ts'
import { shownValue, valueFaults } from './value-fault.ts'

/** What is wrong at one place of an entry. */
export interface EntryFault {
  rule: string
  severity: 'blocks' | 'risky' | 'note'
  title: string
  /** The place, as the game writes it: `price`, `colours[1].title`. */
  where: string
  value: string
  limit: string
  message: string
  why: string
  stage: 'pack'
  place: { parts: string[]; bounds: null; spots: [number, number, number][]; texture: null }
  /** The step that mends it; null where only the modder knows. */
  mend: { step: string; label: string; parameters: Record<string, unknown> } | null
}

/** What is said of an entry has no place in the yard. */
export const nowhereInPack: Pick<EntryFault, 'stage' | 'place'> = {
  stage: 'pack',
  place: { parts: [], bounds: null, spots: [], texture: null },
}

/**
 * Writing the entry so as to mend it.
 * @example const mend = entryMend({ fields: { price: 40 } })
 */
export const entryMend = (settings: EntryMend): EntryFault['mend'] => ({
  step: 'write-entry',
  label: 'Write the entry',
  parameters: { ...settings },
})

/** Lines to set, or to take out where they are null; rows by the look that they are of, to take out where null. */
export interface EntryMend {
  fields?: Record<string, unknown>
  rows?: Record<string, Record<string, unknown> | null>
}

const why = {
  unknown: 'The game passes over what it does not know, and says nothing.',
  missing: 'Without it the game does not take the item into its catalogue.',
  value: 'The game reads this line as it stands, and refuses what does not fit.',
  look: 'A row belongs to a look of the item; the game finds it by that.',
}

/**
 * What is wrong with an entry by itself: keys, missing lines, sorts of values, ranges, rows of looks. Names of other
 * things are looked up elsewhere. The same for a form, a text and a packed file.
 *
 * @param written what somebody wrote of it, where the rest is usual: that is not written over by a mend
 *
 * @example entryFaults({ fields: { titel: 'Gate' }, rows: [] }, rulebook, kind, ['plain'])[0].limit
 */
export function entryFaults(
  { fields, rows }: Pick<ItemEntry, 'fields' | 'rows'>,
  rulebook: Rulebook,
  kind: Kind,
  looks: readonly string[],
  written: ItemEntry['fields'] = fields,
): EntryFault[] {
  const known = fieldsOfKind(rulebook, kind)
  const ofRows = rowsOfKind(rulebook, kind)
  const places = new Map<string, string>([
    ...(rulebook.catalogue.rows?.fields ?? []).map(({ key }): [string, string] => [
      key,
      `a line of ${rulebook.catalogue.rows?.key ?? ''}`,
    ]),
    ...rulebook.catalogue.fields.map(({ key, kinds }): [string, string] => [key, `of ${(kinds ?? []).join(', ')}`]),
  ])
  const inTheWay = new Set([...fileKeys(rulebook), ...behaviourKeys(rulebook)])
  const rowsKey = rulebook.catalogue.rows?.key ?? ''
  // A rulebook that says nothing of its catalogue does not know what would be passed over.
  const hasCatalogue = rulebook.catalogue.fields.length > 0
  const lines = withoutKey(fields, rowsKey)
  return [
    ...(Object.hasOwn(fields, rowsKey) ? [rowsNotListed(rowsKey, fields[rowsKey])] : []),
    ...(hasCatalogue
      ? unknownKeys(lines, '', known, (key) => (inTheWay.has(key) ? null : (places.get(key) ?? null)), [
          ...entryKeys(rulebook).filter((key) => !rulebook.catalogue.fields.some((each) => each.key === key)),
          ...known.map(({ key }) => key),
        ]).map((fault) => withMend(fault, lines, written, (changed) => ({ fields: changed })))
      : []),
    ...linesFaults(fields, '', known, kind).map(({ change, ...fault }) => ({
      ...fault,
      ...nowhereInPack,
      mend: change ? entryMend({ fields: change }) : null,
    })),
    ...known.flatMap((field) => far(field, fields[field.key], rulebook, kind)),
    ...(ofRows ? rowFaults(rows, ofRows, kind, looks) : strayRows(rows, rulebook, kind)),
  ]
}

const withoutKey = (fields: ItemEntry['fields'], key: string): ItemEntry['fields'] =>
  Object.fromEntries(Object.entries(fields).filter(([each]) => each !== key))

const rowsNotListed = (key: string, value: unknown): EntryFault => ({
  rule: 'entry-type',
  severity: 'blocks',
  title: valueTitles.type,
  where: key,
  value: shownValue(value),
  limit: 'a list of rows',
  message: `“${key}” is ${shownValue(value)}; the game reads a list of rows there`,
  why: why.value,
  ...nowhereInPack,
  mend: entryMend({ fields: { [key]: null } }),
})

type Plain = Omit<EntryFault, 'mend' | 'stage' | 'place'>
type Change = Record<string, unknown>

/** Keys that the game does not read there, with the one that was probably meant. */
function unknownKeys(
  said: Readonly<Record<string, unknown>>,
  place: string,
  known: readonly CatalogueField[],
  belongs: (key: string) => string | null,
  near: readonly string[],
): (Plain & { key: string; instead: string | null })[] {
  return Object.keys(said)
    .filter((key) => !known.some((field) => field.key === key))
    .map((key) => {
      const where = belongs(key)
      const instead = where === null ? nearest(key, near) : null
      const sameLetters = instead !== null && instead.toLowerCase() === key.toLowerCase()
      return {
        rule: where === null ? 'entry-unknown' : 'entry-misplaced',
        severity: 'risky' as const,
        title: where === null ? 'Line the game does not know' : 'Line in the wrong place',
        where: place + key,
        value: key,
        limit: instead ?? 'a key of the game',
        message:
          where === null
            ? 'The game passes over ' +
              `“${place}${key}”${sameLetters ? `; it is written “${instead}”` : orNearest(instead)}`
            : `The game passes over “${place}${key}” here; it is ${where}`,
        why: why.unknown,
        key,
        instead: known.some((field) => field.key === instead) ? instead : null,
      }
    })
}

function withMend(
  { key, instead, ...fault }: ReturnType<typeof unknownKeys>[number],
  said: Readonly<Record<string, unknown>>,
  written: Readonly<Record<string, unknown>>,
  mend: (change: Change) => EntryMend,
): EntryFault {
  // What stands under the right key already is not written over.
  const moved = instead !== null && !Object.hasOwn(written, instead)
  return {
    ...fault,
    ...nowhereInPack,
    mend: entryMend(mend(moved ? { [key]: null, [instead]: said[key] } : { [key]: null })),
  }
}

/** Missing lines, and values that do not fit. */
function linesFaults(
  said: Readonly<Record<string, unknown>>,
  place: string,
  known: readonly CatalogueField[],
  kind: Kind,
): (Plain & { change: Change | null })[] {
  return known.flatMap((field): (Plain & { change: Change | null })[] => {
    const where = place + field.key
    const value = said[field.key]
    if (!Object.hasOwn(said, field.key) || (field.needed && value === ''))
      return field.needed
        ? [
            {
              rule: 'entry-missing',
              severity: 'blocks',
              title: 'Line missing',
              where,
              value: value === '' ? 'empty' : 'missing',
              limit: field.title,
              message: `The entry says no “${where}”: ${field.title.toLowerCase()} of ${kind.title.toLowerCase()}`,
              why: why.missing,
              change: field.usual === null ? null : { [field.key]: field.usual },
            },
          ]
        : []
    return valueFaults(field.value, value, where).map(({ wrong, instead, ...fault }) => ({
      ...fault,
      rule: `entry-${wrong}`,
      title: valueTitles[wrong],
      where,
      why: why.value,
      change: instead === undefined ? null : { [field.key]: instead },
    }))
  })
}

const valueTitles = {
  type: 'Value of the wrong sort',
  range: 'Number out of range',
  choice: 'Word the game does not know',
  length: 'Text too long',
  pattern: 'Text of the wrong form',
  count: 'Too few or too many',
  twice: 'Listed twice',
}

function rowFaults(
  rows: ItemEntry['rows'],
  { key, lookKey, fields, everyLook }: NonNullable<Rulebook['catalogue']['rows']>,
  kind: Kind,
  looks: readonly string[],
): EntryFault[] {
  const faults: EntryFault[] = []
  const seen = new Set<string>()
  for (const [number, row] of rows.entries()) {
    const place = `${key}[${number}].`
    const common = {
      ...nowhereInPack,
      severity: 'blocks' as const,
      where: `${place}${lookKey}`,
      value: shownValue(row.look),
      why: why.look,
    }
    if (!looks.includes(row.look))
      faults.push({
        ...common,
        rule: 'entry-row-look',
        title: 'Row of no look',
        limit: looks.join(', '),
        message:
          `“${place}${lookKey}” is “${shownValue(row.look)}”, and the item has no such ` +
          `look${orNearest(nearest(row.look, looks))}`,
        mend: entryMend({ rows: { [row.look]: null } }),
      })
    else if (seen.has(row.look))
      faults.push({
        ...common,
        rule: 'entry-row-twice',
        title: 'Two rows of one look',
        limit: 'one row a look',
        message: `“${key}” has two rows of “${row.look}”`,
        mend: null,
      })
    seen.add(row.look)
    const mend = (change: Change): EntryMend => ({ rows: { [row.look]: change } })
    faults.push(
      ...unknownKeys(row.fields, place, fields, () => null, [lookKey, ...fields.map((field) => field.key)]).map(
        (fault) => withMend(fault, row.fields, row.fields, mend),
      ),
      ...linesFaults(row.fields, place, fields, kind).map(({ change, ...fault }) => ({
        ...fault,
        ...nowhereInPack,
        mend: change ? entryMend(mend(change)) : null,
      })),
    )
  }
  for (const look of everyLook ? looks : [])
    if (!seen.has(look))
      faults.push({
        ...nowhereInPack,
        rule: 'entry-row-missing',
        severity: 'blocks',
        title: 'Look without a row',
        where: key,
        value: look,
        limit: 'a row for each look',
        message: `“${key}” has no row for the look “${look}”`,
        why: why.missing,
        mend: entryMend({ rows: { [look]: {} } }),
      })
  return faults
}

const strayRows = (rows: ItemEntry['rows'], { catalogue }: Rulebook, kind: Kind): EntryFault[] =>
  rows.length === 0 || !catalogue.rows
    ? []
    : [
        {
          ...nowhereInPack,
          rule: 'entry-misplaced',
          severity: 'risky',
          title: 'Line in the wrong place',
          where: catalogue.rows.key,
          value: catalogue.rows.key,
          limit: (catalogue.rows.kinds ?? []).join(', '),
          message:
            `The game passes over “${catalogue.rows.key}” of ${kind.title.toLowerCase()}; it is of ` +
            `${(catalogue.rows.kinds ?? []).join(', ')}`,
          why: why.unknown,
          mend: entryMend({ rows: Object.fromEntries(rows.map(({ look }) => [look, null])) }),
        },
      ]
