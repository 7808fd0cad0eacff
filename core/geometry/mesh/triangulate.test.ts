import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { surfaceArea } from '../surface/sample-surface.ts'
import { diagonalChoices, triangulatePolygons, type DiagonalChoice } from './triangulate.ts'

/** Area, count, and how many triangles face up less those that face down. */
function cut(positions: number[], sizes: number[], choice?: DiagonalChoice) {
  const points = Float32Array.from(positions)
  const starts = Uint32Array.from([
    0,
    ...sizes.map((_, index) => sizes.slice(0, index + 1).reduce((sum, size) => sum + size, 0)),
  ])
  const indices = triangulatePolygons(points, starts, choice)
  let facing = 0
  for (let at = 0; at < indices.length; at += 3) {
    const [a, b, c] = [indices[at] * 3, indices[at + 1] * 3, indices[at + 2] * 3]
    facing += Math.sign(
      (points[b] - points[a]) * (points[c + 1] - points[a + 1]) -
        (points[b + 1] - points[a + 1]) * (points[c] - points[a]),
    )
  }
  return { area: surfaceArea(points, indices), triangles: indices.length / 3, facing, indices: [...indices] }
}

const squareWithHole = [0, 0, 4, 0, 4, 4, 0, 4, 0, 0, 1, 1, 1, 3, 3, 3, 3, 1, 1, 1]
const inPlane = (flat: readonly number[]): number[] =>
  flat.flatMap((value, index) => (index % 2 === 1 ? [value, 0] : [value]))

describe('triangulation', () => {
  it('covers a concave polygon exactly, all one way round', () => {
    expect(cut([0, 0, 0, 2, 0, 0, 2, 1, 0, 1, 1, 0, 1, 2, 0, 0, 2, 0], [6])).toMatchObject({
      area: 3,
      triangles: 4,
      facing: 4,
    })
  })

  it.each(diagonalChoices)('leaves the hole of a concave polygon open, choosing %s', (choice) => {
    // A square of 16 with a hole of 4 in it, joined by a cut there and back; then an L-shaped one with the same hole.
    expect(cut(inPlane(squareWithHole), [10], choice)).toMatchObject({ area: 12, triangles: 8, facing: 8 })
    const bent = [0, 0, 6, 0, 6, 2, 4, 2, 4, 4, 0, 4, 0, 0, 1, 1, 1, 3, 3, 3, 3, 1, 1, 1]
    expect(cut(inPlane(bent), [12], choice)).toMatchObject({ area: 16, triangles: 10, facing: 10 })
  })

  it('cuts a concave quad inside whatever is asked, and a convex one as asked', () => {
    for (const choice of diagonalChoices)
      expect(cut([0, 0, 0, 2, 2, 0, 4, 0, 0, 2, 4, 0], [4], choice)).toMatchObject({ area: 4, triangles: 2, facing: 2 })
    expect(cut([0, 0, 0, 5, -1, 0, 10, 0, 0, 5, 1, 0], [4], 'shortest').indices).toEqual([0, 1, 3, 1, 2, 3])
  })

  it('takes the diagonal that bends least, or the one with even angles, when that is asked', () => {
    // A flat quad with one corner lifted: over 0–2 it bends, over 1–3 the lifted corner is a fold of its own.
    const folded = [0, 0, 0, 3, 0, 0, 3.2, 3, 1.4, 0, 3, 0]
    const bendOf = ([a, b, c, d, e, f]: number[]) => {
      const n = normal(folded, a, b, c)
      const m = normal(folded, d, e, f)
      return n[0] * m[0] + n[1] * m[1] + n[2] * m[2]
    }
    const flattest = cut(folded, [4], 'flattest').indices
    const other =
      flattest.includes(0) && flattest.filter((corner) => corner === 0).length === 2
        ? [0, 1, 3, 1, 2, 3]
        : [0, 1, 2, 0, 2, 3]
    expect(bendOf(flattest)).toBeGreaterThanOrEqual(bendOf(other))
    const sheared = [0, 0, 0, 4, 0, 0, 7, 1, 0, 3, 1, 0]
    expect(cut(sheared, [4], 'even').indices).toEqual([0, 1, 3, 1, 2, 3])
  })

  it('keeps the winding of a polygon seen from behind', () => {
    for (const choice of diagonalChoices)
      expect(cut([0, 2, 0, 1, 2, 0, 1, 1, 0, 2, 1, 0, 2, 0, 0, 0, 0, 0], [6], choice)).toMatchObject({
        area: 3,
        facing: -4,
      })
  })

  it('covers any star-shaped polygon exactly, whichever diagonals are asked for', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0.2, max: 3, noNaN: true }), { minLength: 5, maxLength: 24 }),
        fc.constantFrom(...diagonalChoices),
        (radii, choice) => {
          const points = radii.flatMap((radius, index) => [
            radius * Math.cos((index / radii.length) * Math.PI * 2),
            radius * Math.sin((index / radii.length) * Math.PI * 2),
            0,
          ])
          let wanted = 0
          for (let at = 0; at < radii.length; at++)
            wanted += (radii[at] * radii[(at + 1) % radii.length] * Math.sin((Math.PI * 2) / radii.length)) / 2
          const { area, triangles } = cut(points, [radii.length], choice)
          expect(triangles).toBe(radii.length - 2)
          expect(area).toBeCloseTo(wanted, 3)
        },
      ),
      { numRuns: 80 },
    )
  })
})

function normal(points: readonly number[], a: number, b: number, c: number): number[] {
  const u = [0, 1, 2].map((axis) => points[b * 3 + axis] - points[a * 3 + axis])
  const v = [0, 1, 2].map((axis) => points[c * 3 + axis] - points[a * 3 + axis])
  const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
  return n.map((value) => value / Math.hypot(...n))
}
