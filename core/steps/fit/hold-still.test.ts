import type { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { getRootExtras } from '../../item/extras.ts'
import { partBounds } from '../../item/measure.ts'
import { itemScene, listViewParts } from '../../item/parts.ts'
import { kindOf } from '../../game/load.ts'
import { documentOf, unitBox } from '../../test-support/meshes.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { proposals, runStep } from '../../test-support/step-runs.ts'

/**
 * A box whose upper half follows a bone that is turned a quarter about z and lifted by 2, and whose lower half follows
 * one at rest; with a clip.
 */
function bentBox(): Document {
  const document = documentOf({ mast: unitBox() })
  const [{ node, mesh }] = listViewParts(document)
  const [buffer] = document.getRoot().listBuffers()
  const [primitive] = mesh.listPrimitives()
  const places = primitive.getAttribute('POSITION')?.getArray() ?? []
  const corners = places.length / 3
  const accessor = (array: Uint8Array | Float32Array, type: 'VEC4' | 'SCALAR') =>
    document
      .createAccessor()
      .setType(type)
      .setBuffer(buffer)
      .setArray(array as Float32Array<ArrayBuffer>)
  primitive.setAttribute(
    'JOINTS_0',
    accessor(
      Uint8Array.from({ length: corners * 4 }, (_, at) =>
        at % 4 === 0 && places[Math.floor(at / 4) * 3 + 1] > 0.5 ? 1 : 0,
      ),
      'VEC4',
    ),
  )
  primitive.setAttribute(
    'WEIGHTS_0',
    accessor(
      Float32Array.from({ length: corners * 4 }, (_, at) => (at % 4 === 0 ? 1 : 0)),
      'VEC4',
    ),
  )
  const still = document.createNode('foot')
  const turned = document.createNode('top').setTranslation([0, 2, 0]).setRotation([0, 0, Math.SQRT1_2, Math.SQRT1_2])
  for (const bone of [still, turned]) itemScene(document).addChild(bone)
  node.setSkin(document.createSkin().addJoint(still).addJoint(turned))
  const sampler = document
    .createAnimationSampler()
    .setInput(accessor(new Float32Array([0, 1]), 'SCALAR'))
    .setOutput(accessor(new Float32Array([0, 0, 0, 1, 0, 0, 1, 0]), 'VEC4'))
  document
    .createAnimation('sway')
    .addSampler(sampler)
    .addChannel(document.createAnimationChannel().setTargetNode(still).setTargetPath('rotation').setSampler(sampler))
  return document
}

describe('Hold still', () => {
  it('puts every corner where its own bone holds it, and takes bones, weights and clips out', async () => {
    const { after } = await runStep('hold-still', bentBox())
    const [mast] = listViewParts(after)
    // (x, 1, z) turned a quarter about z is (−1, x, z), lifted by 2: from (0, 1) to (−1, 2) and from (1, 1) to (−1, 3).
    expect(partBounds(mast).min.map(Math.round)).toEqual([-1, 0, 0])
    expect(partBounds(mast).max.map(Math.round)).toEqual([1, 3, 1])
    expect(mast.node.getSkin()).toBeNull()
    expect(
      mast.mesh
        .listPrimitives()[0]
        .listSemantics()
        .filter((semantic) => /JOINTS|WEIGHTS/.test(semantic)),
    ).toEqual([])
    expect([after.getRoot().listAnimations().length, after.getRoot().listSkins().length]).toEqual([0, 0])
    expect(getRootExtras(after.getRoot()).givenUp).toMatchObject([{ what: 'Motion', where: 'sway' }])
  })

  it('is proposed with its reason for what stands still, and leaves each kind what it moves', async () => {
    expect(proposals('hold-still', bentBox())[0].reason).toBe(
      'It came with 1 clip and 1 part held by bones; a prop does not move.',
    )
    expect(proposals('hold-still', documentOf({ mast: unitBox() }))).toEqual([])
    const bender = await runStep('hold-still', bentBox(), {}, { kind: kindOf(tarnAndTiller, 'bender') })
    expect([
      listViewParts(bender.after)[0].node.getSkin() !== null,
      bender.after.getRoot().listAnimations().length,
    ]).toEqual([true, 0])
    const mover = await runStep('hold-still', bentBox(), {}, { kind: kindOf(tarnAndTiller, 'mover') })
    expect([listViewParts(mover.after)[0].node.getSkin(), mover.after.getRoot().listAnimations().length]).toEqual([
      null,
      1,
    ])
  })
})
