import type { Document } from '@gltf-transform/core'
import { z } from 'zod'
import { completeEntry } from '../../game/catalogue/complete-entry.ts'
import { entryFaults } from '../../game/catalogue/entry-faults.ts'
import { fieldsOfKind } from '../../game/catalogue/fields.ts'
import { saidOver } from '../../game/catalogue/merge-entry.ts'
import { shownValue } from '../../game/catalogue/value-fault.ts'
import type { CatalogueField } from '../../game/schema-catalogue.ts'
import type { Kind, Rulebook } from '../../game/schema.ts'
import type { ItemEntry } from '../../item/entry.ts'
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
  /** Lines of rows, by the look that they are of; null takes a row out. */
  rows: z.record(z.string().max(200), z.record(z.string().max(200), z.json()).nullable()).default({}),
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
  defaults: () => ({ from: '', fields: {}, rows: {} }),
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
            parameters: { from: '', fields, rows: {} },
            reason: `The game’s catalogue asks for ${asked.join(', ')}; the likeliest stands there until you say it.`,
          },
        ]
  },
  async run({ document, rulebook, kind, parameters: { from, fields, rows } }) {
    const before = entryOf(document)
    const stock = rulebook.stock.entries.find(({ id }) => id === from)
    const known = new Set(fieldsOfKind(rulebook, kind).map(({ key }) => key))
    const like = before.like === undefined ? suitingDonor(stock?.like, document, rulebook, kind) : null
    const entry: ItemEntry = {
      ...before,
      ...(like === null ? {} : { like: like.id }),
      ...saidOver(before, { from, fields, rows }, rulebook, known),
    }
    setEntry(document, entry)
    const ofRows = Object.keys(rows).length
    return {
      headline: plural(Object.keys(entry.fields).length, 'line'),
      details: [
        ...(stock
          ? [`Starts from ${stock.title}: ${plural(Object.keys(stock.fields).length, 'line')} of its own.`]
          : []),
        ...(from !== '' && !stock ? [`The game has no entry “${from}” to start from.`] : []),
        ...Object.entries(fields).map(([key, value]) =>
          value === null ? `${key} is taken out.` : `${key} is ${shownValue(value)}.`,
        ),
        ...(ofRows > 0 ? [`${rulebook.catalogue.rows?.key ?? 'Rows'}: ${plural(ofRows, 'row')}.`] : []),
        ...(Object.keys(fields).length + ofRows === 0 && !stock ? ['What is usual stands in each line.'] : []),
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
