import { describe, expect, it } from 'vitest'
import { parseNumber } from './parse-number'

describe('a typed number', () => {
  it.each([
    ['1200', 1200],
    ['1,200', 1200],
    ['12,345,678.5', 12345678.5],
    ['1 200', 1200],
    ['0,5', 0.5],
    ['-3.25', -3.25],
    ['−3', -3],
    ['1e-3', 0.001],
    [' 7 ', 7],
    ['.5', 0.5],
  ])('“%s” is %d', (text, value) => expect(parseNumber(text)).toBe(value))
  it.each(['', ' ', 'abc', '1,2,3', '1.2.3', '--1', '.', ',', 'Infinity', '1e999', '0x10'])('“%s” is none', (text) =>
    expect(parseNumber(text)).toBeNull(),
  )
})
