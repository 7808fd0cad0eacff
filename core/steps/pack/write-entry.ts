import type { Document } from '@gltf-transform/core'
import { z } from 'zod'
import { completeEntry } from '../../game/catalogue/complete-entry.ts'
import { entryFaults } from '../../game/catalogue/entry-faults.ts'
import { fieldsOfKind, rowsOfKind } from '../../game/catalogue/fields.ts'
import { withLines, withRows } from '../../game/catalogue/merge-entry.ts'
import { shownValue } from '../../game/catalogue/value-fault.ts'
import type { CatalogueField } from '../../game/schema-catalogue.ts'
import type { Kind, Rulebook } from '../../game/schema.ts'
import { entryRowSchema, type ItemEntry } from '../../item/entry.ts'
import { disagreements, madeOf, type Donor } from '../../operations/entry/donor-agreement.ts'
import { namesWithin, type NamesWithin } from '../../operations/entry/names-within.ts'
import { entryOf, setEntry } from '../../operations/entry/set-entry.ts'
import { lookNamesOf } from '../../operations/entry/entry-as-packed.ts'
import { plural } from '../../support/wording.ts'
import { defineStep } from '../step.ts'

const parameters = z.object({
  /** The stock entry that it starts from; empty for none. */
  from: z.string().max(64).default(''),
  /** Lines by the game's words; null takes one out. */
  fields: z.record(z.string().max(200), z.json()).default({}),
  /** Lines for looks; a row without lines takes one out, where the item had it from its source. */
  rows: z.array(entryRowSchema).max(1000).default([]),
})
type Parameters = z.infer<typeof parameters>

/** What the game's catalogue says of the item. */
export const writeEntry = defineStep<Parameters>({
  id: 'write-entry',
  version: 1,
  stage: 'pack',
  title: 'Write the entry',
  purpose:
    'Says what the game’s catalogue says of the item: the lines that its rulebook asks for, and those that may be.',
  parameters,
  fields: ({ rulebook, kind }) => [
    {
      type: 'choice',
      key: 'from',
      label: 'Start from',
      options: [
        { value: '', label: 'nothing' },
        ...rulebook.stock.entries
          .filter((each) => each.kind === kind.id)
          .map(({ id, title }) => ({ value: id, label: title })),
      ],
    },
  ],
  defaults: () => ({ from: '', fields: {}, rows: [] }),
  propose({ document, rulebook, kind }) {
    const looks = lookNamesOf(document)
    const said = completeEntry(entryOf(document), { rulebook, kind, itemName: 'item', looks })
    const missing = entryFaults(said, rulebook, kind, looks)
      .filter(({ rule }) => rule === 'entry-missing')
      .map(({ where }) => where)
    const names = namesWithin(document, kind, 'item', looks)
    const fields = Object.fromEntries(
      fieldsOfKind(rulebook, kind)
        .filter(({ key }) => missing.includes(key))
        .flatMap((field): [string, Parameters['fields'][string]][] => {
          const value = likely(field, names, rulebook, kind)
          return value === null ? [] : [[field.key, value]]
        }),
    )
    const asked = Object.keys(fields)
    return asked.length === 0
      ? []
      : [
          {
            parameters: { from: '', fields, rows: [] },
            reason: `The game’s catalogue asks for ${asked.join(', ')}; the likeliest stands there until you say it.`,
          },
        ]
  },
  async run({ document, rulebook, kind, parameters: { from, fields, rows } }) {
    const before = entryOf(document)
    const stock = rulebook.stock.entries.find(({ id }) => id === from)
    const like = before.like === undefined ? suitingDonor(stock?.like, document, rulebook, kind) : null
    const known = new Set(fieldsOfKind(rulebook, kind).map(({ key }) => key))
    const taken = Object.fromEntries(
      Object.entries(stock?.fields ?? {}).filter(
        ([key]) => known.has(key) && !rulebook.catalogue.fields.some((each) => each.key === key && each.unique),
      ),
    )
    const entry: ItemEntry = {
      ...before,
      ...(stock ? { from: stock.id } : {}),
      ...(like === null ? {} : { like: like.id }),
      fields: withLines({ ...taken, ...before.fields }, fields),
      rows: withRows(before.rows, rows),
    }
    setEntry(document, entry)
    const said = Object.keys(fields).length
    const ofRows = rowsOfKind(rulebook, kind)
    return {
      headline: plural(Object.keys(entry.fields).length, 'line'),
      details: [
        ...(stock ? [`Starts from ${stock.title}: ${plural(Object.keys(taken).length, 'line')} as it has them.`] : []),
        ...(from !== '' && !stock ? [`The game has no entry “${from}” to start from.`] : []),
        ...Object.entries(fields).map(([key, value]) =>
          value === null ? `${key} is taken out.` : `${key} is ${shownValue(value)}.`,
        ),
        ...(rows.length > 0 ? [`${ofRows?.key ?? 'Rows'}: ${plural(rows.length, 'row')}.`] : []),
        ...(said + rows.length === 0 && !stock ? ['What is usual stands in each line.'] : []),
      ],
      changed: true,
    }
  },
})

/** The donor of a stock entry, where it suits this item as well. */
function suitingDonor(id: string | undefined, document: Document, rulebook: Rulebook, kind: Kind): Donor | null {
  const donor = rulebook.stock.donors.find((each) => each.id === id)
  if (!donor || (donor.kinds !== null && !donor.kinds.includes(kind.id))) return null
  return disagreements(donor, madeOf(document, rulebook)).length === 0 ? donor : null
}

/** What a line that has to be there most likely says: as most of the kind in stock do, or the first that it may say. */
function likely(
  { key, value }: CatalogueField,
  names: NamesWithin,
  { stock }: Rulebook,
  kind: Kind,
): Parameters['fields'][string] {
  const inStock = stock.entries.filter((entry) => entry.kind === kind.id && Object.hasOwn(entry.fields, key))
  switch (value.sort) {
    case 'choice':
    case 'number':
    case 'yes-no': {
      const [first] = inStock
      if (first) return first.fields[key]
      return value.sort === 'choice' ? value.of[0].word : value.sort === 'number' ? value.least : false
    }
    case 'reference':
      for (const target of value.to) {
        const [name] = target === 'item' || target === 'stock' ? [] : names[target]
        if (name !== undefined) return name
      }
      return null
    default:
      return null
  }
}
