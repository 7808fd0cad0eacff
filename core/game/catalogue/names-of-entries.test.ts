import { describe, expect, it } from 'vitest'
import type { ItemEntry } from '../../item/entry.ts'
import { kindOf, rulebookById } from '../load.ts'
import { catalogueDoubts } from './doubts.ts'
import type { EntryMend } from './entry-faults.ts'
import { nameFaults } from './name-faults.ts'
import { isOwnOrInStock, referencesOf, stockNames, type OwnNames } from './references.ts'
import { togetherFaults } from './together.ts'
import type { TogetherFacts } from './together-facts.ts'
import { valueWords } from './value-words.ts'
import { fieldValueSchema } from '../schema-catalogue.ts'

const tarn = rulebookById('tarn-and-tiller')
const hollin = rulebookById('hollin-keep')
const mover = kindOf(tarn, 'mover')
const own = (more: Partial<OwnNames> = {}): OwnNames => ({
  part: ['leaf', 'post'],
  group: ['hinge'],
  point: [],
  marker: [],
  clip: ['sway'],
  light: [],
  look: ['plain'],
  ...more,
})
const faults = (fields: ItemEntry['fields'], names = own()) => nameFaults({ fields, rows: [] }, tarn, mover, names)

describe('names in an entry', () => {
  it('are found where a line is a name, alone or in a list, and nowhere else', () => {
    const found = referencesOf({ fields: { handle: 'leaf', title: 'leaf', price: 5 }, rows: [] }, tarn, mover)
    expect(found).toMatchObject([{ where: 'handle', name: 'leaf', to: ['part', 'group'], list: null }])
    expect(referencesOf({ fields: { handle: '' }, rows: [] }, tarn, mover)).toEqual([])
    expect(referencesOf({ fields: { handle: 7 }, rows: [] }, tarn, mover)).toEqual([])
  })

  it('that lead to a thing of the item are silent', () => {
    expect(faults({ handle: 'leaf' })).toEqual([])
    expect(faults({ handle: 'hinge' })).toEqual([])
  })

  it('that lead nowhere are told with the nearest that would do, which mends them', () => {
    const [fault] = faults({ handle: 'laef' })
    expect(fault).toMatchObject({ rule: 'entry-lost', severity: 'blocks', where: 'handle', value: 'laef' })
    expect(fault.message).toBe('“handle” names “laef”, and there is no such part or group; the nearest is “leaf”')
    expect((fault.mend?.parameters as EntryMend).fields).toEqual({ handle: 'leaf' })
  })

  it('that are nothing like any are left to the modder, unless there is only one', () => {
    expect(faults({ handle: 'chandelier' })[0].mend).toBeNull()
    const [fault] = faults({ handle: 'chandelier' }, own({ part: ['leaf'], group: [] }))
    expect((fault.mend?.parameters as EntryMend).fields).toEqual({ handle: 'leaf' })
  })

  it('of another sort of thing say what they are', () => {
    const [fault] = faults({ handle: 'sway' })
    expect(fault).toMatchObject({ rule: 'entry-wrong-target', title: 'Name of another sort of thing' })
    expect(fault.message).toBe('“handle” names “sway”, which is a clip and no part or group')
  })

  it('say that there is none to name where there is none', () => {
    expect(faults({ handle: 'leaf' }, own({ part: [], group: [] }))[0].limit).toBe('a part or group; there is none')
  })

  it('may be of stock, by kind', () => {
    const [entry] = tarn.stock.entries
    expect(stockNames(tarn, [entry.kind])).toContain(entry.id)
    expect(stockNames(tarn, ['airship'])).toEqual([])
    const reference = {
      where: 'x',
      name: entry.id,
      to: ['stock'] as const,
      ofKinds: [entry.kind],
      look: null,
      key: 'x',
      list: null,
      at: 0,
    }
    expect(isOwnOrInStock(reference, own(), tarn)).toBe(true)
    expect(isOwnOrInStock({ ...reference, ofKinds: ['airship'] }, own(), tarn)).toBe(false)
  })
})

describe('items of one pack together', () => {
  const facts = (name: string, more: Partial<TogetherFacts> = {}): TogetherFacts => ({
    name,
    kind: 'prop',
    unique: {},
    things: [],
    events: [],
    names: [],
    ...more,
  })
  const told = (items: TogetherFacts[], rulebook = tarn): [string, string][] =>
    [...togetherFaults(items, rulebook)].flatMap(([item, found]) =>
      found.map(({ rule, message }): [string, string] => [item, `${rule}: ${message}`]),
    )

  it('that say nothing alike are silent', () => {
    expect(
      told([facts('gate', { unique: { title: '"Gate"' } }), facts('bell', { unique: { title: '"Bell"' } })]),
    ).toEqual([])
  })

  it('may not have one title: the second is told', () => {
    const both = [facts('gate', { unique: { title: '"Gate"' } }), facts('gate_2', { unique: { title: '"Gate"' } })]
    expect(told(both)).toEqual([['gate_2', 'entry-alike: “title” of gate_2 is "Gate", as gate says it']])
  })

  it('may not have the title of something in stock', () => {
    const titled = tarn.stock.entries.find(({ fields }) => typeof fields['title'] === 'string')
    const title = JSON.stringify(titled?.fields['title'])
    expect(told([facts('gate', { unique: { title } })])[0][1]).toContain(`as ${titled?.title} says it`)
  })

  it('name each other; a name that none has is told with the nearest', () => {
    const beside = (name: string) => ({
      where: 'beside',
      name,
      ofKinds: null,
      look: null,
      key: 'beside',
      list: null,
      at: 0,
    })
    expect(told([facts('gate', { names: [beside('bell')] }), facts('bell')], hollin)).toEqual([])
    const [[item, message]] = told([facts('gate', { names: [beside('bel')] }), facts('bell')], hollin)
    expect(item).toBe('gate')
    expect(message).toBe('entry-lost: “beside” names “bel”, and there is no such item; the nearest is “bell”')
  })

  it('have events between them; one to what is not there is mended to the nearest', () => {
    const events = [{ when: 'used', do: 'ring', to: 'bel' }]
    const found = togetherFaults([facts('gate', { events }), facts('bell')], tarn).get('gate') ?? []
    expect(found[0]).toMatchObject({ rule: 'event-to', severity: 'blocks' })
    expect(found[0].message).toBe(
      '“gate used → ring bel”: there is no part, group or item “bel”; the nearest is “bell”',
    )
    expect(found[0].mend?.parameters).toEqual({ events: [{ when: 'used', do: 'ring', to: 'bell' }] })
  })

  it('that set each other off for ever are told once', () => {
    const items = [
      facts('gate', { events: [{ when: 'rung', do: 'ring', to: 'bell' }] }),
      facts('bell', { events: [{ when: 'rung', do: 'ring', to: 'gate' }] }),
    ]
    const circles = told(items).filter(([, message]) => message.startsWith('event-circle'))
    expect(circles).toHaveLength(1)
    expect(circles[0][1]).toContain('it never ends')
  })
})

describe('what a rulebook’s catalogue will never say', () => {
  it('is told: kinds, categories, surfaces and donors that are not there', () => {
    const strange = structuredClone(tarn)
    strange.catalogue.fields[0].kinds = ['airship']
    strange.catalogue.categories.push({ category: 'airships', stands: 'in the air' })
    strange.stock.donors[0].surface = 'cloud'
    strange.stock.entries[0].like = 'nobody'
    const told = catalogueDoubts(strange).map(({ path, message }) => `${path.join('.')}: ${message}`)
    expect(told).toEqual([
      'catalogue.fields.0.kinds: there is no kind “airship”',
      `stock.entries.0.like: “${strange.stock.entries[0].id}” is like “nobody”, and there is no such donor`,
      `catalogue.categories.${strange.catalogue.categories.length - 1}.category: no kind is of the category “airships”`,
      `stock.donors.0: “${strange.stock.donors[0].title}” is of “cloud”, and there is no such surface`,
    ])
    expect(catalogueDoubts(tarn)).toEqual([])
  })
})

describe('what a line may say, in words', () => {
  it.each([
    [{ sort: 'text', longest: 40 }, 'a text of up to 40 letters'],
    [{ sort: 'number', least: 0, most: 1.5, unit: 'm' }, 'a number, 0 to 1.5 m'],
    [{ sort: 'yes-no' }, 'true or false'],
    [{ sort: 'choice', of: [{ word: 'oak', title: 'Oak' }] }, 'one of oak'],
    [
      { sort: 'reference', to: ['item', 'stock'], ofKinds: ['prop'] },
      'the name of an item or something in stock (prop)',
    ],
    [{ sort: 'list', least: 2, most: 4, of: { sort: 'yes-no' } }, '2 to 4, each true or false'],
  ])('%j is “%s”', (value, words) => {
    expect(valueWords(fieldValueSchema.parse(value))).toBe(words)
  })
})
