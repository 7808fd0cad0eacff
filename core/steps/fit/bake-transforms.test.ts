import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { documentToGlb } from '../../item/io.ts'
import { mergedTriangles, partBounds } from '../../item/measure.ts'
import { itemScene, listAllParts, listViewParts, restMatrix } from '../../item/parts.ts'
import { readPrimitive } from '../../item/primitive-arrays.ts'
import { enclosedVolume } from '../../geometry/shapes/box-mesh.ts'
import { ball, documentOf, unitBox } from '../../test-support/meshes.ts'
import { runStep } from '../../test-support/step-runs.ts'
import { sizeOf, nodeOf, swinging, standing, furthest } from '../../test-support/moving-items.ts'

describe('Bake transforms', () => {
  it('moves no place by more than a millionth of the size, whatever the nodes do', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(
          fc.record({
            move: fc.tuple(
              ...([0, 1, 2].map(() => fc.double({ min: -50, max: 50, noNaN: true })) as [
                fc.Arbitrary<number>,
                fc.Arbitrary<number>,
                fc.Arbitrary<number>,
              ]),
            ),
            angle: fc.double({ min: -3, max: 3, noNaN: true }),
            scale: fc.constantFrom(1, -1, 0.25, 3, -2),
          }),
          { minLength: 1, maxLength: 4 },
        ),
        async (chain) => {
          const document = documentOf({ part: ball(1, 6, [1, 0, 0]) })
          let node = nodeOf(document, 'part')
          itemScene(document).removeChild(node)
          for (const { move, angle, scale } of chain) {
            const above = document
              .createNode('holder')
              .setTranslation(move)
              .setRotation([0, Math.sin(angle / 2), 0, Math.cos(angle / 2)])
              .setScale([scale, 1, 1])
            above.addChild(node)
            node = above
          }
          itemScene(document).addChild(node)
          const before = standing(document, null)
          const { after } = await runStep('bake-transforms', document)
          const size = Math.max(...sizeOf(document))
          const sorted = (values: number[]): number[] => [...values].sort((a, b) => a - b)
          expect(furthest(sorted(before), sorted(standing(after, null)))).toBeLessThan(1e-6 * Math.max(size, 60))
          expect(enclosedVolume(mergedTriangles(listViewParts(after)))).toBeGreaterThan(0)
        },
      ),
      { numRuns: 40 },
    )
  })

  it('turns a mirrored arm into a plain one that faces outward', async () => {
    const document = documentOf({ arm: ball(1, 8, [2, 0, 0]) })
    nodeOf(document, 'arm').setScale([-1, 1, 1])
    expect(enclosedVolume(mergedTriangles(listViewParts(document)))).toBeGreaterThan(0)
    const { after } = await runStep('bake-transforms', document)
    const { positions, indices } = readPrimitive(listViewParts(after)[0].mesh.listPrimitives()[0])
    expect(enclosedVolume({ positions, indices })).toBeGreaterThan(3)
    expect(nodeOf(after, 'arm').getScale()).toEqual([1, 1, 1])
    expect((await runStep('turn-outward', after)).summary.changed).toBe(false)
    expect((await runStep('turn-outward', document)).summary.changed).toBe(false)
  })

  it('hands the transform of a still carrier down to what moves on it, without moving it at any key', async () => {
    const { after, summary } = await runStep('bake-transforms', swinging())
    expect(nodeOf(after, 'holder').getMatrix()).toEqual([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1])
    for (const key of [0, 1, 2]) expect(furthest(standing(swinging(), key), standing(after, key))).toBeLessThan(1e-5)
    expect(summary.details.join(' ')).toMatch(/holder did was handed down.*Left alone: arm; moves/)
  })

  it('takes off what a node says of a mesh that bones hold, which stands as before', async () => {
    const document = documentOf({ cloth: unitBox(), post: unitBox(), lid: unitBox() })
    const bone = document.createNode('rib').setTranslation([0, 1, 0])
    itemScene(document).addChild(bone)
    const cloth = nodeOf(document, 'cloth').setSkin(document.createSkin('skin').addJoint(bone))
    cloth.setScale([100, 100, 100]).setTranslation([3, 0, 0])
    nodeOf(document, 'post').setTranslation([1, 0, 0])
    // What hangs on the node goes by it, and stays where it is too.
    cloth.addChild(nodeOf(document, 'lid').setTranslation([0, 0, 0.01]))
    const before = listViewParts(document).map(partBounds)
    const { after, summary } = await runStep('bake-transforms', document)
    expect(nodeOf(after, 'cloth').getSkin()).not.toBeNull()
    expect(nodeOf(after, 'cloth').getScale()).toEqual([1, 1, 1])
    expect(nodeOf(after, 'cloth').getTranslation()).toEqual([0, 0, 0])
    expect(listViewParts(after).map(partBounds)).toEqual(before)
    expect(nodeOf(after, 'post').getTranslation()).toEqual([0, 0, 0])
    expect(summary.details.join(' ')).toMatch(/cloth stands where bones hold it/)
  })

  it('gives the same bytes for the same item', async () => {
    const [one, two] = await Promise.all(
      [0, 1].map(async () => documentToGlb((await runStep('bake-transforms', swinging())).after)),
    )
    expect(one).toEqual(two)
    expect(
      listAllParts((await runStep('bake-transforms', swinging())).after).map(
        (part) => [...restMatrix(part.node)].length,
      ),
    ).toEqual([16, 16])
  })
})
