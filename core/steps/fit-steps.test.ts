import type { Document, vec3, vec4 } from '@gltf-transform/core'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { getRootExtras } from '../document/extras.ts'
import { copyDocument, documentToGlb } from '../document/io.ts'
import { boundsSize, mergedTriangles, partsBounds } from '../document/measure.ts'
import { itemScene, listAllParts, listViewParts, restMatrix } from '../document/parts.ts'
import { readPrimitive, writeAttribute } from '../document/primitive-arrays.ts'
import { boxMesh, enclosedVolume } from '../geometry/box-mesh.ts'
import { changeBasis } from '../geometry/change-basis.ts'
import { ball, documentOf, mergedSoup, unitBox } from '../test-support/meshes.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { proposals, runStep } from '../test-support/step-runs.ts'

const sizeOf = (document: Document): number[] => boundsSize(partsBounds(listViewParts(document)))
const box = (): Document => documentOf({ box: boxMesh({ min: [1, 2, 3], max: [3, 6, 11] }) })
const nodeOf = (document: Document, name: string) => {
  const node = document.getRoot().listNodes().find((each) => each.getName() === name)
  if (!node) throw new Error(`no node ${name}`)
  return node
}

/** A post that carries an arm with a negative scale, which a clip swings. */
function swinging(): Document {
  const document = documentOf({ post: unitBox(), arm: ball(1, 6, [2, 0, 0]) })
  const holder = document.createNode('holder').setTranslation([0, 4, 0]).setRotation([0, Math.SQRT1_2, 0, Math.SQRT1_2]).setScale([2, 2, 2])
  itemScene(document).removeChild(nodeOf(document, 'arm'))
  holder.addChild(nodeOf(document, 'arm').setTranslation([1, 0, 0]))
  itemScene(document).addChild(holder)
  const buffer = document.getRoot().listBuffers()[0]
  const times = document.createAccessor().setType('SCALAR').setArray(Float32Array.from([0, 1, 2])).setBuffer(buffer)
  const turns = document.createAccessor().setType('VEC4').setArray(Float32Array.from([0, 0, 0, 1, 0, 0, Math.sin(0.3), Math.cos(0.3), 0, 0, 0, 1])).setBuffer(buffer)
  const moves = document.createAccessor().setType('VEC3').setArray(Float32Array.from([1, 0, 0, 1, 1, 0, 1, 0, 0])).setBuffer(buffer)
  const clip = document.createAnimation('swing')
  for (const [path, output] of [['rotation', turns], ['translation', moves]] as const) {
    const sampler = document.createAnimationSampler().setInput(times).setOutput(output).setInterpolation('LINEAR')
    clip.addSampler(sampler).addChannel(document.createAnimationChannel().setTargetNode(nodeOf(document, 'arm')).setTargetPath(path).setSampler(sampler))
  }
  return document
}

/** Where every triangle of the item stands, whatever nodes hold it, at one key of the clip. */
function standing(document: Document, key: number | null): number[] {
  const copy = copyDocument(document)
  for (const channel of key === null ? [] : copy.getRoot().listAnimations().flatMap((clip) => clip.listChannels())) {
    const value: number[] = channel.getSampler()?.getOutput()?.getElement(key ?? 0, []) ?? []
    const node = channel.getTargetNode()
    if (channel.getTargetPath() === 'rotation') node?.setRotation(value as vec4)
    if (channel.getTargetPath() === 'translation') node?.setTranslation(value as vec3)
  }
  return mergedSoup(copy)
}

const furthest = (a: readonly number[], b: readonly number[]): number => Math.max(...a.map((value, index) => Math.abs(value - b[index])))

describe('Set the size', () => {
  const { figure, doorway, gridCell } = tarnAndTiller.space

  it('makes the item as tall as figures, as wide as cells, or by a factor', async () => {
    expect(sizeOf((await runStep('set-size', box(), { by: 'figure', figures: 2 })).after)[1]).toBeCloseTo(2 * figure.height)
    expect(sizeOf((await runStep('set-size', box(), { by: 'cells', cells: 3 })).after)[2]).toBeCloseTo(3 * gridCell)
    expect(sizeOf((await runStep('set-size', box(), { by: 'factor', factor: 0.5 })).after)).toEqual([1, 2, 4])
  })

  it('makes it fit through the doorway, just', async () => {
    const [width, height] = sizeOf((await runStep('set-size', box(), { by: 'doorway' })).after)
    expect(width).toBeLessThanOrEqual(doorway.width)
    expect(height).toBeLessThanOrEqual(doorway.height)
    expect(Math.max(width / doorway.width, height / doorway.height)).toBeGreaterThan(0.97)
  })

  it('gives an edge between two picked points the length that was asked', async () => {
    const { after, summary } = await runStep('set-size', box(), { by: 'edge', ends: [[1, 2, 3], [1, 6, 3]], length: 3 })
    expect(sizeOf(after)[1]).toBeCloseTo(3)
    expect(summary.headline).toBe('× 0.75')
  })

  it('says what is missing where it cannot tell the size', async () => {
    await expect(runStep('set-size', box(), { by: 'edge', ends: [] })).rejects.toThrow(/not picked yet.*Click two points/)
    await expect(runStep('set-size', box(), { by: 'edge', ends: [[0, 0, 0], [0, 0, 0]] })).rejects.toThrow(/no distance/)
    const flat = documentOf({ flat: boxMesh({ min: [0, 0, 0], max: [1, 0, 1] }) })
    await expect(runStep('set-size', flat, { by: 'figure' })).rejects.toThrow(/no height.*by a factor/)
  })
})

describe('Place the origin', () => {
  const placed = async (parameters: Record<string, unknown>) => partsBounds(listViewParts((await runStep('place-origin', box(), parameters)).after))

  it('puts it in the middle of the base, in the centre, at a point, or at a part', async () => {
    expect((await placed({ at: 'base' })).min).toEqual([-1, 0, -4])
    expect((await placed({ at: 'centre' })).min).toEqual([-1, -2, -4])
    expect((await placed({ at: 'point', point: [[3, 2, 3]] })).max).toEqual([0, 4, 8])
    expect((await placed({ at: 'part', part: 'box' })).min).toEqual([-1, 0, -4])
    expect((await placed({ at: 'keep' })).min).toEqual([1, 2, 3])
  })

  it('snaps the origin or the lower edges to the grid', async () => {
    expect((await placed({ at: 'centre', snap: 'origin', grid: 2 })).min).toEqual([-1, -2, -5])
    for (const value of (await placed({ at: 'centre', snap: 'bounds', grid: 1.5 })).min) expect(Math.abs(value / 1.5 - Math.round(value / 1.5))).toBeLessThan(1e-6)
  })

  it('moves what a clip moves with its keys, and leaves still parts without a transform', async () => {
    const { after } = await runStep('place-origin', swinging(), { at: 'point', point: [[1, 2, 3]] })
    expect(nodeOf(after, 'post').getTranslation()).toEqual([0, 0, 0])
    for (const key of [0, 1, 2]) expect(furthest(standing(swinging(), key).map((value, index) => value - [1, 2, 3][index % 3]), standing(after, key))).toBeLessThan(1e-5)
  })

  it('passes over a part that is gone, and asks for a point that was not picked', async () => {
    expect((await runStep('place-origin', box(), { at: 'part', part: 'mast' })).summary.doesNotApply).toMatch(/no part “mast”/)
    await expect(runStep('place-origin', box(), { at: 'point', point: [] })).rejects.toThrow(/Click a point/)
  })
})

describe('Mirror', () => {
  it('keeps faces outward and turns the sign of tangents', async () => {
    const document = documentOf({ ball: ball(2, 10, [3, 0, 0]) })
    const primitive = listViewParts(document)[0].mesh.listPrimitives()[0]
    writeAttribute(document, primitive, 'TANGENT', Float32Array.from({ length: readPrimitive(primitive).positions.length / 3 * 4 }, (_, at) => [1, 0, 0, 1][at % 4]), 4)
    const { after } = await runStep('mirror', document, { across: 'x' })
    const { positions, indices } = mergedTriangles(listViewParts(after))
    expect(enclosedVolume({ positions, indices })).toBeGreaterThan(30)
    expect(partsBounds(listViewParts(after)).max[0]).toBeCloseTo(-1)
    expect([...(listViewParts(after)[0].mesh.listPrimitives()[0].getAttribute('TANGENT')?.getElement(0, []) ?? [])]).toEqual([-1, 0, 0, -1])
  })

  it('mirrors motion: at every key the mirrored item is the mirror image of the item', async () => {
    for (const [index, across] of ['x', 'y', 'z'].entries()) {
      const { after } = await runStep('mirror', swinging(), { across })
      for (const key of [0, 1, 2]) {
        const wanted = standing(swinging(), key).map((value, at) => (at % 3 === index ? -value : value))
        // The winding is reversed, so the corners of a triangle come in another order: compare as sets of places.
        const sorted = (values: number[]): number[] => Array.from({ length: values.length / 3 }, (_, at) => values.slice(at * 3, at * 3 + 3)).sort((a, b) => a[0] - b[0] || a[1] - b[1] || a[2] - b[2]).flat()
        expect(furthest(sorted(wanted.map((value) => Math.round(value * 1e4) / 1e4)), sorted(standing(after, key).map((value) => Math.round(value * 1e4) / 1e4)))).toBeLessThan(2e-4)
      }
    }
  })

  it('twice is nothing at all', () => {
    fc.assert(
      fc.property(fc.constantFrom(0, 1, 2), fc.array(fc.double({ min: -3, max: 3, noNaN: true }), { minLength: 4, maxLength: 4 }), (axis, [x, y, z, w]) => {
        const document = swinging()
        const length = Math.hypot(x, y, z, w) || 1
        nodeOf(document, 'holder').setRotation(length > 0.1 ? [x / length, y / length, z / length, w / length] : [0, 0, 0, 1])
        const before = standing(document, 1)
        const mirror = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1].map((value, index) => (index === axis * 5 ? -1 : value))
        changeBasis(document, mirror, 1)
        changeBasis(document, mirror, 1)
        expect(furthest(before, standing(document, 1))).toBeLessThan(1e-5)
      }),
      { numRuns: 30 },
    )
  })
})

describe('Turn axes into a left-handed space', () => {
  const leftHanded = { ...tarnAndTiller, space: { ...tarnAndTiller.space, handedness: 'left' as const } }
  it('is proposed with a mirror, keeps the volume positive and the item as large', async () => {
    const document = documentOf({ wedge: boxMesh({ min: [0, 0, 0], max: [1, 2, 3] }) })
    const [proposal] = proposals('turn-axes', document, { rulebook: leftHanded })
    expect(proposal.parameters).toMatchObject({ mirrored: true })
    const { after, summary } = await runStep('turn-axes', document, proposal.parameters, { rulebook: leftHanded })
    const { positions, indices } = mergedTriangles(listViewParts(after))
    expect(enclosedVolume({ positions, indices })).toBeCloseTo(6)
    expect(partsBounds(listViewParts(after)).min[0]).toBeCloseTo(-1)
    expect(summary.details.join(' ')).toMatch(/Left and right were exchanged/)
    expect(getRootExtras(after.getRoot()).fit?.[0]).toBe(-1)
  })
})

describe('Bake transforms', () => {
  it('moves no place by more than a millionth of the size, whatever the nodes do', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.record({ move: fc.tuple(...([0, 1, 2].map(() => fc.double({ min: -50, max: 50, noNaN: true })) as [fc.Arbitrary<number>, fc.Arbitrary<number>, fc.Arbitrary<number>])), angle: fc.double({ min: -3, max: 3, noNaN: true }), scale: fc.constantFrom(1, -1, 0.25, 3, -2) }), { minLength: 1, maxLength: 4 }),
        async (chain) => {
          const document = documentOf({ part: ball(1, 6, [1, 0, 0]) })
          let node = nodeOf(document, 'part')
          itemScene(document).removeChild(node)
          for (const { move, angle, scale } of chain) {
            const above = document.createNode('holder').setTranslation(move).setRotation([0, Math.sin(angle / 2), 0, Math.cos(angle / 2)]).setScale([scale, 1, 1])
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

  it('leaves a mesh that bones hold, and says why', async () => {
    const document = documentOf({ cloth: unitBox(), post: unitBox() })
    const bone = document.createNode('rib').setTranslation([0, 1, 0])
    itemScene(document).addChild(bone)
    nodeOf(document, 'cloth').setSkin(document.createSkin('skin').addJoint(bone))
    nodeOf(document, 'post').setTranslation([1, 0, 0])
    const { after, summary } = await runStep('bake-transforms', document)
    expect(nodeOf(after, 'cloth').getSkin()).not.toBeNull()
    expect(nodeOf(after, 'post').getTranslation()).toEqual([0, 0, 0])
    expect(summary.details.join(' ')).toMatch(/Left alone: rib; is a bone.*Left alone: cloth; bones hold it/)
  })

  it('gives the same bytes for the same item', async () => {
    const [one, two] = await Promise.all([0, 1].map(async () => documentToGlb((await runStep('bake-transforms', swinging())).after)))
    expect(one).toEqual(two)
    expect(listAllParts((await runStep('bake-transforms', swinging())).after).map((part) => [...restMatrix(part.node)].length)).toEqual([16, 16])
  })
})
