import { describe, expect, it } from 'vitest'
import { rulebookSchema, type Rulebook } from '../schema.ts'
import { kindOf, rulebookById } from '../load.ts'
import type { EntryRow, ItemEntry } from '../../item/entry.ts'
import { completeEntry } from './complete-entry.ts'
import { entryFaults, type EntryFault, type EntryMend } from './entry-faults.ts'
import { fieldsOfKind } from './fields.ts'
import { saidOver } from './merge-entry.ts'

const tarn = rulebookById('tarn-and-tiller')
const parish = rulebookById('pegboard-parish')

/** The game with a row of lines for each look. */
const withRows: Rulebook = rulebookSchema.parse({
  ...tarn,
  catalogue: {
    ...tarn.catalogue,
    rows: {
      key: 'paints',
      title: 'Paints',
      lookKey: 'paint',
      everyLook: true,
      fields: [
        { key: 'called', title: 'Called', value: { sort: 'text', longest: 12 }, needed: true },
        { key: 'extra', title: 'Extra', value: { sort: 'number', least: 0, most: 50 }, usual: 0 },
      ],
    },
  },
})

const faults = (
  fields: ItemEntry['fields'],
  { rulebook = tarn, kind = 'prop', looks = ['plain'], rows = [] as EntryRow[], written = fields } = {},
): EntryFault[] => entryFaults({ fields, rows }, rulebook, kindOf(rulebook, kind), looks, written)
const told = (found: readonly EntryFault[]): string[] => found.map(({ rule, where }) => `${rule} ${where}`)

/** An entry after a mend was taken. */
function mended(entry: Pick<ItemEntry, 'fields' | 'rows'>, fault: EntryFault, rulebook = tarn): ItemEntry {
  const { fields = {}, rows = {} } = (fault.mend?.parameters ?? {}) as EntryMend
  const known = new Set(rulebook.catalogue.fields.map(({ key }) => key))
  return {
    events: [],
    ...saidOver(
      { ...entry, events: [] },
      { from: '', fields: fields as ItemEntry['fields'], rows: rows as Record<string, ItemEntry['fields'] | null> },
      rulebook,
      known,
    ),
  }
}

describe('lines of an entry', () => {
  it('that fit are silent', () => {
    expect(faults({ title: 'Otter bell', price: 95, shelf: 'deck', weatherproof: false })).toEqual([])
  })

  it('under a key that is nearly one of the game’s are moved there', () => {
    const [fault] = faults({ Title: 'Otter bell' })
    expect(fault).toMatchObject({ rule: 'entry-unknown', severity: 'risky', value: 'Title', limit: 'title' })
    expect(fault.message).toBe('The game passes over “Title”; it is written “title”')
    expect(mended({ fields: { Title: 'Otter bell' }, rows: [] }, fault).fields).toEqual({ title: 'Otter bell' })
  })

  it('are not written over by what stood under a wrong key', () => {
    const said = { titel: 'Fog bell', title: 'Otter bell' }
    const [fault] = faults(said)
    expect(mended({ fields: said, rows: [] }, fault).fields).toEqual({ title: 'Otter bell' })
  })

  it('that nothing is like are taken out', () => {
    const [fault] = faults({ wingspan: 3 })
    expect(fault.message).toBe('The game passes over “wingspan”')
    expect(mended({ fields: { wingspan: 3 }, rows: [] }, fault).fields).toEqual({})
  })

  it('of another kind say whose they are', () => {
    const other = tarn.catalogue.fields.find(({ kinds }) => kinds !== null && !kinds.includes('addition'))
    if (!other) throw new Error('every kind has every line')
    const found = entryFaults(
      { fields: { [other.key]: 1 }, rows: [] },
      tarn,
      { ...kindOf(tarn, 'prop'), id: 'addition' },
      ['plain'],
    )
    expect(found[0]).toMatchObject({ rule: 'entry-misplaced', where: other.key })
    expect(found[0].message).toContain('here; it is of ')
  })

  it('say what is wrong with their values, with a mend where that is plain', () => {
    const found = faults({ price: 99_999, shelf: 'Deck', weatherproof: 'yes' })
    expect(told(found)).toEqual(['entry-range price', 'entry-choice shelf', 'entry-type weatherproof'])
    expect(found.map(({ mend }) => mend?.parameters ?? null)).toEqual([
      { fields: { price: 5000 } },
      { fields: { shelf: 'deck' } },
      null,
    ])
  })

  it('far from what the game sells are noted, not refused', () => {
    const prices = tarn.stock.entries.flatMap(({ fields }) =>
      typeof fields['price'] === 'number' ? [fields['price']] : [],
    )
    const [fault] = faults({ price: Math.min(5000, Math.max(...prices) * 3 + 1) })
    expect(fault).toMatchObject({ rule: 'entry-unusual', severity: 'note', mend: null })
    expect(faults({ price: prices[0] })).toEqual([])
  })

  it('that a game needs and nobody said are told, an empty one too', () => {
    const needing: Rulebook = {
      ...tarn,
      catalogue: {
        ...tarn.catalogue,
        fields: tarn.catalogue.fields.map((field) => (field.key === 'title' ? { ...field, needed: true } : field)),
      },
    }
    expect(told(faults({}, { rulebook: needing }))).toEqual(['entry-missing title'])
    expect(faults({ title: '' }, { rulebook: needing })[0]).toMatchObject({ value: 'empty', mend: null })
  })

  it('are not looked for in a game that says nothing of a catalogue', () => {
    const without: Rulebook = { ...tarn, catalogue: { ...tarn.catalogue, fields: [] } }
    expect(faults({ wingspan: 3 }, { rulebook: without })).toEqual([])
  })

  it('under the game’s own words for files are no lines of the catalogue', () => {
    expect(told(faults({ item: 'x' }))).toEqual(['entry-unknown item'])
  })
})

describe('rows of looks', () => {
  const looks = ['plain', 'tarred']
  const rowOf = (look: string, fields: EntryRow['fields']): EntryRow => ({ look, fields })

  it('are one a look, each with its own lines', () => {
    const rows = [rowOf('plain', { called: 'Plain' }), rowOf('tarred', { called: 'Tarred', extra: 5 })]
    expect(faults({}, { rulebook: withRows, looks, rows })).toEqual([])
  })

  it('that are missing are added by their mend', () => {
    const rows = [rowOf('plain', { called: 'Plain' })]
    const [fault] = faults({}, { rulebook: withRows, looks, rows })
    expect(fault).toMatchObject({ rule: 'entry-row-missing', value: 'tarred' })
    expect(mended({ fields: {}, rows }, fault, withRows).rows.map(({ look }) => look)).toEqual(['plain', 'tarred'])
  })

  it('of a look that is not there are taken out, with the nearest named', () => {
    const rows = [
      rowOf('plain', { called: 'Plain' }),
      rowOf('tarred', { called: 'Tarred' }),
      rowOf('tared', { called: 'x' }),
    ]
    const [fault] = faults({}, { rulebook: withRows, looks, rows })
    expect(fault.message).toBe('“paints[2].paint” is “tared”, and the item has no such look; the nearest is “tarred”')
    expect(mended({ fields: {}, rows }, fault, withRows).rows.map(({ look }) => look)).toEqual(['plain', 'tarred'])
  })

  it('twice of one look are told and not decided', () => {
    const rows = ['plain', 'tarred', 'plain'].map((look) => rowOf(look, { called: look }))
    expect(faults({}, { rulebook: withRows, looks, rows })).toMatchObject([{ rule: 'entry-row-twice', mend: null }])
  })

  it('say where a line of theirs is wrong', () => {
    const rows = [rowOf('plain', { caled: 'Plain' }), rowOf('tarred', { called: 'Tarred', extra: 80 })]
    const found = faults({}, { rulebook: withRows, looks, rows })
    expect(told(found)).toEqual([
      'entry-unknown paints[0].caled',
      'entry-missing paints[0].called',
      'entry-range paints[1].extra',
    ])
    expect(mended({ fields: {}, rows }, found[0], withRows).rows[0].fields).toEqual({ called: 'Plain' })
    expect(mended({ fields: {}, rows }, found[2], withRows).rows[1].fields).toEqual({ called: 'Tarred', extra: 50 })
  })

  it('that are no list are taken out', () => {
    const [fault] = faults({ paints: 'red' }, { rulebook: withRows, looks: [] })
    expect(fault).toMatchObject({ rule: 'entry-type', limit: 'a list of rows' })
    expect(mended({ fields: { paints: 'red' }, rows: [] }, fault, withRows).fields).toEqual({})
  })
})

describe('an entry as it is packed', () => {
  const of = (rulebook: Rulebook, kind: string, itemName = 'mooring_bell', looks = ['plain']) => ({
    rulebook,
    kind: { id: kind },
    itemName,
    looks,
  })

  it('says the usual where nobody said anything, and the name in words', () => {
    const { fields } = completeEntry(undefined, of(tarn, 'prop'))
    expect(fields).toMatchObject({ title: 'Mooring bell', price: 40, shelf: 'quay', weatherproof: true })
    // What is optional and has no usual value stays out.
    expect(fields).not.toHaveProperty('about')
  })

  it('keeps what was said, in the game’s order, and what it does not know at the end', () => {
    const { fields } = completeEntry(
      { fields: { wingspan: 3, season: 'winter' }, rows: [], events: [] },
      of(parish, 'prop'),
    )
    const known = fieldsOfKind(parish, { id: 'prop' }).map(({ key }) => key)
    expect(Object.keys(fields)).toEqual([...known.filter((key) => key in fields), 'wingspan'])
    expect(fields['season']).toBe('winter')
  })

  it('has a row for each look, named by it, in the item’s order', () => {
    const named: Rulebook = rulebookSchema.parse({
      ...withRows,
      catalogue: {
        ...withRows.catalogue,
        rows: {
          ...withRows.catalogue.rows,
          fields: withRows.catalogue.rows?.fields.map((field) =>
            field.key === 'called' ? { ...field, fromName: true, value: { sort: 'text', longest: 40 } } : field,
          ),
        },
      },
    })
    const { rows } = completeEntry(
      { fields: {}, rows: [{ look: 'tarred', fields: { extra: 9 } }], events: [] },
      of(named, 'prop', 'mooring_bell', ['plain', 'tarred']),
    )
    expect(rows).toEqual([
      { look: 'plain', fields: { called: 'Mooring bell, plain', extra: 0 } },
      { look: 'tarred', fields: { called: 'Mooring bell, tarred', extra: 9 } },
    ])
  })

  it('that was read as a whole is left as it is', () => {
    const whole: ItemEntry = { fields: { price: 1 }, rows: [], events: [], whole: true }
    expect(completeEntry(whole, of(tarn, 'prop'))).toEqual(whole)
  })
})

describe('an entry that starts from one in stock', () => {
  const [begun] = tarn.stock.entries.filter(({ fields }) => 'price' in fields && 'title' in fields)
  const known = new Set(tarn.catalogue.fields.map(({ key }) => key))
  const nothing: ItemEntry = { fields: {}, rows: [], events: [] }

  it('takes its lines, but for those that only one thing may say', () => {
    const { from, fields } = saidOver(nothing, { from: begun.id, fields: {}, rows: {} }, tarn, known)
    expect(from).toBe(begun.id)
    expect(fields['price']).toBe(begun.fields['price'])
    expect(fields).not.toHaveProperty('title')
  })

  it('takes only what its kind has', () => {
    expect(saidOver(nothing, { from: begun.id, fields: {}, rows: {} }, tarn, new Set(['price'])).fields).toEqual({
      price: begun.fields['price'],
    })
  })

  it('keeps what was said before, and what is said now stands over both', () => {
    const before: ItemEntry = { ...nothing, fields: { price: 7, shelf: 'deck' } }
    const { fields } = saidOver(
      before,
      { from: begun.id, fields: { shelf: 'cabin', price: null }, rows: {} },
      tarn,
      known,
    )
    expect(fields['shelf']).toBe('cabin')
    expect(fields).not.toHaveProperty('price')
  })

  it('stays started from it when something else is said', () => {
    const { from } = saidOver({ ...nothing, from: begun.id }, { from: '', fields: { price: 3 }, rows: {} }, tarn, known)
    expect(from).toBe(begun.id)
  })
})
