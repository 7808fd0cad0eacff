import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fieldValueSchema, type FieldValue } from '../schema-catalogue.ts'
import { formatNumber, rangeWords, shownValue, valueFaults } from './value-fault.ts'

const allowed = (value: unknown): FieldValue => fieldValueSchema.parse(value)
const price = allowed({ sort: 'number', unit: 'shillings', least: 1, most: 5000, whole: true })
const title = allowed({ sort: 'text', longest: 10 })
const wood = allowed({
  sort: 'choice',
  of: [
    { word: 'oak', title: 'Oak' },
    { word: 'larch', title: 'Larch' },
  ],
})
const two = allowed({ sort: 'list', of: { sort: 'choice', of: [{ word: 'oak', title: 'Oak' }] }, least: 1, most: 2 })

const only = (value: FieldValue, said: unknown) => {
  const faults = valueFaults(value, said, 'price')
  expect(faults).toHaveLength(1)
  return faults[0]
}

describe('a number of an entry', () => {
  it('is taken within its bounds, both included', () => {
    for (const said of [1, 95, 5000]) expect(valueFaults(price, said, 'price')).toEqual([])
  })

  it('outside is told with its bounds and unit, and the nearest bound would do', () => {
    expect(only(price, 9000)).toMatchObject({
      wrong: 'range',
      severity: 'blocks',
      value: '9,000 shillings',
      limit: '1 to 5,000 shillings',
      message: '“price” is 9,000; the game takes 1 to 5,000 shillings',
      instead: 5000,
    })
    expect(only(price, -3).instead).toBe(1)
  })

  it('that is not whole is rounded where whole ones are asked for', () => {
    expect(only(price, 2.6)).toMatchObject({ wrong: 'range', limit: 'whole numbers', instead: 3 })
    expect(valueFaults(allowed({ sort: 'number', least: 0, most: 9 }), 2.6, 'weight')).toEqual([])
  })

  it('written as a text is read; one that is none is not guessed', () => {
    expect(only(price, '95')).toMatchObject({ wrong: 'type', limit: 'a number', instead: 95 })
    expect(only(price, 'cheap')).not.toHaveProperty('instead')
    expect(only(price, ' ')).not.toHaveProperty('instead')
    expect(only(price, null).message).toBe('“price” is null; the game reads a number there')
  })
})

describe('a text of an entry', () => {
  it('that is too long is cut where the game cuts it, by letters and not by halves of them', () => {
    expect(valueFaults(title, 'Otter bell', 'title')).toEqual([])
    expect(only(title, 'Otter bells')).toMatchObject({ wrong: 'length', severity: 'risky', instead: 'Otter bell' })
    expect(only(title, '🔔'.repeat(11)).instead).toBe('🔔'.repeat(10))
    expect(only(title, 'Otterby   landing').instead).toBe('Otterby')
  })

  it('of the wrong form is told with the form', () => {
    const code = allowed({ sort: 'text', pattern: '[A-Z]{2}-[0-9]+' })
    expect(valueFaults(code, 'OT-12', 'code')).toEqual([])
    expect(only(code, 'x OT-12')).toMatchObject({ wrong: 'pattern', limit: '[A-Z]{2}-[0-9]+' })
  })

  it('said as a number is written out', () => {
    expect(only(title, 12)).toMatchObject({ wrong: 'type', instead: '12' })
  })
})

describe('a word of an entry', () => {
  it('is known, or told with the nearest that is', () => {
    expect(valueFaults(wood, 'oak', 'wood')).toEqual([])
    expect(only(wood, 'Oak')).toMatchObject({ wrong: 'choice', instead: 'oak', limit: 'oak, larch' })
    expect(only(wood, 'granite')).not.toHaveProperty('instead')
  })
})

describe('a switch and a name of an entry', () => {
  it('are read from their words where those are plain', () => {
    const lit = allowed({ sort: 'yes-no' })
    expect(valueFaults(lit, false, 'lit')).toEqual([])
    expect(only(lit, 'true')).toMatchObject({ wrong: 'type', instead: true })
    expect(only(lit, 1)).not.toHaveProperty('instead')
    const part = allowed({ sort: 'reference', to: ['part'] })
    expect(valueFaults(part, 'leaf', 'opens')).toEqual([])
    expect(only(part, '').limit).toBe('a name')
  })
})

describe('a list of an entry', () => {
  it('is taken with as many as the game takes', () => {
    expect(valueFaults(two, ['oak'], 'woods')).toEqual([])
    expect(only(two, [])).toMatchObject({ wrong: 'count', value: '0 values', limit: '1 to 2' })
  })

  it('says which of it is wrong, and mends that alone', () => {
    const faults = valueFaults(two, ['oak', 'Oak'], 'woods')
    expect(faults).toMatchObject([{ wrong: 'choice', instead: ['oak', 'oak'] }])
    expect(faults[0].message).toContain('“woods[1]”')
  })

  it('that says a thing twice keeps it once', () => {
    expect(only(two, ['oak', 'oak'])).toMatchObject({ wrong: 'twice', severity: 'risky', instead: ['oak'] })
  })

  it('with too many keeps the first', () => {
    const numbers = allowed({ sort: 'list', of: { sort: 'number', least: 0, most: 9 }, most: 2 })
    expect(only(numbers, [1, 2, 3])).toMatchObject({ wrong: 'count', instead: [1, 2] })
  })

  it('is made of a single value that was said in its place', () => {
    expect(only(two, 'oak')).toMatchObject({ wrong: 'type', limit: 'a list', instead: ['oak'] })
  })
})

describe('values in words', () => {
  it('are short, and numbers have their thousands apart', () => {
    expect(shownValue('x'.repeat(80))).toBe(`${'x'.repeat(59)}…`)
    expect(shownValue({ a: [1] })).toBe('{"a":[1]}')
    expect(formatNumber(1200)).toBe('1,200')
    expect(formatNumber(0.5)).toBe('0.5')
    expect(rangeWords({ sort: 'number', unit: '', least: 0, most: 1.5, whole: false })).toBe('0 to 1.5')
  })
})

/** Any sort of value that a rulebook may ask for. */
const singles = fc.oneof(
  fc.constant({ sort: 'yes-no' }),
  fc.record({ sort: fc.constant('text'), longest: fc.integer({ min: 1, max: 40 }) }),
  fc
    .tuple(fc.integer({ min: -50, max: 50 }), fc.integer({ min: 1, max: 100 }), fc.boolean())
    .map(([least, range, whole]) => ({ sort: 'number', least, most: least + range, whole })),
  fc
    .uniqueArray(fc.stringMatching(/^[a-z]{1,8}$/), { minLength: 1, maxLength: 5 })
    .map((words) => ({ sort: 'choice', of: words.map((word) => ({ word, title: word })) })),
  fc.constant({ sort: 'reference', to: ['part'] }),
)
const fields = fc.oneof(
  singles,
  fc.record({ sort: fc.constant('list'), of: singles, most: fc.integer({ min: 1, max: 5 }) }),
)

describe('any value against any field', () => {
  it('is told in whole words, and mends lead to a value without that fault', () => {
    fc.assert(
      fc.property(fields, fc.jsonValue({ maxDepth: 2 }), (field, said) => {
        const value = allowed(field)
        let now: unknown = said
        for (let round = 0; ; round++) {
          const faults = valueFaults(value, now, 'line')
          for (const { message, limit } of faults) {
            expect(message).not.toMatch(/undefined|NaN|\[object/)
            expect(message.length).toBeLessThan(400)
            expect(limit).not.toBe('')
          }
          const mend = faults.find(({ instead }) => instead !== undefined)
          if (!mend) break
          // One mend for each value of a list, and one for the list itself, at most.
          expect(round).toBeLessThan(60)
          now = mend.instead
        }
      }),
      { numRuns: 300 },
    )
  })
})
