import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ball } from '../../test-support/meshes.ts'
import { cutByCorners } from './cut-by-corners.ts'

const cornersOf = (indices: Uint32Array, triangles: Uint32Array): number =>
  new Set([...triangles].flatMap((triangle) => [...indices.subarray(triangle * 3, triangle * 3 + 3)])).size

describe('cutting by corners', () => {
  it('puts each triangle in one group, none with more corners than asked, for any limit', () => {
    fc.assert(
      fc.property(fc.integer({ min: 3, max: 14 }), fc.integer({ min: 3, max: 300 }), (rings, most) => {
        const { positions, indices } = ball(1, rings)
        const groups = cutByCorners(positions, indices, most)
        expect(groups.flatMap((group) => [...group]).sort((a, b) => a - b)).toEqual(
          Array.from({ length: indices.length / 3 }, (_, triangle) => triangle),
        )
        for (const group of groups) expect(cornersOf(indices, group)).toBeLessThanOrEqual(most)
      }),
      { numRuns: 60 },
    )
  })

  it('makes few of them: a tenth more than would hold all corners', () => {
    const { positions, indices } = ball(1, 60)
    const groups = cutByCorners(positions, indices, 1000)
    expect(groups.length).toBeGreaterThanOrEqual(Math.ceil(positions.length / 3 / 1000))
    expect(groups.length).toBeLessThanOrEqual(Math.ceil((positions.length / 3 / 1000) * 1.1) + 1)
  })

  it('leaves alone what has few enough, and ends where all triangles lie in one place', () => {
    const { positions, indices } = ball(1, 6)
    expect(cutByCorners(positions, indices, 1000)).toHaveLength(1)
    const heap = new Float32Array(300)
    const apart = Uint32Array.from({ length: 100 }, (_, corner) => corner).subarray(0, 99)
    expect(cutByCorners(heap, apart, 3)).toHaveLength(33)
    expect(cutByCorners(heap, new Uint32Array(0), 3)).toEqual([])
  })
})
