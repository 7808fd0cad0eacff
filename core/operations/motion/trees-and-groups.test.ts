import type { Document, Node } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { setNodeExtras, getNodeExtras } from '../../item/extras.ts'
import { itemScene, listViewParts, movingReasons } from '../../item/parts.ts'
import { mergedSoup, documentOf, unitBox } from '../../test-support/meshes.ts'
import { nodeOf } from '../../test-support/moving-items.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { gatherSurfaces } from '../meshes/gather-surfaces.ts'
import { freeCarriers } from '../meshes/free-carriers.ts'
import { stiffPartOf } from '../../item/stiff-part.ts'
import { arrangeBoneTree, boneTree, wronglyNamed } from './bone-tree.ts'
import { likelyMovers, movedNodes, moversLike, nearestAbove } from './groups.ts'

/** A clip that moves a node from one place to another. */
function moves(document: Document, name: string, from: number[], to: number[]): Document {
  const [buffer] = document.getRoot().listBuffers()
  const accessor = (type: 'SCALAR' | 'VEC3', values: number[]) =>
    document.createAccessor().setType(type).setArray(new Float32Array(values)).setBuffer(buffer)
  const sampler = document
    .createAnimationSampler()
    .setInput(accessor('SCALAR', [0, 1]))
    .setOutput(accessor('VEC3', [...from, ...to]))
  document
    .createAnimation('swing')
    .addSampler(sampler)
    .addChannel(
      document
        .createAnimationChannel()
        .setSampler(sampler)
        .setTargetNode(nodeOf(document, name))
        .setTargetPath('translation'),
    )
  return document
}

describe('a node that stands still and carries what moves', () => {
  function carried(change: (carrier: Node) => unknown): Document {
    const document = documentOf({ leaf: unitBox() })
    const carrier = document.createNode('frame')
    itemScene(document).addChild(carrier)
    carrier.addChild(nodeOf(document, 'leaf'))
    change(carrier)
    return moves(document, 'leaf', [0, 0, 0], [0, 1, 0])
  }
  const keys = (document: Document): number[] => [
    ...(document.getRoot().listAnimations()[0].listChannels()[0].getSampler()?.getOutput()?.getArray() ?? []),
  ]

  it('hands its place down to what it carries, and to its keys', () => {
    const document = carried((carrier) => carrier.setTranslation([5, 0, 0]))
    const before = mergedSoup(document)
    expect(freeCarriers(document, movingReasons(document)).map((node) => node.getName())).toEqual(['frame'])
    expect(nodeOf(document, 'frame').getTranslation()).toEqual([0, 0, 0])
    expect(mergedSoup(document)).toEqual(before)
    expect(keys(document)).toEqual([5, 0, 0, 5, 1, 0])
  })

  it('hands an even scale down', () => {
    const document = carried((carrier) => carrier.setScale([2, 2, 2]))
    const before = mergedSoup(document)
    freeCarriers(document, movingReasons(document))
    expect(mergedSoup(document)).toEqual(before)
    expect(keys(document)).toEqual([0, 0, 0, 0, 2, 0])
  })

  it.each([
    ['an uneven scale', (carrier: Node) => carrier.setScale([1, 2, 1])],
    ['a mirror', (carrier: Node) => carrier.setScale([-1, 1, 1])],
    ['nothing to hand down', (carrier: Node) => carrier],
  ])('is left where it has %s', (_what, change) => {
    const document = carried(change)
    expect(freeCarriers(document, movingReasons(document))).toEqual([])
    expect(keys(document)).toEqual([0, 0, 0, 0, 1, 0])
  })
})

describe('surfaces of one material', () => {
  it('become one, with all their triangles where they were', () => {
    const document = documentOf({ crate: unitBox(), lid: unitBox() })
    const [crate, lid] = listViewParts(document)
    const before = mergedSoup(document)
    const [moved] = lid.mesh.listPrimitives()
    lid.node.dispose()
    moved.setMaterial(crate.mesh.listPrimitives()[0].getMaterial())
    crate.mesh.addPrimitive(moved)
    gatherSurfaces(document, crate.mesh)
    expect(crate.mesh.listPrimitives()).toHaveLength(1)
    expect(mergedSoup(document)).toEqual(before)
  })

  it('stay two where they show two materials, or carry other values', () => {
    const document = documentOf({ crate: unitBox(), lid: unitBox() })
    const [crate, lid] = listViewParts(document)
    crate.mesh.addPrimitive(lid.mesh.listPrimitives()[0])
    gatherSurfaces(document, crate.mesh)
    expect(crate.mesh.listPrimitives()).toHaveLength(2)
  })
})

describe('things that want to move together', () => {
  it('are the topmost that clips move', () => {
    const document = documentOf({ leaf: unitBox(), handle: unitBox(), post: unitBox() })
    nodeOf(document, 'leaf').addChild(nodeOf(document, 'handle'))
    moves(document, 'leaf', [0, 0, 0], [0, 1, 0])
    moves(document, 'handle', [0, 0, 0], [1, 0, 0])
    expect([...movedNodes(document)].map((node) => node.getName())).toEqual(['leaf', 'handle'])
    expect(likelyMovers(document).map(({ node, like }) => [node.getName(), like?.getName() ?? null])).toEqual([
      ['leaf', null],
    ])
  })

  it('are those that are called like them but for a number, whose motion was forgotten', () => {
    const document = documentOf({ gate_1: unitBox(), gate_2: unitBox(), post: unitBox() })
    moves(document, 'gate_1', [0, 0, 0], [0, 1, 0])
    expect(likelyMovers(document).map(({ node, like }) => [node.getName(), like?.getName() ?? null])).toEqual([
      ['gate_1', null],
      ['gate_2', 'gate_1'],
    ])
    setNodeExtras(nodeOf(document, 'gate_2'), { ...getNodeExtras(nodeOf(document, 'gate_2')), group: 'stays' })
    expect(likelyMovers(document).map(({ node }) => node.getName())).toEqual(['gate_1'])
  })

  it('are not told by a name without a number', () => {
    const document = documentOf({ gate: unitBox(), gate_2: unitBox() })
    expect(moversLike('gate', [nodeOf(document, 'gate_2')])).toEqual([])
    expect(moversLike('12', [nodeOf(document, 'gate_2')])).toEqual([])
    expect(moversLike('gate_7', [nodeOf(document, 'gate_2')])).toHaveLength(1)
  })

  it('are looked for upward', () => {
    const document = documentOf({ leaf: unitBox(), handle: unitBox() })
    nodeOf(document, 'leaf').addChild(nodeOf(document, 'handle'))
    expect(nearestAbove(nodeOf(document, 'handle'), (node) => node.getName() === 'leaf')?.getName()).toBe('leaf')
    expect(nearestAbove(nodeOf(document, 'handle'), () => false)).toBeNull()
  })
})

describe('the tree of bones', () => {
  /** A pole with a cloth that its bone holds, hung where it is said. */
  function awning(hang: (document: Document, bone: Node) => unknown): Document {
    const document = documentOf({ pole: unitBox(), cloth: unitBox() })
    const bone = document.createNode('bone_x')
    hang(document, bone)
    nodeOf(document, 'cloth').setSkin(document.createSkin().addJoint(bone))
    return document
  }

  it('has each bone on a stiff part of its own', () => {
    const document = awning((doc, bone) => nodeOf(doc, 'pole').addChild(bone))
    const tree = boneTree(document)
    expect([tree.alone, tree.shared, tree.below]).toEqual([[], [], []])
    expect(stiffPartOf(tree.bones[0])?.getName()).toBe('pole')
  })

  it('tells a bone that follows nothing, and two that follow one part', () => {
    expect(boneTree(awning((doc, bone) => itemScene(doc).addChild(bone))).alone).toHaveLength(1)
    const two = awning((doc, bone) => nodeOf(doc, 'pole').addChild(bone))
    const second = two.createNode('bone_y')
    nodeOf(two, 'pole').addChild(second)
    nodeOf(two, 'cloth').getSkin()?.addJoint(second)
    expect(boneTree(two).shared.map((node) => node.getName())).toEqual(['bone_y'])
  })

  it('is arranged: what bones hold stands beside them, and bones are named after their parts', () => {
    const document = awning((doc, bone) => {
      nodeOf(doc, 'pole').addChild(bone)
      nodeOf(doc, 'pole').addChild(nodeOf(doc, 'cloth'))
    })
    expect(boneTree(document).below.map((node) => node.getName())).toEqual(['cloth'])
    const done = arrangeBoneTree(document, tarnAndTiller)
    expect(done[0]).toBe('cloth stands beside its bones.')
    expect(done[1]).toMatch(/^bone_x is named .*pole/)
    expect(boneTree(document).below).toEqual([])
    expect(wronglyNamed(boneTree(document).bones, tarnAndTiller)).toEqual([])
    expect(arrangeBoneTree(document, tarnAndTiller)).toEqual([])
  })
})
