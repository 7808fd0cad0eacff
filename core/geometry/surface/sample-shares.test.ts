import { describe, expect, it } from 'vitest'
import { sampleShares } from './sample-shares.ts'

describe('at how many places meshes are measured', () => {
  it('is as many as one likes where there are few', () => {
    expect(sampleShares([500], 1000)).toEqual([1000])
    expect(sampleShares([500, 500, 500], 1000)).toEqual([1000, 1000, 1000])
  })

  it('is shared sooner where fewer may have as many', () => {
    expect(sampleShares([500, 500, 500, 500], 1000, 2)).toEqual([500, 500, 500, 500])
    expect(sampleShares([500], 1000, 2)).toEqual([1000])
  })

  it('grows with the triangles and not with the parts', () => {
    const sum = (parts: number): number =>
      sampleShares(
        Array.from({ length: parts }, () => 12_000 / parts),
        1000,
      ).reduce((total, count) => total + count, 0)
    expect(sum(100)).toBeLessThanOrEqual(sum(10) * 1.1)
  })

  it('gives more to what has more, and some to everything', () => {
    const [large, small] = sampleShares([10_000, 1, ...Array.from({ length: 50 }, () => 400)], 1000)
    expect(large).toBe(1000)
    expect(small).toBeGreaterThan(0)
    expect(sampleShares([0, 0], 1000)).toHaveLength(2)
  })
})
