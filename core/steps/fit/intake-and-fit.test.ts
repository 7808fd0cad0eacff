import type { Document } from '@gltf-transform/core'
import { KHRLightsPunctual } from '@gltf-transform/extensions'
import { describe, expect, it } from 'vitest'
import { getRootExtras, setRootExtras } from '../../item/extras.ts'
import { boundsSize, partBounds, partsBounds } from '../../item/measure.ts'
import { itemScene, listSceneNodes, listViewParts } from '../../item/parts.ts'
import { writeAttribute, writeIndices } from '../../item/primitive-arrays.ts'
import { findStrays } from '../../item/strays.ts'
import { likelyUnit, unitName } from '../../item/units.ts'
import { boxMesh, enclosedVolume } from '../../geometry/shapes/box-mesh.ts'
import { readPrimitive } from '../../item/primitive-arrays.ts'
import { kindOf } from '../../game/load.ts'
import { documentOf, unitBox } from '../../test-support/meshes.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { proposals, runStep } from '../../test-support/step-runs.ts'

const names = (document: Document): string[] => listSceneNodes(document).map((node) => node.getName())

/** A box with everything around it that a scene is exported with. */
function clutteredScene(): Document {
  const document = documentOf({
    pier: boxMesh({ min: [-1, 0, -1], max: [1, 3, 1] }),
    shade: boxMesh({ min: [-2, -0.001, -2], max: [2, 0, 2] }),
  })
  const scene = itemScene(document)
  const shade = listViewParts(document)[1]
  shade.mesh.listPrimitives()[0].getMaterial()?.setBaseColorFactor([0.02, 0.02, 0.02, 0.5])
  scene.addChild(document.createNode('Camera').setCamera(document.createCamera('Camera').setType('perspective')))
  const lamp = document.createNode('Lamp')
  lamp.setExtension('KHR_lights_punctual', document.createExtension(KHRLightsPunctual).createLight('Lamp'))
  scene.addChild(lamp)
  scene.addChild(document.createNode('Nothing'))
  return document
}

describe('Drop strays', () => {
  it('finds camera, lamp, empty and ground shade, and nothing of the model', () => {
    expect(findStrays(clutteredScene()).map(({ name, what }) => [name, what])).toEqual([
      ['Camera', 'camera'],
      ['Lamp', 'lamp'],
      ['Nothing', 'empty'],
      ['shade', 'ground shade'],
    ])
  })

  it('takes out what was found and keeps the model', async () => {
    const { after, summary } = await runStep('drop-strays', clutteredScene())
    expect(names(after)).toEqual(['pier'])
    expect(summary).toMatchObject({ headline: '−4', changed: true })
    expect(after.getRoot().listCameras()).toHaveLength(0)
    expect(
      after
        .getRoot()
        .listMaterials()
        .map((material) => material.getName()),
    ).toEqual(['pier_material'])
  })

  it('keeps what is switched off', async () => {
    const { after } = await runStep('drop-strays', clutteredScene(), { lamps: false, groundShade: false })
    expect(names(after)).toEqual(['pier', 'shade', 'Lamp'])
  })

  it('leaves out further parts by name', async () => {
    const { after } = await runStep('drop-strays', documentOf({ keep: unitBox(), drop: unitBox() }), {
      parts: ['drop'],
    })
    expect(names(after)).toEqual(['keep'])
  })

  it('keeps the lamps of a kind that may have lights', () => {
    const fitting = kindOf(tarnAndTiller, 'fitting')
    const [proposal] = proposals('drop-strays', clutteredScene(), { kind: fitting })
    expect(proposal.parameters).toMatchObject({ lamps: false, empties: false })
  })

  it('does not take a lit or a raised plane for a shade', () => {
    const lit = clutteredScene()
    listViewParts(lit)[1].mesh.listPrimitives()[0].getMaterial()?.setBaseColorFactor([0.7, 0.7, 0.7, 1])
    expect(findStrays(lit).some((stray) => stray.what === 'ground shade')).toBe(false)
    const raised = documentOf({
      pier: boxMesh({ min: [-1, 0, -1], max: [1, 3, 1] }),
      roof: boxMesh({ min: [-2, 3, -2], max: [2, 3.001, 2] }),
    })
    listViewParts(raised)[1].mesh.listPrimitives()[0].getMaterial()?.setBaseColorFactor([0, 0, 0, 1])
    setRootExtras(raised.getRoot(), { ...getRootExtras(raised.getRoot()) })
    expect(findStrays(raised).map((stray) => stray.name)).toEqual([])
  })

  it('is not proposed when there is nothing to drop', () => {
    expect(proposals('drop-strays', documentOf({ pier: unitBox() }))).toEqual([])
  })
})

describe('Turn axes', () => {
  const zUp = (): Document => {
    const document = documentOf({ post: boxMesh({ min: [-1, -2, 0], max: [1, 0, 5] }) })
    setRootExtras(document.getRoot(), {
      ...getRootExtras(document.getRoot()),
      axes: { up: '+z', forward: '-y', from: 'declared' },
    })
    return document
  }

  it('is proposed with the axes of both in its reason, and not when they agree', () => {
    const [proposal] = proposals('turn-axes', zUp())
    expect(proposal.parameters).toEqual({ up: '+z', forward: '-y', mirrored: false })
    expect(proposal.reason).toMatch(/\+Z is up.*−Y is forward.*\+Y up and \+Z forward/)
    expect(proposals('turn-axes', documentOf({ post: unitBox() }))).toEqual([])
  })

  it('stands the item up, keeps its size and remembers how it was turned', async () => {
    const { after } = await runStep('turn-axes', zUp())
    const bounds = partsBounds(listViewParts(after))
    expect(bounds.min.map((value) => value + 0)).toEqual([-1, 0, 0])
    expect(bounds.max).toEqual([1, 5, 2])
    const { axes, fit } = getRootExtras(after.getRoot())
    expect(axes).toEqual({ up: '+y', forward: '+z', from: 'chosen' })
    expect(fit).toEqual([1, 0, 0, 0, 0, 0, -1, 0, 0, 1, 0, 0, 0, 0, 0, 1])
  })

  it('keeps faces outward: a turn is no mirror', async () => {
    const { after } = await runStep('turn-axes', zUp())
    const volume = enclosedVolume(readPrimitive(listViewParts(after)[0].mesh.listPrimitives()[0]))
    expect(volume).toBeCloseTo(20)
  })

  it('refuses up and forward on one axis', async () => {
    await expect(runStep('turn-axes', zUp(), { up: '+z', forward: '-z' })).rejects.toThrow(
      /lie on the same axis.*Choose two different axes/,
    )
  })

  it('turns moving nodes and their keys, so that motion goes on meaning the same', async () => {
    const document = zUp()
    const root = document.getRoot()
    const [buffer] = root.listBuffers()
    const node = listViewParts(document)[0].node.setTranslation([0, -3, 1])
    const quarterAboutZ = [0, 0, Math.SQRT1_2, Math.SQRT1_2]
    const sampler = document
      .createAnimationSampler()
      .setInput(
        document
          .createAccessor()
          .setArray(new Float32Array([0, 1]))
          .setType('SCALAR')
          .setBuffer(buffer),
      )
      .setOutput(
        document
          .createAccessor()
          .setArray(new Float32Array([0, 0, 0, 1, ...quarterAboutZ]))
          .setType('VEC4')
          .setBuffer(buffer),
      )
    document
      .createAnimation('spin')
      .addSampler(sampler)
      .addChannel(document.createAnimationChannel().setTargetNode(node).setTargetPath('rotation').setSampler(sampler))
    const { after } = await runStep('turn-axes', document)
    // What turned about the old up turns about the new one.
    const output = after.getRoot().listAnimations()[0].listSamplers()[0].getOutput()
    expect(output?.getElement(1, []).map((value) => Math.round(value * 1000) / 1000 + 0)).toEqual([0, 0.707, 0, 0.707])
    expect(
      listViewParts(after)[0]
        .node.getTranslation()
        .map((value) => value + 0),
    ).toEqual([0, 1, 3])
  })
})

describe('Scale to game', () => {
  const inUnit = (metresPerUnit: number | null, size: number): Document => {
    const document = documentOf({ post: boxMesh({ min: [0, 0, 0], max: [size, size * 2, size] }) })
    setRootExtras(document.getRoot(), {
      ...getRootExtras(document.getRoot()),
      units: { metresPerUnit, from: metresPerUnit === null ? 'unknown' : 'declared' },
    })
    return document
  }

  it('brings a declared unit to the game’s and remembers the factor', async () => {
    const { after, summary } = await runStep('scale-to-game', inUnit(0.01, 100))
    expect(boundsSize(partsBounds(listViewParts(after)))).toEqual([2, 4, 2])
    expect(getRootExtras(after.getRoot())).toMatchObject({
      units: { metresPerUnit: 0.5 },
      fit: [0.02, 0, 0, 0, 0, 0.02, 0, 0, 0, 0, 0.02, 0, 0, 0, 0, 1],
    })
    expect(summary.headline).toBe('cm → spans')
  })

  it('is not proposed where the unit is the game’s already', () => {
    expect(proposals('scale-to-game', inUnit(0.5, 3))).toEqual([])
  })

  it('guesses a unit by size when none is declared, and says that it is a guess', () => {
    const [proposal] = proposals('scale-to-game', inUnit(null, 90))
    expect(proposal.parameters).toEqual({ metresPerUnit: 0.01 })
    expect(proposal.reason).toMatch(/No unit is declared.*look at it beside the figure/)
  })

  it.each([
    [1.8, 'm'],
    [180, 'cm'],
    [1800, 'mm'],
    [3, 'm'],
    [400, 'cm'],
  ])('takes an extent of %d most likely for %s', (extent, unit) => {
    expect(likelyUnit(extent).id).toBe(unit)
  })

  it('names units, also those without a name', () => {
    expect(unitName(0.0254)).toBe('in')
    expect(unitName(0.5)).toBe('0.5 m')
  })
})

describe('Bake transforms', () => {
  it('puts a still part’s transform into its vertices and leaves the place the same', async () => {
    const document = documentOf({ post: unitBox() })
    const [part] = listViewParts(document)
    part.node.setScale([2, 3, 4]).setRotation([0, Math.SQRT1_2, 0, Math.SQRT1_2]).setTranslation([10, 0, 0])
    const before = partBounds(part)
    const { after, summary } = await runStep('bake-transforms', document)
    const [baked] = listViewParts(after)
    expect(baked.node.getScale()).toEqual([1, 1, 1])
    expect(baked.node.getTranslation()).toEqual([0, 0, 0])
    for (let axis = 0; axis < 3; axis++) {
      expect(partBounds(baked).min[axis]).toBeCloseTo(before.min[axis], 5)
      expect(partBounds(baked).max[axis]).toBeCloseTo(before.max[axis], 5)
    }
    expect(summary.headline).toBe('1 part')
  })

  it('keeps the faces of a mirrored part outward', async () => {
    const document = documentOf({ post: unitBox() })
    listViewParts(document)[0].node.setScale([-1, 1, 1])
    const { after } = await runStep('bake-transforms', document)
    expect(enclosedVolume(readPrimitive(listViewParts(after)[0].mesh.listPrimitives()[0]))).toBeCloseTo(1)
  })

  it('gives two nodes that share a mesh a mesh each', async () => {
    const document = documentOf({ post: unitBox() })
    const [part] = listViewParts(document)
    itemScene(document).addChild(document.createNode('second').setMesh(part.mesh).setTranslation([5, 0, 0]))
    const { after } = await runStep('bake-transforms', document)
    const [first, second] = listViewParts(after)
    expect(first.mesh).not.toBe(second.mesh)
    expect(partBounds(first).min[0]).toBe(0)
    expect(partBounds(second).min[0]).toBe(5)
  })

  it('keeps children where they are when a parent is baked', async () => {
    const document = documentOf({ parent: unitBox() })
    const [{ node, mesh }] = listViewParts(document)
    node.setTranslation([0, 7, 0]).setScale([2, 2, 2])
    node.addChild(document.createNode('child').setMesh(mesh).setTranslation([3, 0, 0]))
    const { after } = await runStep('bake-transforms', document)
    const child = listViewParts(after).find((part) => part.name === 'child')
    if (!child) throw new Error('the child is gone')
    expect(partBounds(child)).toEqual({ min: [6, 7, 0], max: [8, 9, 2] })
  })

  it('never writes into the arrays of the state before', async () => {
    const document = documentOf({ post: unitBox() })
    listViewParts(document)[0].node.setScale([2, 2, 2])
    const position = listViewParts(document)[0].mesh.listPrimitives()[0].getAttribute('POSITION')
    const values = [...(position?.getArray() ?? [])]
    await runStep('bake-transforms', document)
    expect([...(position?.getArray() ?? [])]).toEqual(values)
  })

  it('leaves parts alone that a clip moves, with what is above and below them', async () => {
    const document = documentOf({ arm: unitBox() })
    const [{ node: arm, mesh }] = listViewParts(document)
    const bell = document.createNode('bell').setMesh(mesh).setScale([0.5, 0.5, 0.5])
    arm.addChild(bell)
    const [buffer] = document.getRoot().listBuffers()
    const sampler = document
      .createAnimationSampler()
      .setInput(
        document
          .createAccessor()
          .setArray(new Float32Array([0]))
          .setType('SCALAR')
          .setBuffer(buffer),
      )
      .setOutput(
        document
          .createAccessor()
          .setArray(new Float32Array([0, 0, 0, 1]))
          .setType('VEC4')
          .setBuffer(buffer),
      )
    document
      .createAnimation('sway')
      .addSampler(sampler)
      .addChannel(document.createAnimationChannel().setTargetNode(arm).setTargetPath('rotation').setSampler(sampler))
    const { after, summary } = await runStep('bake-transforms', document)
    expect(
      after
        .getRoot()
        .listNodes()
        .find((node) => node.getName() === 'bell')
        ?.getScale(),
    ).toEqual([0.5, 0.5, 0.5])
    expect(summary.details.join(' ')).toMatch(/Left alone: arm; moves\..*Left alone: bell; hangs on what moves/)
  })
})

describe('measures of an item', () => {
  it('count an instance each time it is drawn', () => {
    const document = documentOf({ post: unitBox() })
    const [part] = listViewParts(document)
    itemScene(document).addChild(document.createNode('again').setMesh(part.mesh))
    expect(listViewParts(document)).toHaveLength(2)
  })

  it('unroll strips into triangles with the right winding', () => {
    const document = documentOf({ post: unitBox() })
    const primitive = document.createPrimitive().setMode(5)
    writeAttribute(document, primitive, 'POSITION', Float32Array.from([0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 1, 0]), 3)
    writeIndices(document, primitive, Uint32Array.from([0, 1, 2, 3]), 4)
    primitive.setMode(5)
    expect([...readPrimitive(primitive).indices]).toEqual([0, 1, 2, 2, 1, 3])
  })
})
