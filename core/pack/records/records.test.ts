import { describe, expect, it } from 'vitest'
import { rulebookSchema } from '../../game/schema.ts'
import { loadRecord } from '../../trial/loaders/record/index.ts'
import { parseLines } from '../../trial/loaders/record/text.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { readRecord, writeRecord } from './index.ts'
import { readTextRecord, writeTextRecord } from './text-record.ts'

const form = { between: '=', comment: '#' } as const

/** All that a value may be, with names that look like something else. */
const awkward = {
  item: 'lamp',
  title: ' "Otterby" = 3 ',
  count: -2.5e-7,
  yes: true,
  nothing: null,
  text: { number: '12', word: 'true', empty: '', list: '[]', lines: 'one\ntwo\u2028three', comment: '# none' },
  'trees/old oak.dds': { '': 'a', __proto__name: 'b', 'a"b\\c': ['x', { y: [] }, {}, [1, [2]]] },
  umlaut: 'Möwe – ∞ 🦦',
}

describe('records as text', () => {
  for (const between of ['=', ':', ' '] as const)
    it(`says the same again, read by two readers, with “${between}” between`, () => {
      const text = writeTextRecord(awkward, { between, comment: '#' })
      expect(readTextRecord(text, { between, comment: '#' }, 'a.txt')).toEqual(awkward)
      expect(parseLines(text, { between, comment: '#' })).toEqual(awkward)
    })

  it('is read as a person writes it: comments, empty lines, no spaces, spaces at will, lines ended as on any system', () => {
    const text = '# what it is\r\n\r\nitem=lamp\r\n  kind   =   prop kind  \r\nlooks[0] = a.txt\r\nsize = 3\r\n'
    const said = { item: 'lamp', kind: 'prop kind', looks: ['a.txt'], size: 3 }
    expect(readTextRecord(text, form, 'a.txt')).toEqual(said)
    expect(parseLines(text, form)).toEqual(said)
  })

  const wrong: [string, string, RegExp][] = [
    ['without what stands between', 'item lamp', /line 1 .*“=” is missing/],
    ['said twice', 'item = a\nkind = b\nitem = c', /line 3 .*item is said twice/],
    ['below a value', 'item = a\nitem.of = b', /line 2 .*lies under a value/],
    ['in a list that skips', 'looks[0] = a\nlooks[2] = b', /line 2 .*number 1 of the list/],
    ['in a list with keys', 'looks[0] = a\nlooks.b = b', /line 2 .*a list and keys/],
    ['with a quotation that is open', '"item = a', /line 1 .*does not begin with a key/],
    ['too deep', `${Array.from({ length: 40 }, () => 'a').join('.')} = 1`, /line 1 .*16 steps deep/],
    ['without a key', '= a', /line 1 .*does not begin with a key/],
  ]
  for (const [what, text, message] of wrong)
    it(`refuses a line ${what}, with its number`, () => {
      expect(() => readTextRecord(text, form, 'a.txt')).toThrow(message)
      if (what !== 'too deep') expect(() => parseLines(text, form)).toThrow()
    })

  it('keeps what an object is made of out of reach', () => {
    const read = readTextRecord('__proto__.polluted = yes\nconstructor.prototype.polluted = yes', form, 'a.txt')
    expect(Object.getPrototypeOf(read)).toBe(Object.prototype)
    expect(({} as Record<string, unknown>)['polluted']).toBeUndefined()
  })
})

describe('records in a game’s words', () => {
  const wordy = rulebookSchema.parse({
    ...structuredClone(tarnAndTiller),
    files: {
      ...structuredClone(tarnAndTiller.files),
      entry: { writer: 'text' },
      // The game’s word for one field is ours for another.
      words: { entry: { item: 'kind', kind: 'class' }, look: { maps: 'pictures', materials: 'maps' } },
    },
  })
  const entry = { item: 'lamp', kind: 'prop', category: 'props', looks: ['a.json'] }
  const look = { look: 'plain', materials: { maps: { shading: 'mixed', maps: { maps: 'a.dds' } } } }

  it('are written in them, and read back by both readers', () => {
    const bytes = writeRecord('entry', entry, wordy)
    expect(new TextDecoder().decode(bytes)).toBe('kind = lamp\nclass = prop\ncategory = props\nlooks[0] = a.json\n')
    expect(readRecord('entry', bytes, 'a.txt', wordy)).toEqual(entry)
    expect(loadRecord('entry', bytes, wordy)).toEqual(entry)
  })

  it('are given to fields and not to names of materials or roles', () => {
    const bytes = writeRecord('look', look, wordy)
    expect(JSON.parse(new TextDecoder().decode(bytes))).toEqual({
      look: 'plain',
      maps: { maps: { shading: 'mixed', pictures: { maps: 'a.dds' } } },
    })
    expect(readRecord('look', bytes, 'a.json', wordy)).toEqual(look)
    expect(loadRecord('look', bytes, wordy)).toEqual(look)
  })

  it('do not take our word for a field that the game calls otherwise', () => {
    const ours = new TextEncoder().encode('item = lamp\nclass = prop\n')
    expect(readRecord('entry', ours, 'a.txt', wordy)).toEqual({ kind: 'prop' })
    expect(loadRecord('entry', ours, wordy)).toEqual({ kind: 'prop' })
  })

  it('are refused where two fields have one word, or there is no such field', () => {
    const words = (entry: object): unknown => ({ ...wordy, files: { ...wordy.files, words: { entry } } })
    const places = (value: unknown) => rulebookSchema.safeParse(value).error?.issues.map(({ message }) => message)
    expect(places(words({ item: 'kind' }))).toEqual(['two fields have one word'])
    expect(places(words({ itme: 'name' }))?.join()).toMatch(/itme/)
  })
})
