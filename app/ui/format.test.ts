import { describe, expect, it } from 'vitest'
import { isOver } from './gauge-bar'
import { formatAgo, formatBytes, formatCount, formatMegabytes, plural } from './format'

describe('numbers as people read them', () => {
  it('groups thousands', () => {
    expect(formatCount(38412)).toBe('38,412')
    expect(formatCount(7)).toBe('7')
  })

  it('gives bytes in the unit that reads best', () => {
    expect([199, 2048, 5 * 1024 * 1024].map(formatBytes)).toEqual(['199 B', '2 kB', '5.0 MB'])
    expect(formatMegabytes(6 * 1024 * 1024)).toBe('6.0 MB')
  })

  it('counts things', () => {
    expect([plural(1, 'file'), plural(3, 'file'), plural(0, 'file')]).toEqual(['1 file', '3 files', '0 files'])
  })

  it('says how long ago', () => {
    const now = Date.UTC(2026, 5, 10, 12)
    expect(formatAgo(now - 20_000, now)).toBe('just now')
    expect(formatAgo(now - 3 * 60_000, now)).toBe('3 min ago')
    expect(formatAgo(now - 5 * 3_600_000, now)).toBe('5 h ago')
    expect(formatAgo(now - 9 * 86_400_000, now)).toBe('1 Jun')
  })
})

describe('a gauge', () => {
  const gauge = { label: 'Triangles', unit: 'count' as const, least: 0, limit: 100, value: 100 }
  it('is over only beyond its limit', () => {
    expect(isOver(gauge)).toBe(false)
    expect(isOver({ ...gauge, value: 101 })).toBe(true)
  })
  it('is wrong when something is needed and missing', () => {
    expect(isOver({ ...gauge, least: 1, value: 0 })).toBe(true)
    expect(isOver({ ...gauge, least: 1, value: 1 })).toBe(false)
  })
  it('is never over without a limit', () => {
    expect(isOver({ ...gauge, limit: null, value: 1e9 })).toBe(false)
  })
})
