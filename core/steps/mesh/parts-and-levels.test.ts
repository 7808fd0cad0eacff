import type { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { countTriangles, itemScene, listViewParts } from '../../item/parts.ts'
import { listLevelParts } from '../../item/annotations/level/list.ts'
import { listShadowParts } from '../../item/annotations/shadow/list.ts'
import { mergedTriangles } from '../../item/measure.ts'
import { writeAttribute } from '../../item/primitive-arrays.ts'
import { boxMesh, enclosedVolume } from '../../geometry/shapes/box-mesh.ts'
import { findMeshFaults } from '../../geometry/mesh/mesh-faults.ts'
import { kindOf } from '../../game/load.ts'
import { checkItem } from '../../rules/registry.ts'
import { ball, documentOf, mergedSoup, unitBox } from '../../test-support/meshes.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { dentedTube, sheet, together } from '../../test-support/shapes.ts'
import { proposals, runStep } from '../../test-support/step-runs.ts'

const prop = kindOf(tarnAndTiller, 'prop')
const names = (document: Document): string[] => listViewParts(document).map((part) => part.name)
const trianglesOf = (document: Document): number => countTriangles(listViewParts(document))
const rulesOf = (document: Document): string[] =>
  checkItem({ document, rulebook: tarnAndTiller, kind: prop }).findings.map((finding) => finding.rule)
const finding = (document: Document, rule: string) =>
  checkItem({ document, rulebook: tarnAndTiller, kind: prop }).findings.find((each) => each.rule === rule)
/** A part with two surfaces of different materials. */
function twoMaterials(): Document {
  const document = documentOf({
    crate: boxMesh({ min: [0, 0, 0], max: [2, 2, 2] }),
    lid: boxMesh({ min: [0, 2, 0], max: [2, 2.2, 2] }),
  })
  const [crate, lid] = listViewParts(document)
  crate.mesh.addPrimitive(lid.mesh.listPrimitives()[0])
  lid.node.dispose()
  return document
}
describe('Split and join', () => {
  it('splits by material and joins again, with the materials kept as groups', async () => {
    const { after, summary } = await runStep('split-parts', twoMaterials(), { by: 'material', parts: ['crate'] })
    expect(names(after)).toEqual(['crate', 'crate lid_material'])
    expect(summary.headline).toBe('+1 part')
    const joined = (await runStep('join-parts', after)).after
    expect(names(joined)).toEqual(['crate'])
    expect(
      listViewParts(joined)[0]
        .mesh.listPrimitives()
        .map((primitive) => primitive.getMaterial()?.getName()),
    ).toEqual(['crate_material', 'lid_material'])
    expect(mergedSoup(joined).sort()).toEqual(mergedSoup(twoMaterials()).sort())
  })

  it('splits connected pieces and picked faces', async () => {
    const two = documentOf({ things: together(unitBox(), ball(1, 6, [4, 0, 0])) })
    expect(names((await runStep('split-parts', two, { by: 'piece', parts: ['things'] })).after)).toEqual([
      'things',
      'things 2',
    ])
    const picked = (
      await runStep('split-parts', documentOf({ box: unitBox() }), {
        by: 'faces',
        faces: [{ part: 'box', point: [0.5, 1, 0.5], growth: 'flat', angleDegrees: 10 }],
      })
    ).after
    expect(listViewParts(picked).map((part) => countTriangles([part]))).toEqual([10, 2])
  })

  it('puts each part where it stood when it is joined, a mirrored one too', async () => {
    const document = documentOf({ post: unitBox(), wing: ball(1, 8, [2, 0, 0]) })
    listViewParts(document)[1].node.setTranslation([0, 3, 0]).setScale([-1, 2, 1])
    const before = mergedTriangles(listViewParts(document))
    const { after } = await runStep('join-parts', document)
    const joined = mergedTriangles(listViewParts(after))
    expect(listViewParts(after)).toHaveLength(1)
    expect(enclosedVolume(joined)).toBeCloseTo(enclosedVolume(before), 3)
    expect(Math.max(...joined.positions)).toBeCloseTo(Math.max(...before.positions), 5)
  })

  it('merges bones: every corner keeps the bone that held it', async () => {
    const document = documentOf({ left: unitBox(), right: boxMesh({ min: [3, 0, 0], max: [4, 1, 1] }) })
    const bones = ['a', 'b', 'c'].map((name, index) => document.createNode(name).setTranslation([index, 0, 0]))
    bones.forEach((bone) => itemScene(document).addChild(bone))
    const buffer = document.getRoot().listBuffers()[0]
    const skin = (joints: typeof bones) => {
      const made = document.createSkin().setInverseBindMatrices(
        document
          .createAccessor()
          .setType('MAT4')
          .setArray(
            Float32Array.from(
              joints.flatMap((joint) => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, -joint.getTranslation()[0], 0, 0, 1]),
            ),
          )
          .setBuffer(buffer),
      )
      joints.forEach((joint) => made.addJoint(joint))
      return made
    }
    listViewParts(document).forEach((part, index) => {
      part.node.setSkin(skin(index === 0 ? [bones[0], bones[1]] : [bones[1], bones[2]]))
      const primitive = part.mesh.listPrimitives()[0]
      primitive.setAttribute(
        'JOINTS_0',
        document
          .createAccessor()
          .setType('VEC4')
          .setArray(Uint16Array.from({ length: 32 }, (_, at) => (at % 4 === 0 ? 1 : 0)))
          .setBuffer(buffer),
      )
      writeAttribute(
        document,
        primitive,
        'WEIGHTS_0',
        Float32Array.from({ length: 32 }, (_, at) => (at % 4 === 0 ? 1 : 0)),
        4,
      )
      primitive.setMaterial(listViewParts(document)[0].mesh.listPrimitives()[0].getMaterial())
    })
    const { after } = await runStep('join-parts', document)
    const [part] = listViewParts(after)
    expect(
      part.node
        .getSkin()
        ?.listJoints()
        .map((joint) => joint.getName()),
    ).toEqual(['a', 'b', 'c'])
    const joints = part.mesh.listPrimitives()[0].getAttribute('JOINTS_0')
    const holds = (corner: number): string =>
      part.node.getSkin()?.listJoints()[joints?.getElement(corner, [])[0] ?? 0].getName() ?? ''
    expect([holds(0), holds(8)]).toEqual(['b', 'c'])
  })

  it('is asked for where the game wants one node an object, and then no more', async () => {
    const document = documentOf({ post: unitBox(), bar: boxMesh({ min: [1, 0, 0], max: [2, 1, 1] }) })
    expect(finding(document, 'one-node')).toMatchObject({ severity: 'note', value: '2', mend: { step: 'join-parts' } })
    expect(rulesOf((await runStep('join-parts', document)).after)).not.toContain('one-node')
  })
})

describe('Reduce triangles', () => {
  const three = (): Document => documentOf({ big: ball(4, 50), small: ball(0.5, 40, [9, 0, 0]), plain: sheet(30, 30) })

  it('reaches a count, a share or a shift, never more than asked', async () => {
    const before = trianglesOf(three())
    for (const targetTriangles of [4000, 999, 60]) {
      const after = trianglesOf(
        (await runStep('reduce-triangles', three(), { targetTriangles, holdBorders: false })).after,
      )
      expect(after).toBeLessThanOrEqual(targetTriangles)
      expect(after).toBeGreaterThanOrEqual(targetTriangles * (targetTriangles > 100 ? 0.99 : 0.8))
    }
    expect(
      trianglesOf((await runStep('reduce-triangles', three(), { by: 'share', share: 0.3 })).after),
    ).toBeLessThanOrEqual(before * 0.3)
    const shifted = await runStep('reduce-triangles', three(), { by: 'shift', shift: 0.05 })
    expect(trianglesOf(shifted.after)).toBeLessThan(before / 3)
    expect(shifted.summary.details.join(' ')).toMatch(/further than 0\.05 spans was made/)
  })

  it('never empties a part, and leaves alone what it is told to', async () => {
    const { after } = await runStep('reduce-triangles', three(), { targetTriangles: 3, holdBorders: false })
    expect(listViewParts(after).every((part) => countTriangles([part]) >= 1)).toBe(true)
    const held = await runStep('reduce-triangles', three(), { targetTriangles: 5000, leaveAlone: ['small'] })
    expect(countTriangles([listViewParts(held.after)[1]])).toBe(countTriangles([listViewParts(three())[1]]))
  })

  it('gives most to what has shape, and more to a part that counts for more', async () => {
    const counts = async (weights: { part: string; weight: number }[]) =>
      listViewParts(
        (await runStep('reduce-triangles', three(), { targetTriangles: 3000, holdBorders: false, weights })).after,
      ).map((part) => countTriangles([part]))
    const [big, small, plain] = await counts([])
    expect(plain).toBeLessThan(big / 5)
    const [, favoured] = await counts([{ part: 'small', weight: 8 }])
    expect(favoured).toBeGreaterThan(small * 1.5)
  })

  it('keeps the border between two materials closed', async () => {
    const round = ball(2, 40)
    const half = round.indices.length / 2
    const document = documentOf({
      top: { positions: round.positions, indices: round.indices.slice(0, half) },
      bottom: { positions: round.positions, indices: round.indices.slice(half) },
    })
    const [top, bottom] = listViewParts(document)
    top.mesh.addPrimitive(bottom.mesh.listPrimitives()[0])
    bottom.node.dispose()
    const { after } = await runStep('reduce-triangles', document, { targetTriangles: 600 })
    const { positions, indices } = mergedTriangles(listViewParts(after))
    expect(indices.length / 3).toBeLessThanOrEqual(600)
    expect(findMeshFaults(positions, indices).openLoops.length).toBe(0)
    expect(listViewParts(after)[0].mesh.listPrimitives()).toHaveLength(2)
  })
})

describe('Levels', () => {
  const item = (): Document => documentOf({ post: ball(2, 40), 'Post LOD1': ball(2, 10), bar: dentedTube(40, 20, 0) })

  it('takes a mesh that was made by hand for a level, finds it by its name, and keeps it', async () => {
    const [proposal] = proposals('use-as-level', item())
    expect(proposal).toMatchObject({
      parameters: { parts: ['Post LOD1'], of: 'post', level: 1 },
      reason: expect.stringMatching(/named as level 1 of post/),
    })
    const { after } = await runStep('use-as-level', item(), proposal.parameters)
    expect(names(after)).toEqual(['post', 'bar'])
    const levelled = (await runStep('levels-and-shadow', after)).after
    const byHand = listLevelParts(levelled, 1).find((part) => part.extras.byHand)
    expect(byHand && countTriangles([byHand])).toBe(ball(2, 10).indices.length / 3)
    expect(listLevelParts(levelled, 1)).toHaveLength(2)
    expect(
      (await runStep('levels-and-shadow', levelled)).after
        .getRoot()
        .listNodes()
        .filter((node) => node.getName() === 'post_l1'),
    ).toHaveLength(1)
  })

  it('makes each level under its share, from the full mesh, and a closed shadow inside it', async () => {
    const { after, summary } = await runStep(
      'levels-and-shadow',
      documentOf({ post: ball(2, 40), bar: dentedTube(40, 20, 0) }),
    )
    const all = trianglesOf(after)
    expect(countTriangles(listLevelParts(after, 1))).toBeLessThanOrEqual(all * 0.5)
    expect(countTriangles(listLevelParts(after, 2))).toBeLessThanOrEqual(all * 0.2)
    expect(countTriangles(listShadowParts(after))).toBeLessThanOrEqual(all * 0.25)
    expect(summary.details.join(' ')).toMatch(/2 holes were closed; it stands out of the view mesh by 0/)
    expect(rulesOf(after).filter((rule) => rule.startsWith('level') || rule.startsWith('shadow'))).toEqual([])
  })

  it('keeps each material in each level, also one that only a speck shows', async () => {
    const whole = ball(2, 40)
    const one = 900
    const document = documentOf({
      dome: { ...whole, indices: whole.indices.filter((_, at) => at < one || at >= one + 3) },
      speck: {
        positions: Float32Array.from(
          [...whole.indices.subarray(one, one + 3)].flatMap((corner) => [
            ...whole.positions.subarray(corner * 3, corner * 3 + 3),
          ]),
        ),
        indices: Uint32Array.from([0, 1, 2]),
      },
    })
    const [dome, speck] = listViewParts(document)
    dome.mesh.addPrimitive(speck.mesh.listPrimitives()[0])
    speck.node.dispose()
    const { after } = await runStep('levels-and-shadow', document)
    for (const level of [1, 2]) {
      const materials = listLevelParts(after, level).flatMap(({ mesh }) =>
        mesh.listPrimitives().map((primitive) => primitive.getMaterial()?.getName()),
      )
      expect(materials.toSorted(), `level ${level}`).toEqual(['dome_material', 'speck_material'])
    }
    expect(rulesOf(after)).not.toContain('level-part-material')
    expect(rulesOf(after)).not.toContain('level-materials')
  })

  it('throws the shadow with the last level again when that is chosen', async () => {
    const { after } = await runStep('levels-and-shadow', documentOf({ post: ball(2, 40) }), { shadowFrom: 'level' })
    expect(countTriangles(listShadowParts(after))).toBe(countTriangles(listLevelParts(after, 2)))
  })

  it('finds a level that holds another thing, or other bones, and an open or swollen shadow mesh', async () => {
    const { after } = await runStep('levels-and-shadow', documentOf({ post: ball(2, 40) }))
    listLevelParts(after, 2)[0].node.setTranslation([0, 5, 0])
    listLevelParts(after, 1)[0].node.setSkin(after.createSkin().addJoint(after.createNode('old bone')))
    const shadow = listShadowParts(after)[0]
    shadow.node.setMesh(documentOfShadow(after))
    expect(rulesOf(after)).toEqual(
      expect.arrayContaining(['level-geometry', 'level-bones', 'shadow-open', 'shadow-outside']),
    )
  })

  /** A shadow mesh that is larger than the ball and open below. */
  function documentOfShadow(document: Document) {
    const swollen = ball(3, 6)
    const primitive = document.createPrimitive()
    writeAttribute(document, primitive, 'POSITION', swollen.positions, 3)
    primitive.setIndices(
      document
        .createAccessor()
        .setArray(Uint16Array.from(swollen.indices.slice(0, -12)))
        .setBuffer(document.getRoot().listBuffers()[0]),
    )
    return document.createMesh('swollen').addPrimitive(primitive)
  }
})
