import { describe, expect, it } from 'vitest'
import { partsBounds } from '../../item/measure.ts'
import { listViewParts } from '../../item/parts.ts'
import { boxMesh } from '../../geometry/shapes/box-mesh.ts'
import { documentOf } from '../../test-support/meshes.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { runStep } from '../../test-support/step-runs.ts'
import { sizeOf, box, nodeOf, swinging, standing, furthest } from '../../test-support/moving-items.ts'

describe('Set the size', () => {
  const { figure, doorway, gridCell } = tarnAndTiller.space

  it('makes the item as tall as figures, as wide as cells, or by a factor', async () => {
    expect(sizeOf((await runStep('set-size', box(), { by: 'figure', figures: 2 })).after)[1]).toBeCloseTo(
      2 * figure.height,
    )
    expect(sizeOf((await runStep('set-size', box(), { by: 'cells', cells: 3 })).after)[2]).toBeCloseTo(3 * gridCell)
    expect(sizeOf((await runStep('set-size', box(), { by: 'factor', factor: 0.5 })).after)).toEqual([1, 2, 4])
  })

  it('makes it fit through the doorway, just', async () => {
    const [width, height] = sizeOf((await runStep('set-size', box(), { by: 'doorway' })).after)
    expect(width).toBeLessThanOrEqual(doorway.width)
    expect(height).toBeLessThanOrEqual(doorway.height)
    expect(Math.max(width / doorway.width, height / doorway.height)).toBeGreaterThan(0.97)
  })

  it('gives an edge between two picked points the length that was asked', async () => {
    const { after, summary } = await runStep('set-size', box(), {
      by: 'edge',
      ends: [
        [1, 2, 3],
        [1, 6, 3],
      ],
      length: 3,
    })
    expect(sizeOf(after)[1]).toBeCloseTo(3)
    expect(summary.headline).toBe('× 0.75')
  })

  it('says what is missing where it cannot tell the size', async () => {
    await expect(runStep('set-size', box(), { by: 'edge', ends: [] })).rejects.toThrow(
      /not picked yet.*Click two points/,
    )
    await expect(
      runStep('set-size', box(), {
        by: 'edge',
        ends: [
          [0, 0, 0],
          [0, 0, 0],
        ],
      }),
    ).rejects.toThrow(/no distance/)
    const flat = documentOf({ flat: boxMesh({ min: [0, 0, 0], max: [1, 0, 1] }) })
    await expect(runStep('set-size', flat, { by: 'figure' })).rejects.toThrow(/no height.*by a factor/)
  })
})

describe('Place the origin', () => {
  const placed = async (parameters: Record<string, unknown>) =>
    partsBounds(listViewParts((await runStep('place-origin', box(), parameters)).after))

  it('puts it in the middle of the base, in the centre, at a point, or at a part', async () => {
    expect((await placed({ at: 'base' })).min).toEqual([-1, 0, -4])
    expect((await placed({ at: 'centre' })).min).toEqual([-1, -2, -4])
    expect((await placed({ at: 'point', point: [[3, 2, 3]] })).max).toEqual([0, 4, 8])
    expect((await placed({ at: 'part', part: 'box' })).min).toEqual([-1, 0, -4])
    expect((await placed({ at: 'keep' })).min).toEqual([1, 2, 3])
  })

  it('snaps the origin or the lower edges to the grid', async () => {
    expect((await placed({ at: 'centre', snap: 'origin', grid: 2 })).min).toEqual([-1, -2, -5])
    for (const value of (await placed({ at: 'centre', snap: 'bounds', grid: 1.5 })).min)
      expect(Math.abs(value / 1.5 - Math.round(value / 1.5))).toBeLessThan(1e-6)
  })

  it('moves what a clip moves with its keys, and leaves still parts without a transform', async () => {
    const { after } = await runStep('place-origin', swinging(), { at: 'point', point: [[1, 2, 3]] })
    expect(nodeOf(after, 'post').getTranslation()).toEqual([0, 0, 0])
    for (const key of [0, 1, 2])
      expect(
        furthest(
          standing(swinging(), key).map((value, index) => value - [1, 2, 3][index % 3]),
          standing(after, key),
        ),
      ).toBeLessThan(1e-5)
  })

  it('passes over a part that is gone, and asks for a point that was not picked', async () => {
    expect((await runStep('place-origin', box(), { at: 'part', part: 'mast' })).summary.doesNotApply).toMatch(
      /no part “mast”/,
    )
    await expect(runStep('place-origin', box(), { at: 'point', point: [] })).rejects.toThrow(/Click a point/)
  })
})
