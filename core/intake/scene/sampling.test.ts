import { describe, expect, it } from 'vitest'
import { sampleTimes } from './sampling.ts'

const keysAt = (perSecond: number, count: number): number[] =>
  Array.from({ length: count }, (_, key) => key / perSecond)

describe('the times at which a source’s motion is read', () => {
  it('are its own where it has thirty keys a second, however they are rounded', () => {
    for (const rounded of [Math.fround, (value: number) => Number(value.toFixed(4)), (value: number) => value]) {
      const keys = keysAt(30, 121).map(rounded)
      expect(sampleTimes([keys])).toEqual(keys)
    }
  })

  it('are those of all tracks, each once and in order', () => {
    expect(sampleTimes([[0, 0.02], [0.01, 0.02], []])).toEqual([0, 0.01, 0.02])
  })

  it('fill long gaps evenly, so that a whole turn is followed', () => {
    const times = sampleTimes([[0, 1]])
    expect(times).toHaveLength(31)
    for (let key = 1; key < times.length; key++) expect(times[key] - times[key - 1]).toBeCloseTo(1 / 30, 6)
  })

  it('leave out what is no time, and end', () => {
    expect(sampleTimes([[0, NaN, Infinity, 0.01]])).toEqual([0, 0.01])
    expect(sampleTimes([[0, 1e9]]).length).toBeLessThanOrEqual(20_001)
  })
})
