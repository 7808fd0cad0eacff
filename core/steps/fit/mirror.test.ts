import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { getRootExtras } from '../../item/extras.ts'
import { mergedTriangles, partsBounds } from '../../item/measure.ts'
import { listViewParts } from '../../item/parts.ts'
import { readPrimitive, writeAttribute } from '../../item/primitive-arrays.ts'
import { boxMesh, enclosedVolume } from '../../geometry/shapes/box-mesh.ts'
import { changeBasis } from '../../geometry/mesh/change-basis.ts'
import { ball, documentOf, unitBox } from '../../test-support/meshes.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { proposals, runStep } from '../../test-support/step-runs.ts'
import { nodeOf, swinging, standing, furthest } from '../../test-support/moving-items.ts'

describe('Mirror', () => {
  it('keeps faces outward and turns the sign of tangents', async () => {
    const document = documentOf({ ball: ball(2, 10, [3, 0, 0]) })
    const primitive = listViewParts(document)[0].mesh.listPrimitives()[0]
    writeAttribute(
      document,
      primitive,
      'TANGENT',
      Float32Array.from(
        { length: (readPrimitive(primitive).positions.length / 3) * 4 },
        (_, at) => [1, 0, 0, 1][at % 4],
      ),
      4,
    )
    const { after } = await runStep('mirror', document, { across: 'x' })
    const { positions, indices } = mergedTriangles(listViewParts(after))
    expect(enclosedVolume({ positions, indices })).toBeGreaterThan(30)
    expect(partsBounds(listViewParts(after)).max[0]).toBeCloseTo(-1)
    expect([
      ...(listViewParts(after)[0].mesh.listPrimitives()[0].getAttribute('TANGENT')?.getElement(0, []) ?? []),
    ]).toEqual([-1, 0, 0, -1])
  })

  it('mirrors motion: at every key the mirrored item is the mirror image of the item', async () => {
    for (const [index, across] of ['x', 'y', 'z'].entries()) {
      const { after } = await runStep('mirror', swinging(), { across })
      for (const key of [0, 1, 2]) {
        const wanted = standing(swinging(), key).map((value, at) => (at % 3 === index ? -value : value))
        // The winding is reversed, so the corners of a triangle come in another order: compare as sets of places.
        const sorted = (values: number[]): number[] =>
          Array.from({ length: values.length / 3 }, (_, at) => values.slice(at * 3, at * 3 + 3))
            .sort((a, b) => a[0] - b[0] || a[1] - b[1] || a[2] - b[2])
            .flat()
        expect(
          furthest(
            sorted(wanted.map((value) => Math.round(value * 1e4) / 1e4)),
            sorted(standing(after, key).map((value) => Math.round(value * 1e4) / 1e4)),
          ),
        ).toBeLessThan(2e-4)
      }
    }
  })

  it('twice is nothing at all', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(0, 1, 2),
        fc.array(fc.double({ min: -3, max: 3, noNaN: true }), { minLength: 4, maxLength: 4 }),
        (axis, [x, y, z, w]) => {
          const document = swinging()
          const length = Math.hypot(x, y, z, w) || 1
          nodeOf(document, 'holder').setRotation(
            length > 0.1 ? [x / length, y / length, z / length, w / length] : [0, 0, 0, 1],
          )
          const before = standing(document, 1)
          const mirror = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1].map((value, index) =>
            index === axis * 5 ? -1 : value,
          )
          changeBasis(document, mirror, 1)
          changeBasis(document, mirror, 1)
          expect(furthest(before, standing(document, 1))).toBeLessThan(1e-5)
        },
      ),
      { numRuns: 30 },
    )
  })
})

describe('Turn axes of a mirrored source', () => {
  const leftHanded = { ...tarnAndTiller, space: { ...tarnAndTiller.space, handedness: 'left' as const } }
  it('is not proposed for a left-handed game, whose hand is made when it is packed', () => {
    expect(proposals('turn-axes', documentOf({ box: unitBox() }), { rulebook: leftHanded })).toEqual([])
  })
  it('keeps the volume positive and the item as large', async () => {
    const document = documentOf({ wedge: boxMesh({ min: [0, 0, 0], max: [1, 2, 3] }) })
    const { after, summary } = await runStep('turn-axes', document, { up: '+y', forward: '+z', mirrored: true })
    const { positions, indices } = mergedTriangles(listViewParts(after))
    expect(enclosedVolume({ positions, indices })).toBeCloseTo(6)
    expect(partsBounds(listViewParts(after)).min[0]).toBeCloseTo(-1)
    expect(summary.details.join(' ')).toMatch(/Left and right were exchanged/)
    expect(getRootExtras(after.getRoot()).fit?.[0]).toBe(-1)
  })
})
