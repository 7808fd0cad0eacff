import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ball } from '../../test-support/meshes.ts'
import { sheet } from '../../test-support/shapes.ts'
import type { TriangleSoup } from '../shapes/convex-hull.ts'
import type { CornerAttributes } from './corner-attributes.ts'
import { errorCurve, shareBudget, trianglesAt } from './share-budget.ts'

const none: CornerAttributes = new Map()

/** An open tube of two rows along x whose triangles stand there once for each side, as scanned pipes and rods come. */
function twoSidedTube(sides: number): TriangleSoup {
  const positions: number[] = []
  const around: number[] = []
  for (let side = 0; side < sides; side++) {
    const angle = (side / sides) * 2 * Math.PI
    for (const x of [-2.6, 0, 2.6]) positions.push(x, Math.cos(angle) * 0.4, Math.sin(angle) * 0.4)
    for (const row of [0, 1]) {
      const [a, b] = [side * 3 + row, ((side + 1) % sides) * 3 + row]
      around.push(a, b, b + 1, a, b + 1, a + 1)
    }
  }
  return { positions: Float32Array.from(positions), indices: Uint32Array.from([...around, ...around.toReversed()]) }
}

describe('sharing a budget', () => {
  const curve = (triangles: number, shift: number) => ({
    triangles: [triangles, Math.ceil(triangles / 4)],
    shifts: [0, shift],
  })
  it('never exceeds it, gives each mesh something and none more than it has', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            triangles: fc.integer({ min: 1, max: 50_000 }),
            shift: fc.double({ min: 1e-6, max: 10, noNaN: true }),
            instances: fc.integer({ min: 1, max: 4 }),
            weight: fc.double({ min: 0.01, max: 20, noNaN: true }),
          }),
          { minLength: 1, maxLength: 12 },
        ),
        fc.integer({ min: 100, max: 60_000 }),
        (meshes, budget) => {
          const shares = shareBudget(
            meshes.map(({ triangles, shift, ...rest }) => ({ ...rest, curve: curve(triangles, shift) })),
            budget,
          )
          expect(shares.reduce((sum, share, index) => sum + share * meshes[index].instances, 0)).toBeLessThanOrEqual(
            budget,
          )
          shares.forEach((share, index) => {
            expect(share).toBeGreaterThanOrEqual(1)
            expect(share).toBeLessThanOrEqual(meshes[index].triangles)
          })
        },
      ),
    )
  })

  it('gives more to what has more detail, is seen more, or counts more by hand', async () => {
    const [plain, rich] = [
      await errorCurve({ ...sheet(40, 40), attributes: none }),
      await errorCurve({ ...sheet(40, 40, (x, y) => Math.sin(x * 1.7) + Math.cos(y * 2.3)), attributes: none }),
    ]
    const [few, many] = shareBudget(
      [
        { curve: plain, instances: 1, weight: 1 },
        { curve: rich, instances: 1, weight: 1 },
      ],
      1500,
    )
    expect(many).toBeGreaterThan(few * 4)
    const [hidden, shown] = shareBudget(
      [
        { curve: rich, instances: 1, weight: 0.1 },
        { curve: rich, instances: 1, weight: 1 },
      ],
      1500,
    )
    expect(shown).toBeGreaterThan(hidden)
  })

  it('is measured whatever the triangles are, further and further for fewer and fewer', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 4, max: 24 }).chain((corners) =>
          fc.record({
            places: fc.array(fc.integer({ min: 0, max: 4 }), { minLength: corners * 3, maxLength: corners * 3 }),
            picks: fc.array(fc.integer({ min: 0, max: corners - 1 }), { minLength: 3, maxLength: 240 }),
          }),
        ),
        async ({ places, picks }) => {
          const indices = Uint32Array.from(picks.slice(0, picks.length - (picks.length % 3)))
          const curve = await errorCurve({ positions: Float32Array.from(places), indices, attributes: none })
          expect(curve.triangles[0]).toBe(indices.length / 3)
          for (let at = 1; at < curve.triangles.length; at++) {
            expect(curve.triangles[at]).toBeLessThan(curve.triangles[at - 1])
            expect(curve.shifts[at]).toBeGreaterThan(curve.shifts[at - 1])
          }
        },
      ),
    )
  })

  it.each([8, 12, 24, 40])(
    'is measured of a two-sided tube of %i sides, which falls together at once',
    async (sides) => {
      const tube = twoSidedTube(sides)
      const { triangles, shifts } = await errorCurve({ ...tube, attributes: none })
      expect(triangles[0]).toBe(tube.indices.length / 3)
      expect(triangles.length).toBeGreaterThan(1)
      expect(shifts).toHaveLength(triangles.length)
    },
  )

  it('leaves a fifth of its part to what others need more', async () => {
    const plain = { curve: await errorCurve({ ...sheet(40, 40), attributes: none }), instances: 1, weight: 1 }
    const bumpy = await errorCurve({
      ...sheet(40, 40, (x, y) => Math.sin(x * 2.9) * 3 + Math.cos(y)),
      attributes: none,
    })
    const [few, many] = shareBudget([plain, { curve: bumpy, instances: 1, weight: 100 }], 1600)
    expect(few).toBeGreaterThanOrEqual(160)
    expect(few + many).toBeLessThanOrEqual(1600)
  })

  it('tells how many triangles a shift leaves: all for none, fewer for more', async () => {
    const measured = await errorCurve({ ...ball(1, 30), attributes: none })
    expect(trianglesAt(measured, 0)).toBe(ball(1, 30).indices.length / 3)
    expect(trianglesAt(measured, 0.05)).toBeLessThan(trianglesAt(measured, 0.01))
  })
})
