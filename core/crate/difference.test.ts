import { describe, expect, it } from 'vitest'
import { copyDocument } from '../item/io.ts'
import { countTriangles, listViewParts } from '../item/parts.ts'
import { ball, documentOf, unitBox } from '../test-support/meshes.ts'
import { runStep } from '../test-support/step-runs.ts'
import { differenceOf, placementOf } from './difference.ts'

describe('how far two states of an item lie apart', () => {
  it('is nothing for the same item, however it was turned, scaled and moved since', async () => {
    const source = documentOf({ ball: ball(1, 16, [3, 0, 1]) })
    const scaled = (await runStep('set-size', source, { by: 'factor', factor: 4 })).after
    const placed = (await runStep('place-origin', scaled, { at: 'base' })).after
    const mirrored = (await runStep('mirror', placed, { across: 'z' })).after
    const { worst, mean, outlines } = differenceOf(source, mirrored)
    expect(worst).toBeLessThan(1e-4)
    expect(mean).toBeLessThan(1e-5)
    expect(Math.max(...outlines)).toBeLessThan(0.002)
  })

  it('is told for each corner of each surface, in the units of the second', async () => {
    const source = documentOf({ ball: ball(1, 24) })
    const { after } = await runStep('reduce-triangles', source, { targetTriangles: 100 })
    const { parts, worst } = differenceOf(source, after)
    expect(parts.map((part) => part.name)).toEqual(['ball'])
    expect(parts[0].distances[0].length).toBe(
      listViewParts(after)[0].mesh.listPrimitives()[0].getAttribute('POSITION')?.getCount(),
    )
    expect(Math.max(...parts[0].distances[0])).toBeLessThanOrEqual(worst * 1.5)
    expect(worst).toBeGreaterThan(0.005)
  })

  it('shows where something is gone', async () => {
    const two = documentOf({ post: unitBox(), far: ball(0.5, 8, [6, 0, 0]) })
    const one = copyDocument(two)
    listViewParts(one)[1].node.dispose()
    const { worst, worstAt } = differenceOf(two, one)
    expect(worst).toBeGreaterThan(4)
    expect(worstAt[0]).toBeGreaterThan(5)
    expect(countTriangles(listViewParts(one))).toBe(12)
  })

  it('places one state where the other stands', async () => {
    const source = documentOf({ box: unitBox() })
    const { after } = await runStep('place-origin', source, { at: 'point', point: [[1, 0, 0]] })
    expect(placementOf(source, after).slice(12, 15)).toEqual([-1, 0, 0])
    expect(placementOf(after, source).slice(12, 15)).toEqual([1, 0, 0])
  })
})
