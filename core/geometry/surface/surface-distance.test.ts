import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ball } from '../../test-support/meshes.ts'
import { together } from '../../test-support/shapes.ts'
import type { TriangleSoup } from '../shapes/convex-hull.ts'
import {
  createSurfaceFinder,
  sampledSurface,
  staysWithin,
  surfaceDifference,
  typicalShiftBetween,
  worstShift,
} from './surface-distance.ts'

/** So many triangles anywhere in a cube of two units. */
const soupOf = (triangles: number): fc.Arbitrary<TriangleSoup> =>
  fc
    .array(fc.float({ min: -1, max: 1, noNaN: true }), { minLength: triangles * 9, maxLength: triangles * 9 })
    .map((places) => ({
      positions: Float32Array.from(places),
      indices: Uint32Array.from(places.keys()).slice(0, triangles * 3),
    }))

/** The nearest distance of a place to any triangle, by looking at points of all of them. */
function leastByLooking({ positions, indices }: TriangleSoup, place: readonly number[]): number {
  let least = Infinity
  const steps = 24
  for (let at = 0; at < indices.length; at += 3)
    for (let i = 0; i <= steps; i++)
      for (let j = 0; j <= steps - i; j++) {
        const shares = [i / steps, j / steps, 1 - (i + j) / steps]
        const point = [0, 1, 2].map((axis) =>
          shares.reduce((sum, share, corner) => sum + share * positions[indices[at + corner] * 3 + axis], 0),
        )
        least = Math.min(least, Math.hypot(...point.map((value, axis) => value - place[axis])))
      }
  return least
}

describe('the nearest point of a surface', () => {
  it.each([4, 60, 500])('of %i triangles is as near as any point of it', (triangles) => {
    fc.assert(
      fc.property(
        soupOf(triangles),
        fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -3, max: 3, noNaN: true }))),
        (soup, place) => {
          const finder = createSurfaceFinder(soup)
          // What was asked before is nothing to what is asked now.
          finder.nearest(-place[1], place[2], place[0])
          const found = finder.nearest(place[0], place[1], place[2])
          expect(found).not.toBeNull()
          // Looking at points of a grid misses the nearest one by less than a step of it.
          expect(found?.distance).toBeLessThanOrEqual(leastByLooking(soup, place) + 1e-5)
          expect(Math.hypot(...(found?.point ?? []).map((value, axis) => value - place[axis]))).toBeCloseTo(
            found?.distance ?? NaN,
            5,
          )
        },
      ),
      { numRuns: 25 },
    )
  })

  it('is not looked for further than it is asked', () => {
    for (const rings of [2, 16]) {
      const { nearest } = createSurfaceFinder(ball(1, rings))
      expect(nearest(5, 0, 0, 3)).toBeNull()
      expect(nearest(5, 0, 0, 4.5)?.distance).toBeCloseTo(4, 5)
    }
  })

  it('is found where triangles without area come first', () => {
    const { positions, indices } = ball(1, 24)
    const [a, b] = [indices[0], indices[1]]
    const { nearest } = createSurfaceFinder({
      positions,
      indices: Uint32Array.of(a, a, a, a, b, a, a, a, b, ...indices),
    })
    for (const place of [-4, 3, 9])
      expect(nearest(place, 0.2, 0.1)?.distance).toBeCloseTo(Math.hypot(place, 0.2, 0.1) - 1, 2)
  })

  it('need not be the nearest where one that is near enough will do', () => {
    for (const rings of [2, 16]) {
      const { nearest } = createSurfaceFinder(ball(1, rings))
      expect(nearest(3, 0, 0, Infinity, 10)?.distance).toBeLessThan(10)
      expect(nearest(3, 0, 0, Infinity, 1.5)?.distance).toBeCloseTo(2, 5)
    }
  })

  it('is none where there is no surface', () => {
    expect(
      createSurfaceFinder({ positions: new Float32Array(0), indices: new Uint32Array(0) }).nearest(0, 0, 0),
    ).toBeNull()
  })
})

describe('the worst shift', () => {
  it('is the one that measuring everything gives, to the bit', () => {
    fc.assert(
      fc.property(soupOf(3), soupOf(60), soupOf(70), (few, many, more) => {
        for (const [first, second] of [
          [few, many],
          [many, more],
          [more, few],
        ])
          expect(worstShift(first, second, 200)).toBe(surfaceDifference(first, second, 200).worst)
      }),
      { numRuns: 40 },
    )
  })

  it('stays within a limit exactly where it is no more than that', () => {
    fc.assert(
      fc.property(soupOf(60), soupOf(60), fc.double({ min: 0, max: 2, noNaN: true }), (first, second, factor) => {
        const worst = worstShift(first, second, 40)
        const [one, other] = [sampledSurface(first, 40), sampledSurface(second, 40)]
        expect(staysWithin(one, other, worst * factor)).toBe(worst <= worst * factor)
        expect(staysWithin(one, other, worst)).toBe(true)
      }),
      { numRuns: 30 },
    )
    expect(staysWithin(sampledSurface(ball(1, 8), 40), sampledSurface(ball(1, 8), 40), 1e-6)).toBe(true)
  })

  it('is the difference of two radii, and none of a surface from itself', () => {
    expect(worstShift(ball(1, 40), ball(1.1, 40), 2000)).toBeCloseTo(0.1, 2)
    expect(worstShift(ball(1, 20), ball(1, 20), 2000)).toBeLessThan(1e-6)
    expect(worstShift(ball(1, 20), { positions: new Float32Array(0), indices: new Uint32Array(0) }, 100)).toBe(0)
  })

  it('is typically that of most of the surface, whatever a small piece does', () => {
    const typical = (first: TriangleSoup, second: TriangleSoup): number =>
      typicalShiftBetween(sampledSurface(first, 2000), sampledSurface(second, 2000))
    expect(typical(ball(1, 40), ball(1.1, 40))).toBeCloseTo(0.1, 2)
    const speck = together(ball(1, 40), ball(0.02, 6, [3, 0, 0]))
    expect(worstShift(speck, ball(1, 40), 20_000)).toBeGreaterThan(1.9)
    expect(typical(speck, ball(1, 40))).toBeLessThan(0.1)
    expect(typical(ball(1, 40), speck)).toBeCloseTo(typical(speck, ball(1, 40)), 9)
  })
})
