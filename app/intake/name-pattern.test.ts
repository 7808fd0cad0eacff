import { describe, expect, it } from 'vitest'
import { fitsPattern } from './name-pattern'

describe('picking by name', () => {
  it.each([
    ['Pennant 3', 'pennant', true],
    ['Pennant 3', 'pennant ?', true],
    ['Pennant pole', 'pennant ?', false],
    ['ferry_rail_03', '*_rail_*', true],
    ['ferry_rail_03', 'rail_*', false],
    ['a.b', 'a.b', true],
    ['axb', 'a.b', false],
    ['a(b', '*(*', true],
    ['anything', '  ', true],
  ])('%s by “%s”: %s', (name, typed, fits) => {
    expect(fitsPattern(name, typed)).toBe(fits)
  })

  it('is quick for patterns made to be slow', () => {
    const began = performance.now()
    expect(fitsPattern('a'.repeat(400), '*'.repeat(200) + 'b')).toBe(false)
    expect(performance.now() - began).toBeLessThan(1000)
  })
})
