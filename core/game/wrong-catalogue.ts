import { entryFaults } from './catalogue/entry-faults.ts'
import { behaviourKeys, fileKeys } from './catalogue/fields.ts'
import { valueFaults } from './catalogue/value-fault.ts'
import type { Contradiction } from './contradictions.ts'
import type { CatalogueField } from './schema-catalogue.ts'
import type { Rulebook } from './schema.ts'

type Path = Contradiction['path']

/**
 * Where a catalogue, events, donors or stock entries speak of what the rulebook does not have.
 * @example wrongCatalogue(rulebook) // []
 */
export const wrongCatalogue = (rulebook: Rulebook): Contradiction[] => [
  ...wrongKeys(rulebook),
  ...wrongFields(rulebook.catalogue.fields, ['catalogue', 'fields']),
  ...wrongFields(rulebook.catalogue.rows?.fields ?? [], ['catalogue', 'rows', 'fields']),
  ...wrongEvents(rulebook),
  ...wrongDonors(rulebook),
  ...wrongStockEntries(rulebook),
]

/** Two lines under one key, or one under a key that says something of the files. */
function wrongKeys(rulebook: Rulebook): Contradiction[] {
  const { fields, rows } = rulebook.catalogue
  const taken = new Set([...fileKeys(rulebook), ...behaviourKeys(rulebook), 'like', 'events'])
  const told = (keys: { key: string; path: Path }[], known: ReadonlySet<string>): Contradiction[] => {
    const seen = new Set(known)
    return keys.flatMap(({ key, path }) => {
      const twice = seen.has(key)
      seen.add(key)
      return twice ? [{ path, message: `an entry has “${key}” for something else already` }] : []
    })
  }
  return [
    ...told(
      [
        ...fields.map(({ key }, number) => ({ key, path: ['catalogue', 'fields', number, 'key'] })),
        ...(rows ? [{ key: rows.key, path: ['catalogue', 'rows', 'key'] }] : []),
      ],
      taken,
    ),
    ...told(
      (rows?.fields ?? []).map(({ key }, number) => ({ key, path: ['catalogue', 'rows', 'fields', number, 'key'] })),
      new Set([rows?.lookKey ?? '']),
    ),
  ]
}

/** What a line says unasked has to be something that it may say. */
const wrongFields = (fields: readonly CatalogueField[], path: Path): Contradiction[] =>
  fields.flatMap((field, number): Contradiction[] => {
    const faults = field.usual === null ? [] : valueFaults(field.value, field.usual, field.key)
    const names = field.value.sort === 'reference' && field.usual !== null
    return [
      ...faults.slice(0, 1).map(({ message }) => ({ path: [...path, number, 'usual'], message })),
      ...(names ? [{ path: [...path, number, 'usual'], message: 'no item has a thing of that name unasked' }] : []),
      ...(field.fromName && field.value.sort !== 'text'
        ? [{ path: [...path, number, 'fromName'], message: `“${field.key}” is no text, and begins as a name` }]
        : []),
    ]
  })

function wrongEvents({ behaviour: { events } }: Rulebook): Contradiction[] {
  const twice = (words: readonly { word: string }[], list: string): Contradiction[] =>
    words.flatMap(({ word }, number) =>
      words.findIndex((each) => each.word === word) < number
        ? [{ path: ['behaviour', 'events', list, number], message: `“${word}” is listed twice` }]
        : [],
    )
  return [
    ...twice(events.when, 'when'),
    ...twice(events.do, 'do'),
    ...events.when.flatMap(({ word, cause, after }, number): Contradiction[] => {
      const path = ['behaviour', 'events', 'when', number, 'after']
      if (cause !== 'follows') return []
      if (after === null) return [{ path, message: `“${word}” follows, and it is not said on what` }]
      return events.do.some((each) => each.word === after)
        ? []
        : [{ path, message: `“${word}” follows on “${after}”, which no event does` }]
    }),
  ]
}

/** Asked to be like what there may not be. */
const wrongDonors = ({ behaviour, kinds }: Rulebook): Contradiction[] =>
  kinds.flatMap(({ id, donorAsked }, number) =>
    donorAsked && !behaviour.likeDonor
      ? [{ path: ['kinds', number, 'donorAsked'], message: `the kind “${id}” has to be like a donor, and nothing may` }]
      : [],
  )

/** Entries of things in stock keep to the same catalogue; names of other things are not looked up. */
const wrongStockEntries = (rulebook: Rulebook): Contradiction[] =>
  rulebook.stock.entries.flatMap(({ id, kind: of, fields }, number): Contradiction[] => {
    const path = ['stock', 'entries', number]
    const kind = rulebook.kinds.find((each) => each.id === of)
    if (!kind) return []
    const faults = entryFaults(
      { fields, rows: [] },
      { ...rulebook, catalogue: { ...rulebook.catalogue, rows: null } },
      kind,
      [],
    )
    return [
      ...faults
        .filter(({ severity, rule }) => severity === 'blocks' && rule !== 'entry-missing')
        .slice(0, 1)
        .map(({ message }) => ({ path, message: `“${id}”: ${message}` })),
      ...(rulebook.stock.entries.findIndex((each) => each.id === id) < number
        ? [{ path: [...path, 'id'], message: `“${id}” is listed twice` }]
        : []),
    ]
  })
