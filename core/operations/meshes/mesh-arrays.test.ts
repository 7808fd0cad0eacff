import type { Document } from '@gltf-transform/core'
import { validateBytes } from 'gltf-validator'
import { describe, expect, it } from 'vitest'
import { documentToGlb } from '../../item/io.ts'
import { itemScene, listViewParts } from '../../item/parts.ts'
import { gatherCorners, readPrimitive, writeAttribute } from '../../item/primitive-arrays.ts'
import { boxMesh } from '../../geometry/shapes/box-mesh.ts'
import { ball, documentOf, unitBox } from '../../test-support/meshes.ts'
import { sheet } from '../../test-support/shapes.ts'
import { runStep } from '../../test-support/step-runs.ts'
import { readMesh, writeMesh } from './mesh-arrays.ts'

const [red, blue] = [
  [1, 0, 0, 1],
  [0, 0, 1, 1],
]

/** A ball held by two bones, red above and blue below, with a shape key that lifts it. */
function richBall(): Document {
  const document = documentOf({ ball: ball(2, 24) })
  const [part] = listViewParts(document)
  const primitive = part.mesh.listPrimitives()[0]
  const { positions } = readPrimitive(primitive)
  const corners = positions.length / 3
  const height = (corner: number): number => positions[corner * 3 + 1]
  const buffer = document.getRoot().listBuffers()[0]
  writeAttribute(
    document,
    primitive,
    'COLOR_0',
    Float32Array.from({ length: corners * 4 }, (_, at) => (height(Math.floor(at / 4)) > 0 ? red : blue)[at % 4]),
    4,
  )
  writeAttribute(
    document,
    primitive,
    'WEIGHTS_0',
    Float32Array.from({ length: corners * 4 }, (_, at) => (at % 4 === 0 ? 1 : 0)),
    4,
  )
  primitive.setAttribute(
    'JOINTS_0',
    document
      .createAccessor()
      .setType('VEC4')
      .setBuffer(buffer)
      .setArray(
        Uint16Array.from({ length: corners * 4 }, (_, at) => (at % 4 === 0 && height(Math.floor(at / 4)) > 0 ? 1 : 0)),
      ),
  )
  const lift = document.createPrimitiveTarget('lift').setAttribute(
    'POSITION',
    document
      .createAccessor()
      .setType('VEC3')
      .setBuffer(buffer)
      .setArray(Float32Array.from({ length: corners * 3 }, (_, at) => (at % 3 === 1 ? 1 : 0))),
  )
  primitive.addTarget(lift)
  const bones = ['low', 'high'].map((name) => document.createNode(name))
  itemScene(document).addChild(bones.reduce((rig, bone) => rig.addChild(bone), document.createNode('rig')))
  const binds = document
    .createAccessor()
    .setType('MAT4')
    .setBuffer(buffer)
    .setArray(Float32Array.from(bones.flatMap(() => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1])))
  part.node.setSkin(
    bones.reduce((skin, bone) => skin.addJoint(bone), document.createSkin().setInverseBindMatrices(binds)),
  )
  return document
}

describe('a mesh as one set of arrays', () => {
  it('comes back as it was when nothing is changed', () => {
    const document = documentOf({ box: unitBox(), flat: sheet(2, 2) })
    const [box, flat] = listViewParts(document)
    box.mesh.addPrimitive(flat.mesh.listPrimitives()[0])
    const arrays = readMesh(box.mesh)
    expect(arrays.firstCorner).toEqual([0, 8, 17])
    const before = box.mesh.listPrimitives().map((primitive) => [...readPrimitive(primitive).indices].length)
    writeMesh(document, box.mesh, arrays, arrays)
    expect(box.mesh.listPrimitives().map((primitive) => readPrimitive(primitive).indices.length)).toEqual(before)
    expect(readMesh(box.mesh).positions.length).toBe(arrays.positions.length)
  })

  it('drops a surface that lost all its triangles', () => {
    const document = documentOf({ box: unitBox(), flat: sheet(1, 1) })
    const [box, flat] = listViewParts(document)
    box.mesh.addPrimitive(flat.mesh.listPrimitives()[0])
    const arrays = readMesh(box.mesh)
    writeMesh(document, box.mesh, arrays, { ...arrays, indices: arrays.indices.slice(0, 36) })
    expect(box.mesh.listPrimitives()).toHaveLength(1)
  })

  it('marks the corners where surfaces meet, and no others', () => {
    const document = documentOf({
      left: sheet(2, 2),
      right: {
        ...sheet(2, 2),
        positions: sheet(2, 2).positions.map((value, at) => (at % 3 === 0 ? value + 2 : value)),
      },
    })
    const [left, right] = listViewParts(document)
    left.mesh.addPrimitive(right.mesh.listPrimitives()[0])
    const { protectedCorners, positions } = readMesh(left.mesh)
    protectedCorners.forEach((marked, corner) => expect(marked).toBe(positions[corner * 3] === 2 ? 1 : 0))
  })
})

describe('what corners carry', () => {
  it('survives a reduction: colours, bones, shape keys, and the file stays valid', async () => {
    const { after } = await runStep('reduce-triangles', richBall(), { targetTriangles: 300, holdBorders: false })
    const primitive = listViewParts(after)[0].mesh.listPrimitives()[0]
    const { positions } = readPrimitive(primitive)
    const corners = positions.length / 3
    expect(primitive.listTargets()[0].getAttribute('POSITION')?.getCount()).toBe(corners)
    const [colours, joints, weights] = ['COLOR_0', 'JOINTS_0', 'WEIGHTS_0'].map((name) => primitive.getAttribute(name))
    for (let corner = 0; corner < corners; corner++) {
      const height = positions[corner * 3 + 1]
      expect(weights?.getElement(corner, []).reduce((sum, weight) => sum + weight, 0)).toBeCloseTo(1)
      // Where the two meet a corner may be either; away from there it is what its neighbourhood was.
      if (Math.abs(height) < 0.5) continue
      expect(joints?.getElement(corner, [])[0]).toBe(height > 0 ? 1 : 0)
      expect(colours?.getElement(corner, [])[height > 0 ? 0 : 2]).toBeGreaterThan(0.8)
    }
    const report = await validateBytes(await documentToGlb(after))
    expect(report.issues.messages.filter((message) => message.severity === 0)).toEqual([])
  })

  it('is gathered with its component types, shape keys too', () => {
    const document = richBall()
    const primitive = listViewParts(document)[0].mesh.listPrimitives()[0]
    gatherCorners(document, primitive, Uint32Array.from([5, 0, 5]))
    expect(primitive.getAttribute('JOINTS_0')?.getArray()).toBeInstanceOf(Uint16Array)
    expect(primitive.listTargets()[0].getAttribute('POSITION')?.getCount()).toBe(3)
    expect(primitive.getAttribute('POSITION')?.getElement(0, [])).toEqual(
      primitive.getAttribute('POSITION')?.getElement(2, []),
    )
  })
})

describe('a mesh held by more bones than there is room for', () => {
  /** A strip of thirty squares, each held by a bone of its own; the first ten bones hold twice as much. */
  function strip(): Document {
    const soups = Array.from({ length: 30 }, (_, at) => boxMesh({ min: [at, 0, 0], max: [at + 1, 1, at < 10 ? 2 : 1] }))
    const positions = Float32Array.from(soups.flatMap((soup) => [...soup.positions]))
    const corners = soups[0].positions.length / 3
    const indices = Uint32Array.from(
      soups.flatMap((soup, at) => [...soup.indices].map((corner) => corner + at * corners)),
    )
    const document = documentOf({ strip: { positions, indices } })
    const primitive = listViewParts(document)[0].mesh.listPrimitives()[0]
    const [buffer] = document.getRoot().listBuffers()
    const boneOf = (at: number): number => Math.floor(Math.floor(at / 4) / corners)
    const count = positions.length / 3
    const joints = Uint8Array.from({ length: count * 4 }, (_, at) => (at % 4 === 0 ? boneOf(at) : 0))
    const weights = Float32Array.from({ length: count * 4 }, (_, at) =>
      at % 4 === 0 ? (boneOf(at) < 10 ? 1 : 0.5) : 0,
    )
    primitive.setAttribute('JOINTS_0', document.createAccessor().setType('VEC4').setArray(joints).setBuffer(buffer))
    primitive.setAttribute('WEIGHTS_0', document.createAccessor().setType('VEC4').setArray(weights).setBuffer(buffer))
    return document
  }

  it('tells the bones that hold most apart, and no other bone for one of them', () => {
    const mesh = readMesh(listViewParts(strip())[0].mesh)
    const held = mesh.attributes.get('WEIGHTS_0')
    if (!held) throw new Error('no weights')
    const corners = held.array.length / held.size / 30
    const columns = Array.from({ length: 30 }, (_, bone) => {
      const row = held.array.slice(bone * corners * held.size, bone * corners * held.size + held.size)
      return row.findIndex((weight) => weight > 0)
    })
    expect(held.size).toBe(23)
    expect(new Set(columns.slice(0, 10)).size).toBe(10)
    expect(columns.slice(10).some((column) => columns.slice(0, 10).includes(column))).toBe(false)
  })
})
