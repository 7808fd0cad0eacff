import type { Document } from '@gltf-transform/core'
import { cross, lengthOf } from '../maths/vectors.ts'
import { mergedTriangles } from './measure.ts'
import { listViewParts } from './parts.ts'

const HEADER_BYTES = 80
const TRIANGLE_BYTES = 50

/**
 * An item as binary STL (3D Systems, 1989): a header of 80 bytes, a count, and 50 bytes a triangle. It has no units,
 * names, materials or UVs.
 *
 * @example writeFileSync('gate.stl', exportStl(document))
 */
export function exportStl(document: Document): Uint8Array {
  const { positions, indices } = mergedTriangles(listViewParts(document))
  const count = indices.length / 3
  const bytes = new Uint8Array(HEADER_BYTES + 4 + count * TRIANGLE_BYTES)
  bytes.set(new TextEncoder().encode('written by Gentle Crate'))
  const view = new DataView(bytes.buffer)
  view.setUint32(HEADER_BYTES, count, true)
  for (let triangle = 0; triangle < count; triangle++) {
    const [a, b, c] = [0, 1, 2].map((step) => {
      const corner = indices[triangle * 3 + step] * 3
      return positions.subarray(corner, corner + 3)
    })
    const front = cross([b[0] - a[0], b[1] - a[1], b[2] - a[2]], [c[0] - a[0], c[1] - a[1], c[2] - a[2]])
    const length = lengthOf(front) || 1
    const start = HEADER_BYTES + 4 + triangle * TRIANGLE_BYTES
    ;[...front.map((value) => value / length), ...a, ...b, ...c].forEach((value, at) =>
      view.setFloat32(start + at * 4, value, true),
    )
  }
  return bytes
}

/**
 * What an item has that a bare mesh format does not hold, in sentences.
 * @example const lost = leftOutOfBareMesh(document, 'stl')
 */
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
