import type { Document } from '@gltf-transform/core'
import { cross, lengthOf } from '../maths/vectors.ts'
import { determinantOf, transformedPoints } from '../maths/matrices.ts'
import { listViewParts, restMatrix } from './parts.ts'
import { readPrimitive, reversedWinding } from './primitive-arrays.ts'

const HEADER_BYTES = 80
const TRIANGLE_BYTES = 50

/** Places of all triangle corners that are drawn, in the scene and wound as they are seen: 9 numbers a triangle. */
export function drawnTriangles(document: Document): Float32Array {
  const corners: Float32Array[] = listViewParts(document).flatMap(({ node, mesh }) => {
    const matrix = restMatrix(node)
    const turned = determinantOf(matrix) < 0
    return mesh.listPrimitives().map((primitive) => {
      const { positions, indices } = readPrimitive(primitive)
      const points = transformedPoints(positions, matrix)
      const order = turned ? reversedWinding(indices) : indices
      return Float32Array.from(
        { length: order.length * 3 },
        (_, at) => points[order[Math.floor(at / 3)] * 3 + (at % 3)],
      )
    })
  })
  const all = new Float32Array(corners.reduce((sum, { length }) => sum + length, 0))
  let at = 0
  for (const each of corners) {
    all.set(each, at)
    at += each.length
  }
  return all
}

/**
 * An item as binary STL (3D Systems, 1989): a header of 80 bytes, a count, and 50 bytes a triangle. It has no units,
 * names, materials or UVs.
 *
 * @example writeFileSync('gate.stl', exportStl(document))
 */
export function exportStl(document: Document): Uint8Array {
  const triangles = drawnTriangles(document)
  const count = triangles.length / 9
  const bytes = new Uint8Array(HEADER_BYTES + 4 + count * TRIANGLE_BYTES)
  bytes.set(new TextEncoder().encode('written by Gentle Crate'))
  const view = new DataView(bytes.buffer)
  view.setUint32(HEADER_BYTES, count, true)
  for (let triangle = 0; triangle < count; triangle++) {
    const [a, b, c] = [0, 3, 6].map((start) => triangles.subarray(triangle * 9 + start, triangle * 9 + start + 3))
    const front = cross([b[0] - a[0], b[1] - a[1], b[2] - a[2]], [c[0] - a[0], c[1] - a[1], c[2] - a[2]])
    const length = lengthOf(front) || 1
    const start = HEADER_BYTES + 4 + triangle * TRIANGLE_BYTES
    ;[...front.map((value) => value / length), ...a, ...b, ...c].forEach((value, at) =>
      view.setFloat32(start + at * 4, value, true),
    )
  }
  return bytes
}

/** What an item has that a bare mesh format does not hold, in sentences. */
export function leftOutOfBareMesh(document: Document, format: 'stl' | 'ply'): string[] {
  const root = document.getRoot()
  const name = format.toUpperCase()
  const clips = root.listAnimations().length
  return [
    ...(root.listMaterials().length > 0 ? [`${name} holds no materials: names, colours and maps are left out.`] : []),
    ...(clips > 0 ? [`${name} holds no motion: ${clips} ${clips === 1 ? 'clip is' : 'clips are'} left out.`] : []),
    ...(root.listSkins().length > 0 ? [`${name} holds no bones: what they hold is written at rest.`] : []),
    ...(format === 'stl' ? ['STL holds no UVs, normals of corners or names: places of triangles are written.'] : []),
  ]
}
