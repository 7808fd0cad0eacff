import { describe, expect, it } from 'vitest'
import type { Document, Node } from '@gltf-transform/core'
import { kindOf } from '../../game/load.ts'
import type { TriangleSoup } from '../../geometry/shapes/convex-hull.ts'
import { boxMesh } from '../../geometry/shapes/box-mesh.ts'
import { setNodeExtras } from '../../item/extras.ts'
import { mergedTriangles, partsBounds } from '../../item/measure.ts'
import { countTriangles, itemScene, listViewParts } from '../../item/parts.ts'
import { soupMesh } from '../../operations/meshes/derived-meshes.ts'
import { ball, documentOf, mergedSoup } from '../../test-support/meshes.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { proposals, runStep } from '../../test-support/step-runs.ts'

/** A wall of so many bricks in two courses far apart, each a part of its own. */
function bricks(count: number): Document {
  return documentOf(
    Object.fromEntries(
      Array.from({ length: count }, (_, number) => {
        const [x, y] = [Math.floor(number / 2) * 0.3, (number % 2) * 500]
        return [`brick_${number}`, boxMesh({ min: [x, y, 0], max: [x + 0.25, y + 0.1, 0.1] })]
      }),
    ),
  )
}

const nodeOf = (document: Document, name: string): Node =>
  listViewParts(document).find((part) => part.name === name)?.node ?? document.createNode('none')

/** Every corner of every triangle by its place, in an order of their own. */
const cornersOf = ({ positions, indices }: TriangleSoup): string[] =>
  [...indices]
    .map((corner) => [...positions.subarray(corner * 3, corner * 3 + 3)].map((value) => value.toFixed(3)).join())
    .sort()

describe('Gather parts', () => {
  it('is proposed for hundreds of parts that stand still, and not for a few', () => {
    expect(proposals('gather-parts', bricks(400))).toEqual([])
    const [proposed] = proposals('gather-parts', bricks(401))
    expect(proposed.reason).toMatch(/^401 parts stand still/)
    expect(proposed.parameters).toEqual({ most: 64 })
  })

  it.each(['ground', 'bender'])('is not proposed for a %s, of which a part says or does something', (id) => {
    expect(proposals('gather-parts', bricks(401), { kind: kindOf(tarnAndTiller, id) })).toEqual([])
  })

  it('makes one part of those that lie together, and shows the very same', async () => {
    const { before, after, summary } = await runStep('gather-parts', bricks(20), { most: 2 })
    expect(summary.headline).toBe('−18 parts')
    expect(summary.details).toEqual(['20 parts that stand still became 2, each called like the largest in it.'])
    const heights = listViewParts(after).map((part) => Math.round(partsBounds([part]).min[1]))
    expect(heights.sort((a, b) => a - b)).toEqual([0, 500])
    expect(mergedSoup(after).sort()).toEqual(mergedSoup(before).sort())
  })

  it('puts each part where it stood, a turned and a mirrored one too', async () => {
    const document = bricks(6)
    nodeOf(document, 'brick_1').setScale([-1, 2, 1])
    nodeOf(document, 'brick_2').setRotation([0, Math.SQRT1_2, 0, Math.SQRT1_2]).setTranslation([1, 2, 3])
    const before = mergedTriangles(listViewParts(document))
    const { after } = await runStep('gather-parts', document, { most: 1 })
    expect(listViewParts(after)).toHaveLength(1)
    const joined = mergedTriangles(listViewParts(after))
    expect(cornersOf(joined)).toEqual(cornersOf(before))
  })

  it('joins a part with what hangs on it, however they hang and whichever is the larger', async () => {
    const document = bricks(5)
    const [a, b, c, d, e] = ['brick_0', 'brick_1', 'brick_2', 'brick_3', 'brick_4'].map((name) =>
      nodeOf(document, name),
    )
    // The largest is the lowest of a chain whose others go: nothing may hang on itself.
    c.setMesh(soupMesh(document, 'ball', ball(0.2, 8)))
    a.setTranslation([1, 0, 0]).addChild(b.setTranslation([0, 2, 0]).addChild(c.setTranslation([0, 0, 3])))
    c.addChild(d)
    e.setScale([2, 2, 2]).addChild(a)
    const before = mergedTriangles(listViewParts(document))
    const { after } = await runStep('gather-parts', document, { most: 1 })
    const joined = mergedTriangles(listViewParts(after))
    expect(listViewParts(after).map(({ name }) => name)).toEqual(['brick_2'])
    expect(cornersOf(joined)).toEqual(cornersOf(before))
  })

  it('leaves what moves, what is a group of the game and what stands for a part with that part', async () => {
    const document = bricks(6)
    const moved = nodeOf(document, 'brick_0')
    const buffer = document.getRoot().listBuffers()[0]
    const sampler = document
      .createAnimationSampler()
      .setInput(document.createAccessor().setType('SCALAR').setArray(Float32Array.of(0, 1)).setBuffer(buffer))
      .setOutput(
        document
          .createAccessor()
          .setType('VEC3')
          .setArray(Float32Array.of(0, 0, 0, 0, 1, 0))
          .setBuffer(buffer),
      )
    document
      .createAnimation('lift')
      .addSampler(sampler)
      .addChannel(
        document.createAnimationChannel().setSampler(sampler).setTargetNode(moved).setTargetPath('translation'),
      )
    setNodeExtras(nodeOf(document, 'brick_1'), { role: 'part', group: 'moves' })
    const solid = document.createNode('solid').setMesh(nodeOf(document, 'brick_2').getMesh())
    setNodeExtras(solid, { role: 'solid' })
    nodeOf(document, 'brick_2').addChild(solid)
    const { after } = await runStep('gather-parts', document, { most: 1 })
    const names = listViewParts(after).map(({ name }) => name)
    expect(names).toHaveLength(4)
    expect(names).toEqual(expect.arrayContaining(['brick_0', 'brick_1', 'brick_2']))
    expect(nodeOf(after, 'brick_2').listChildren()).toHaveLength(1)
  })

  it('keeps models apart: each is a mesh of its own in the game', async () => {
    const document = bricks(6)
    for (const { node, name } of listViewParts(document))
      setNodeExtras(node, { role: 'part', model: Number(name.slice(6)) < 3 ? 'lying' : 'worn' })
    const { after } = await runStep('gather-parts', document, { most: 1 })
    expect(listViewParts(after).map(({ extras }) => extras.model)).toEqual(['lying', 'worn'])
  })

  it('keeps no mesh of the parts that are gone', async () => {
    const { after } = await runStep('gather-parts', bricks(40), { most: 1 })
    expect(after.getRoot().listMeshes()).toHaveLength(1)
    expect(countTriangles(listViewParts(after))).toBe(40 * 12)
  })

  it('takes away what carried nothing but the parts that are gone', async () => {
    const document = bricks(8)
    const house = document.createNode('house')
    itemScene(document).addChild(house)
    for (const { node, name } of listViewParts(document))
      house.addChild(document.createNode(`carrier of ${name}`).addChild(node))
    house.addChild(document.createNode('a place that somebody named'))
    const { after } = await runStep('gather-parts', document, { most: 1 })
    const [left] = itemScene(after).listChildren()
    expect(left.listChildren().map((node) => node.getName())).toEqual([
      'carrier of brick_0',
      'a place that somebody named',
    ])
  })

  it('says so when there is nothing to gather', async () => {
    const { summary } = await runStep('gather-parts', bricks(1), { most: 64 })
    expect(summary).toEqual({
      headline: 'as it was',
      details: ['1 part stands still; there is nothing to gather.'],
      changed: false,
    })
    expect(itemScene((await runStep('gather-parts', bricks(3), { most: 64 })).after).listChildren()).toHaveLength(3)
  })
})
