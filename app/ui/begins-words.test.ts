import { describe, expect, it } from 'vitest'
import { beginsWords } from './begins-words'

describe('searching by typing', () => {
  it('finds what begins with all typed words, in any order and case', () => {
    expect(beginsWords('Even normals', 'NORM ev')).toBe(true)
    expect(beginsWords('Even normals', 'norm weld')).toBe(false)
  })

  it('does not find in the middle of words', () => {
    expect(beginsWords('Reform', 'form')).toBe(false)
  })

  it('finds all while nothing is typed, and takes what is no letter as a gap', () => {
    expect(beginsWords('Weld', '  ')).toBe(true)
    expect(beginsWords('Scale to game (m → spans)', '(spans')).toBe(true)
    expect(beginsWords('Änderung', 'änd')).toBe(true)
  })
})
