import { describe, expect, it } from 'vitest'
import { multiplyMatrices } from '../../core/maths/axes'
import { chainMatrices, rotationMatrix, scalingMatrix, translationMatrix } from '../../core/maths/matrices'
import type { SceneData } from '../workers/scene-data'
import { matricesOf } from './bend-geometry'
import { movedScene } from './moved-scene'

const turned = rotationMatrix(0, 0, 1, 0.5)
const scene: SceneData = {
  parts: [
    {
      name: 'cloth',
      role: 'part',
      level: 0,
      triangles: 1,
      matrix: translationMatrix(1, 0, 0),
      bounds: { min: [1, 0, 0], max: [2, 1, 0] },
      primitives: [],
    },
  ],
  links: [],
  places: [{ name: 'at_flue', title: 'Attach point', joins: null, at: [0, 1, 0], ahead: [0, 1, 0] }],
  materials: [],
  pictures: [],
  looks: [],
  turns: null,
  motion: {
    seconds: 1,
    frames: 2,
    parts: [
      { name: 'rib', matrices: Float32Array.from([...translationMatrix(0, 0, 0), ...translationMatrix(0, 2, 0)]) },
    ],
    bones: [{ name: 'bone', matrices: Float32Array.from([...translationMatrix(0, 0, 0), ...turned]) }],
  },
  lights: [
    {
      name: 'glow',
      colour: [1, 1, 1],
      intensity: 1,
      range: 3,
      at: [0, 1, 0],
      beam: { towards: [0, -1, 0], innerDegrees: 10, outerDegrees: 20 },
    },
  ],
  bend: {
    bones: [{ name: 'bone', above: -1, at: [1, 0, 0] }],
    held: [{ part: 'cloth', bones: [0], rest: Float32Array.from(translationMatrix(1, 0, 0)), surfaces: [] }],
    carried: [],
  },
  fit: translationMatrix(0, 0, 0),
}
/** Twice as large, lying on its side, and somewhere else. */
const fit = chainMatrices(translationMatrix(0, 0, 5), rotationMatrix(1, 0, 0, -Math.PI / 2), scalingMatrix(2, 2, 2))

const near = (found: ArrayLike<number>, wanted: ArrayLike<number>): void => {
  expect(found.length).toBe(wanted.length)
  Array.from(wanted).forEach((value, at) => expect(found[at]).toBeCloseTo(value, 5))
}

describe('a scene that is moved', () => {
  const moved = movedScene(scene, fit)
  it('has its parts, places and lights there, with their ways and their reach', () => {
    near(moved.parts[0].matrix, multiplyMatrices(fit, scene.parts[0].matrix))
    near(moved.places[0].at, [0, 0, 3])
    near(moved.places[0].ahead, [0, 0, -1])
    near(moved.lights[0].beam?.towards ?? [], [0, 0, 1])
    expect(moved.lights[0].range).toBeCloseTo(6, 5)
  })
  it('moves as it did, only there: what goes twice up goes four times ahead', () => {
    const last = moved.motion?.parts[0].matrices.subarray(16) ?? []
    near(Array.from(last).slice(12, 15), [0, 0, 1])
  })
  it('bends as it did: a corner goes where the moved scene would have it', () => {
    const way = Array.from(scene.motion?.bones[0].matrices.subarray(16) ?? [])
    const [held] = scene.bend?.held ?? []
    const before = multiplyMatrices(scene.parts[0].matrix, Array.from(matricesOf(held, [way], scene.parts[0].matrix)))
    const movedWay = Array.from(moved.motion?.bones[0].matrices.subarray(16) ?? [])
    const [movedHeld] = moved.bend?.held ?? []
    const after = multiplyMatrices(
      moved.parts[0].matrix,
      Array.from(matricesOf(movedHeld, [movedWay], moved.parts[0].matrix)),
    )
    near(after, multiplyMatrices(fit, before))
  })
})
