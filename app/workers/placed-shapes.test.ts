import { describe, expect, it } from 'vitest'
import { mergedTriangles } from '../../core/item/measure'
import { listSolids } from '../../core/item/annotations/solid/list'
import { boxMesh } from '../../core/geometry/shapes/box-mesh'
import { ball, documentOf } from '../../core/test-support/meshes'
import { runStep } from '../../core/test-support/step-runs'
import { addSolidParameters } from '../../core/operations/solids/add-solid-parameters'
import { placedShapes } from './placed-shapes'

const entry = (step: string, parameters: Record<string, unknown>) => ({
  id: 'x',
  step,
  on: true,
  reason: null,
  parameters,
})
const sorted = (positions: Float32Array): string[] =>
  Array.from({ length: positions.length / 3 }, (_, corner) =>
    [...positions.subarray(corner * 3, corner * 3 + 3)].map((value) => value.toFixed(3)).join(' '),
  ).sort()

describe('the shapes that handles are put on', () => {
  it.each([
    ['box', { turned: true }],
    ['ball', {}],
    ['capsule', {}],
    ['hull', { points: 12 }],
  ] as const)('of a %s are where the step puts its solid', async (shape, more) => {
    const document = documentOf({
      egg: {
        ...ball(1, 12),
        positions: ball(1, 12).positions.map((value, at) => (at % 3 === 0 ? value * 2 + 3 : value)),
      },
    })
    document.getRoot().listNodes()[0].setTranslation([1, 5, -2]).setRotation([0, 0.3826834, 0, 0.9238795])
    const parameters = addSolidParameters.parse({
      part: 'egg',
      shape,
      surface: 'stone',
      layers: [],
      massKilograms: 0,
      points: 32,
      triangles: 100,
      moved: [0.5, 1, 0],
      turnedDegrees: [0, 30, 0],
      sized: [1.5, 1, 1],
      ...more,
    })
    const [placed] = await placedShapes(document, entry('add-solid', parameters))
    const { after } = await runStep('add-solid', document, parameters)
    expect(sorted(placed.positions)).toEqual(sorted(mergedTriangles(listSolids(after)).positions))
    // Its own box, put where it says, holds all of it.
    const [x, y, z, w] = placed.turn
    for (let at = 0; at < placed.positions.length; at += 3) {
      const off = [0, 1, 2].map((axis) => placed.positions[at + axis] - placed.middle[axis])
      const t = [2 * (-y * off[2] + z * off[1]), 2 * (-z * off[0] + x * off[2]), 2 * (-x * off[1] + y * off[0])]
      const own = [
        off[0] + w * t[0] - y * t[2] + z * t[1],
        off[1] + w * t[1] - z * t[0] + x * t[2],
        off[2] + w * t[2] - x * t[1] + y * t[0],
      ]
      own.forEach((value, axis) => expect(Math.abs(value)).toBeLessThanOrEqual(placed.half[axis] + 1e-3))
    }
  })
  it('of a solid that is changed are where the change puts it; other steps have none', async () => {
    const { after } = await runStep('add-solid', documentOf({ a: boxMesh({ min: [0, 0, 0], max: [2, 1, 1] }) }), {
      shape: 'box',
    })
    const parameters = { solid: 'solid_box_01', moved: [0, 3, 0], turnedDegrees: [0, 90, 0], sized: [2, 1, 1] }
    const [placed] = await placedShapes(after, entry('change-solid', parameters))
    const { after: changed } = await runStep('change-solid', after, parameters)
    expect(sorted(placed.positions)).toEqual(sorted(mergedTriangles(listSolids(changed)).positions))
    expect(await placedShapes(after, entry('weld', {}))).toEqual([])
    expect(await placedShapes(after, entry('change-solid', { solid: 'gone' }))).toEqual([])
    expect(await placedShapes(after, undefined)).toEqual([])
  })
})
