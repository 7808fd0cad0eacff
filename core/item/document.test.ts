import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { parseObj } from '../intake/obj/obj-parse.ts'
import { documentOf, unitBox } from '../test-support/meshes.ts'
import { textFile } from '../test-support/sources.ts'
import { newEntryId } from '../worklist/entry.ts'
import { axesTurn, axisVector, customaryForward, identityMatrix, multiplyMatrices, scaleMatrix } from '../maths/axes.ts'
import { exportObj } from './export-obj.ts'
import { foreignExtras, getNodeExtras, getRootExtras, setNodeExtras, setRootExtras } from './extras.ts'
import { axisNames, type AxisName } from '../maths/axes.ts'
import { canonicalJson, hashValue, sha256Hex } from '../support/hashing.ts'
import { copyDocument, documentFromGlb, documentToGlb } from './io.ts'
import { boundsSize, emptyBounds, isEmptyBounds, partBounds, uniteBounds } from './measure.ts'
import { listViewParts } from './parts.ts'
import { PlainError, plainMessage } from '../support/plain-error.ts'

const pairs = axisNames.flatMap((up) =>
  axisNames.filter((forward) => forward[1] !== up[1]).map((forward) => [up, forward] as [AxisName, AxisName]),
)
const apply = (matrix: number[], [x, y, z]: number[]): number[] =>
  [0, 1, 2].map((axis) => matrix[axis] * x + matrix[axis + 4] * y + matrix[axis + 8] * z + 0)
const pair = fc.constantFrom(...pairs)

describe('axes', () => {
  it('take up to up and forward to forward, for every pair there is', () => {
    fc.assert(
      fc.property(pair, pair, ([fromUp, fromForward], [toUp, toForward]) => {
        const turn = axesTurn(fromUp, fromForward, toUp, toForward)
        expect(apply(turn, axisVector(fromUp))).toEqual(axisVector(toUp).map((value) => value + 0))
        expect(apply(turn, axisVector(fromForward))).toEqual(axisVector(toForward).map((value) => value + 0))
      }),
    )
  })

  it('go back where they came from', () => {
    fc.assert(
      fc.property(pair, pair, ([fromUp, fromForward], [toUp, toForward]) => {
        const there = axesTurn(fromUp, fromForward, toUp, toForward)
        const back = axesTurn(toUp, toForward, fromUp, fromForward)
        expect(multiplyMatrices(back, there).map((value) => value + 0)).toEqual(identityMatrix())
      }),
    )
  })

  it('have a customary forward that is never on the up axis', () => {
    for (const up of axisNames.filter((axis) => (axis !== '+y' && axis !== '-y' ? axis[1] === 'z' : true)))
      expect(customaryForward(up)[1]).not.toBe(up[1])
    expect(customaryForward('+y')).toBe('+z')
    expect(customaryForward('+z')).toBe('-y')
  })

  it('multiply in the order in which they are done: first the right one', () => {
    const turned = multiplyMatrices(scaleMatrix(2), axesTurn('+z', '-y', '+y', '+z'))
    expect(apply(turned, [0, 0, 5])).toEqual([0, 10, 0])
  })
})

describe('what we keep in extras', () => {
  it('is there again after a document was written and read', async () => {
    const document = documentOf({ box: unitBox() })
    setRootExtras(document.getRoot(), {
      units: { metresPerUnit: 0.01, from: 'chosen' },
      axes: { up: '+z', forward: '-y', from: 'declared' },
      fit: scaleMatrix(3),
    })
    setNodeExtras(listViewParts(document)[0].node, { role: 'part' })
    const read = await documentFromGlb(await documentToGlb(document))
    expect(getRootExtras(read.getRoot())).toEqual(getRootExtras(document.getRoot()))
    expect(getNodeExtras(listViewParts(read)[0].node)).toEqual({ role: 'part' })
  })

  it('reads as unknown when it was tampered with', () => {
    const document = documentOf({ box: unitBox() })
    document.getRoot().setExtras({ gentle_crate: { units: 'many' } })
    expect(getRootExtras(document.getRoot())).toEqual({
      units: { metresPerUnit: null, from: 'unknown' },
      axes: { up: '+y', forward: '+z', from: 'unknown' },
      givenUp: [],
    })
  })

  it('leaves what others keep there alone', () => {
    const [{ node }] = listViewParts(documentOf({ box: unitBox() }))
    node.setExtras({ theirs: 7 })
    setNodeExtras(node, { role: 'solid' })
    expect(node.getExtras()).toMatchObject({ theirs: 7, gentle_crate: { role: 'solid' } })
    expect(foreignExtras(node)).toEqual({ theirs: 7 })
  })
})

describe('a kept state', () => {
  it('has the same bytes for the same document, also after being read', async () => {
    const document = documentOf({ box: unitBox(), other: unitBox() })
    const bytes = await documentToGlb(document)
    expect(sha256Hex(await documentToGlb(document))).toBe(sha256Hex(bytes))
    expect(sha256Hex(await documentToGlb(await documentFromGlb(bytes)))).toBe(sha256Hex(bytes))
  })

  it('is not changed through its copy', () => {
    const document = documentOf({ box: unitBox() })
    const copy = copyDocument(document)
    listViewParts(copy)[0].node.setName('renamed')
    copy.getRoot().listMaterials()[0].setName('renamed')
    expect(listViewParts(document)[0].name).toBe('box')
    expect(document.getRoot().listMaterials()[0].getName()).toBe('box_material')
  })
})

describe('bounds', () => {
  it('of nothing are empty and have no size', () => {
    expect(isEmptyBounds(emptyBounds())).toBe(true)
    expect(boundsSize(emptyBounds())).toEqual([0, 0, 0])
  })

  it('unite to hold both', () => {
    const united = uniteBounds({ min: [0, 0, 0], max: [1, 1, 1] }, { min: [-1, 2, 0], max: [0, 3, 9] })
    expect(united).toEqual({ min: [-1, 0, 0], max: [1, 3, 9] })
    expect(uniteBounds(emptyBounds(), united)).toEqual(united)
  })

  it('are those of the scene, not of the node', () => {
    const document = documentOf({ box: unitBox() })
    const [part] = listViewParts(document)
    part.node.setTranslation([10, 0, 0]).setScale([2, 2, 2])
    expect(partBounds(part)).toEqual({ min: [10, 0, 0], max: [12, 2, 2] })
  })
})

describe('hashes', () => {
  it('do not depend on the order of keys, but on that of lists', () => {
    expect(hashValue({ a: 1, b: [1, 2] })).toBe(hashValue({ b: [1, 2], a: 1 }))
    expect(hashValue([1, 2])).not.toBe(hashValue([2, 1]))
    expect(canonicalJson({ b: { d: 1, c: null }, a: 'x' })).toBe('{"a":"x","b":{"c":null,"d":1}}')
  })

  it('are SHA-256', () => {
    expect(sha256Hex(new TextEncoder().encode('abc'))).toBe(
      'ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad',
    )
  })
})

describe('names of steps', () => {
  it('number on from the highest', () => {
    const entry = (id: string) => ({ id, step: 'weld', on: true, parameters: {}, reason: null })
    expect(newEntryId([])).toBe('step-1')
    expect(newEntryId([entry('step-4'), entry('step-2'), entry('mine')])).toBe('step-5')
  })
})

describe('OBJ that is written', () => {
  it('can be read again with the same parts, materials and triangles', () => {
    const document = documentOf({ box: unitBox(), other: unitBox() })
    listViewParts(document)[1].node.setTranslation([0, 5, 0])
    const { objects, points } = parseObj(textFile('a.obj', exportObj(document, 'a').obj))
    expect(objects.map((object) => object.name)).toEqual(['box', 'other'])
    const group = objects[1].groups.get('other_material')
    expect(group?.polygonSizes).toHaveLength(12)
    expect(Math.max(...Array.from(group?.corners.view() ?? [], (point) => points[point * 3 + 1]))).toBe(6)
  })
})

describe('sentences', () => {
  it('say where, what and what mends it', () => {
    const error = new PlainError('it is cut off', 'gate.glb', 'Copy it again.')
    expect(error.message).toBe('gate.glb: it is cut off. Copy it again.')
    expect(plainMessage(error)).toBe(error.message)
    expect(plainMessage('odd')).toBe('odd')
  })
})
