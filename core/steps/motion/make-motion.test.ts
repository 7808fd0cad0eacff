import type { Document, Node } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { kindOf } from '../../game/load.ts'
import { getNodeExtras, setNodeExtras } from '../../item/extras.ts'
import { partBounds } from '../../item/measure.ts'
import { listSceneNodes, listViewParts } from '../../item/parts.ts'
import { putCurve } from '../../operations/motion/put-curve.ts'
import { posesOf } from '../../operations/motion/pose.ts'
import { checkItem } from '../../rules/registry.ts'
import { documentOf, unitBox } from '../../test-support/meshes.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { runStep } from '../../test-support/step-runs.ts'

const course = kindOf(tarnAndTiller, 'course')
const nodeOf = (document: Document, name: string): Node => {
  const found = listSceneNodes(document).find((node) => node.getName() === name)
  if (!found)
    throw new Error(
      `no ${name} among ${listSceneNodes(document)
        .map((node) => node.getName())
        .join(', ')}`,
    )
  return found
}
const placeAt = (document: Document, name: string, seconds: number): number[] =>
  posesOf(document)(seconds)(nodeOf(document, name)).slice(12, 15)
const findings = (document: Document, rule: string) =>
  checkItem({ document, rulebook: tarnAndTiller, kind: course }).findings.filter((each) => each.rule === rule)

/** A hinge that a clip lifts by two spans in a second and lowers again, and one like it without. */
function twoHinges(): Document {
  const document = documentOf({ board_1: unitBox(), board_2: unitBox() })
  for (const number of [1, 2]) {
    const hinge = document.createNode(`Hinge ${number}`).setTranslation([number * 4, 1, 0])
    document.getRoot().listScenes()[0].addChild(hinge)
    hinge.addChild(nodeOf(document, `board_${number}`))
  }
  putCurve(document, document.createAnimation('lift'), nodeOf(document, 'Hinge 1'), {
    path: 'translation',
    times: Float32Array.from([0, 1, 2]),
    values: Float32Array.from([4, 1, 0, 4, 3, 0, 4, 1, 0]),
    interpolation: 'LINEAR',
  })
  return document
}

describe('making things move', () => {
  it('moves what was forgotten as what is called like it, from its own place', async () => {
    const { after: marked } = await runStep('recognise-groups', twoHinges(), {}, { kind: course })
    expect(['Hinge 1', 'Hinge 2', 'board_1'].map((name) => getNodeExtras(nodeOf(marked, name)).group)).toEqual([
      'moves',
      'moves',
      undefined,
    ])
    const { after, summary } = await runStep('make-motion', marked, {}, { kind: course })
    expect(summary.details[0]).toContain('Hinge 2 moves like Hinge 1, 2.0 s a round')
    expect(placeAt(after, 'Hinge 2', 1)).toEqual([8, 3, 0])
    expect(placeAt(after, 'Hinge 1', 1)).toEqual([4, 3, 0])
  })

  it('swings a part about the place that was clicked, and every corner keeps its distance from it', async () => {
    const document = documentOf({ arm: unitBox() })
    const { after } = await runStep(
      'make-motion',
      document,
      { node: 'arm', way: 'swing', like: '', axis: 'z', angleDegrees: 90, seconds: 4, pivot: [[0, 5, 0]] },
      { kind: course },
    )
    const group = nodeOf(after, 'moves_arm')
    expect(group.getTranslation()).toEqual([0, 5, 0])
    expect(getNodeExtras(group).group).toBe('moves')
    // At rest it stands where it stood; a quarter round later it lies as far beside the pivot as it stood below.
    expect(partBounds(listViewParts(after)[0])).toEqual(partBounds(listViewParts(document)[0]))
    const [x, y] = placeAt(after, 'arm', 1)
    expect([x, y].map((value) => Math.round(value * 100) / 100)).toEqual([5, 5])
  })

  it('needs few keys for what is straight, no more than the game reads, and replaces what moved it before', async () => {
    const document = twoHinges()
    const { after, summary } = await runStep(
      'make-motion',
      document,
      { node: 'Hinge 1', way: 'there-and-back', axis: 'x', distance: 6, seconds: 10, easing: 'even' },
      { kind: course },
    )
    expect(summary.headline).toBe('3 keys')
    expect(summary.details.join(' ')).toContain('What lift did with it is gone.')
    expect(
      after
        .getRoot()
        .listAnimations()
        .map((clip) => clip.getName()),
    ).toEqual(['moves_hinge_1 moves'])
    expect(placeAt(after, 'moves_hinge_1', 5)).toEqual([10, 1, 0])
    expect(findings(after, 'clip-key-rate')).toEqual([])
  })

  it('moves along the axes of the scene, however what it hangs on is turned and sized', async () => {
    const document = documentOf({ slide: unitBox() })
    const turned = document.createNode('turned').setRotation([0, 0, Math.SQRT1_2, Math.SQRT1_2]).setScale([2, 2, 2])
    document.getRoot().listScenes()[0].addChild(turned)
    turned.addChild(nodeOf(document, 'slide'))
    const { after } = await runStep(
      'make-motion',
      document,
      { node: 'slide', way: 'there-and-back', axis: 'y', distance: 3, seconds: 2 },
      { kind: course },
    )
    const at = placeAt(after, 'moves_slide', 1)
    ;[0, 3, 0].forEach((value, axis) => expect(at[axis]).toBeCloseTo(value, 4))
  })

  it('says so where its thing is gone', async () => {
    const { summary } = await runStep('make-motion', twoHinges(), { node: 'Hinge 9' }, { kind: course })
    expect(summary.doesNotApply).toContain('Hinge 9')
  })
})

describe('groups', () => {
  it('what stands still is put in one group where it stood, and is asked for until then', async () => {
    const { after: marked } = await runStep('recognise-groups', twoHinges(), {}, { kind: course })
    const { after: named } = await runStep('clean-names', marked, {}, { kind: course })
    const still = named.createNode('deck').setMesh(nodeOf(named, 'board_1').getMesh()).setTranslation([0, 3, 0])
    named.getRoot().listScenes()[0].addChild(still)
    expect(findings(named, 'group-missing')).toHaveLength(1)
    const { after, summary } = await runStep('group-parts', named, {}, { kind: course })
    expect(summary.headline).toBe('stays_rest')
    expect(nodeOf(after, 'deck').getParentNode()?.getName()).toBe('stays_rest')
    expect(nodeOf(after, 'deck').getWorldTranslation()).toEqual([0, 3, 0])
    expect(findings(after, 'group-missing')).toEqual([])
    expect(findings(after, 'group-without-motion').map(({ where }) => where)).toEqual(['moves_hinge_2'])
  })
  it('a moving group stands at the place that it turns about, and its parts where they stood', async () => {
    const { after } = await runStep(
      'group-parts',
      documentOf({ a: unitBox(), b: unitBox(), c: unitBox() }),
      { name: 'Two', is: 'moves', parts: ['a', 'b'], pivot: [[2, 1, 0]] },
      { kind: course },
    )
    const group = nodeOf(after, 'moves_two')
    expect(group.getTranslation()).toEqual([2, 1, 0])
    expect(group.listChildren().map((node) => node.getName())).toEqual(['a', 'b'])
    expect(nodeOf(after, 'a').getWorldTranslation()).toEqual([0, 0, 0])
  })
})

describe('clips that came along', () => {
  it('are cut to a stretch that begins at 0', async () => {
    const { after, summary } = await runStep('cut-clip', twoHinges(), { clip: 'lift', name: 'up', from: 0.5, to: 1 })
    expect(summary.headline).toBe('0.50 s')
    expect(
      after
        .getRoot()
        .listAnimations()
        .map((clip) => clip.getName()),
    ).toEqual(['up'])
    expect(placeAt(after, 'Hinge 1', 0)[1]).toBeCloseTo(2)
    expect(placeAt(after, 'Hinge 1', 0.5)[1]).toBeCloseTo(3)
  })
  it('are left alone where nothing lies in the stretch, and kept beside it where that is asked', async () => {
    const { after: same, summary } = await runStep('cut-clip', twoHinges(), { clip: 'lift', from: 3, to: 9 })
    expect(summary.changed).toBe(false)
    expect(same.getRoot().listAnimations()).toHaveLength(1)
    const { after } = await runStep('cut-clip', twoHinges(), { clip: 'lift', name: 'up', to: 1, keepsWhole: true })
    expect(
      after
        .getRoot()
        .listAnimations()
        .map((clip) => clip.getName()),
    ).toEqual(['lift', 'up'])
  })
  it('are told to begin elsewhere than things stand, and things are stood there', async () => {
    const document = twoHinges()
    nodeOf(document, 'Hinge 1').setTranslation([4, 9, 0])
    expect(findings(document, 'rest-pose')[0].message).toContain('Hinge 1 stands 8 spans from where lift has it')
    const { after } = await runStep('stand-as-clips-begin', document, {}, { kind: course })
    expect(nodeOf(after, 'Hinge 1').getTranslation()).toEqual([4, 1, 0])
    expect(findings(after, 'rest-pose')).toEqual([])
  })
  it('are told to have lost what they move', () => {
    const document = twoHinges()
    document.getRoot().listAnimations()[0].listChannels()[0].setTargetNode(null)
    expect(findings(document, 'clip-lost-target')).toHaveLength(1)
  })
})

describe('markers and what moves', () => {
  const standing = (document: Document, name: string, marker: string, at: [number, number, number]): Node => {
    const node = document.createNode(name).setTranslation(at)
    setNodeExtras(node, { role: 'marker', marker })
    document.getRoot().listScenes()[0].addChild(node)
    return node
  }
  it('put over what moves ride on it where they may, and no longer where they may not', async () => {
    const document = twoHinges()
    const top = partBounds(listViewParts(document)[0]).max[1]
    standing(document, 'stamp_01', 'stamp', [4, top + 0.6, 0])
    nodeOf(document, 'Hinge 1').addChild(standing(document, 'arrive_01', 'arrive', [0, 2, 0]))
    expect(findings(document, 'marker-left-behind').map(({ where }) => where)).toEqual(['stamp_01'])
    expect(findings(document, 'marker-rides').map(({ where }) => where)).toEqual(['arrive_01'])
    const before = nodeOf(document, 'arrive_01').getWorldTranslation()
    const { after } = await runStep('place-markers', document, { names: [], makeMissing: false }, { kind: course })
    expect(nodeOf(after, 'stamp_01').getParentNode()?.getName()).toBe('Hinge 1')
    expect(nodeOf(after, 'arrive_01').getParentNode()).toBe(null)
    expect(nodeOf(after, 'arrive_01').getWorldTranslation()).toEqual(before)
    expect([...findings(after, 'marker-left-behind'), ...findings(after, 'marker-rides')]).toEqual([])
  })
})
