import { describe, expect, it } from 'vitest'
import { isLinearPattern, matchesWhole } from './pattern.ts'

describe('patterns of others', () => {
  it('match a whole text or nothing', () => {
    expect(matchesWhole('[a-z][a-z0-9_]*', 'gate_01')).toBe(true)
    expect(matchesWhole('[a-z][a-z0-9_]*', 'gate_01 ')).toBe(false)
    expect(matchesWhole('oak|elm', 'oakum')).toBe(false)
    expect(matchesWhole('^k-[0-3][0-9a-f]{2}$', 'k-3ff')).toBe(true)
    expect(matchesWhole('[\\p{L} ]+', 'Tür')).toBe(true)
  })

  it.each(['(a+)+b', '(a|a)*b', 'a*a*a*a*a*a*a*b', '(.*a){20}b'])(
    '%s takes no longer for a text made to be slow',
    (pattern) => {
      expect(matchesWhole(pattern, 'a'.repeat(20_000))).toBe(false)
    },
  )

  it.each(['(a)\\1', '(?=a)a', '(?<!b)a', '[a-z'])('%s is none that is read', (pattern) => {
    expect(isLinearPattern(pattern)).toBe(false)
    expect(matchesWhole(pattern, 'a')).toBe(false)
  })
})
