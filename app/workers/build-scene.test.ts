import { beforeAll, describe, expect, it } from 'vitest'
import { kindOf } from '../../core/game/load'
import { packItems } from '../../core/pack/pack-crate'
import { prepareDemo, tarnAndTiller, type PreparedItem } from '../../core/test-support/prepared-gate'
import { loadPack } from '../../core/trial/load-pack'
import { buildScene } from './build-scene'
import { buildTrialScene } from './build-trial-scene'
import { sceneDataSchema, sceneTransfers } from './scene-data'

const game = { rulebook: tarnAndTiller, kind: kindOf(tarnAndTiller, 'mover') }

let bell: PreparedItem
beforeAll(async () => {
  bell = await prepareDemo('mooring_bell', 'mover')
})

describe('what the yard is given', () => {
  it('is a whole scene in arrays of its own', async () => {
    const scene = sceneDataSchema.parse(await buildScene(bell.result.document, game))
    expect(scene.parts.map((part) => part.name).sort()).toEqual(['bell', 'post', 'swing_arm'])
    // A colour and a mixed map for each of three materials, and the flat normal map that goes with them.
    expect(scene.pictures).toHaveLength(7)
    expect(scene.materials.every((material) => material.colourMap !== null)).toBe(true)
    const transfers = sceneTransfers(scene)
    expect(new Set(transfers).size).toBe(transfers.length)
    const kept = new Set(
      bell.result.document
        .getRoot()
        .listAccessors()
        .map((accessor) => accessor.getArray()?.buffer),
    )
    expect(transfers.some((buffer) => kept.has(buffer as ArrayBuffer))).toBe(false)
  })

  it('places moving parts where their nodes are', async () => {
    const scene = await buildScene(bell.result.document)
    const arm = scene.parts.find((part) => part.name === 'swing_arm')
    expect(arm?.matrix[13]).toBeCloseTo(3.6)
    expect(arm?.bounds.max[1]).toBeGreaterThan(3.5)
  })

  it('knows how the source came to stand where the result does', async () => {
    expect((await buildScene(bell.start.document)).fit).toEqual([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1])
    expect((await buildScene(bell.result.document)).fit[0]).toBe(2)
  })

  it('is, for the trial, made of the packed bytes and agrees with the result', async () => {
    const pack = await packItems(
      [{ name: 'bell', kind: kindOf(tarnAndTiller, 'mover'), document: bell.result.document }],
      tarnAndTiller,
      'x',
    )
    const [item] = loadPack(pack.bytes, tarnAndTiller).items
    const loaded = sceneDataSchema.parse(await buildTrialScene(item, tarnAndTiller))
    const result = await buildScene(bell.result.document)
    expect(loaded.parts.map((part) => [part.name, part.triangles])).toEqual(
      result.parts.map((part) => [part.name, part.triangles]),
    )
    for (const [index, part] of loaded.parts.entries()) {
      for (let axis = 0; axis < 3; axis++)
        expect(part.bounds.max[axis]).toBeCloseTo(result.parts[index].bounds.max[axis], 4)
    }
    expect(loaded.pictures[0].data.length).toBe(loaded.pictures[0].width * loaded.pictures[0].height * 4)
  })
})
