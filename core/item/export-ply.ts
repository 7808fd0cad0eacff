import type { Document } from '@gltf-transform/core'
import { determinantOf, transformedNormals, transformedPoints } from '../maths/matrices.ts'
import { srgbOfLinear } from '../maths/srgb.ts'
import { listViewParts, restMatrix } from './parts.ts'
import { accessorToFloats, readPrimitive, reversedWinding } from './primitive-arrays.ts'

interface Surface {
  positions: Float32Array
  normals: Float32Array | null
  uvs: Float32Array | null
  /** sRGB bytes, 4 a corner. */
  colours: Uint8Array | null
  indices: Uint32Array
}

function surfacesOf(document: Document): Surface[] {
  return listViewParts(document).flatMap(({ node, mesh }) => {
    const matrix = restMatrix(node)
    return mesh.listPrimitives().map((primitive): Surface => {
      const { positions, indices, normals, uvs } = readPrimitive(primitive)
      const accessor = primitive.getAttribute('COLOR_0')
      const size = accessor?.getElementSize() ?? 4
      const floats = accessor ? accessorToFloats(accessor) : null
      return {
        positions: transformedPoints(positions, matrix),
        normals: normals && transformedNormals(normals, matrix),
        uvs,
        colours:
          floats &&
          Uint8Array.from({ length: (floats.length / size) * 4 }, (_, at) => {
            const value = at % 4 < size ? floats[Math.floor(at / 4) * size + (at % 4)] : 1
            return Math.round(255 * Math.min(1, Math.max(0, at % 4 === 3 ? value : srgbOfLinear(value))))
          }),
        indices: determinantOf(matrix) < 0 ? reversedWinding(indices) : indices,
      }
    })
  })
}

/**
 * An item as binary PLY, little-endian (Turk 1994): corners with normals, one set of UVs (V upward) and colours where
 * any surface has them, and triangles. It has no units, names or materials.
 *
 * @example writeFileSync('gate.ply', exportPly(document))
 */
export function exportPly(document: Document): Uint8Array {
  const surfaces = surfacesOf(document)
  const has = (layer: 'normals' | 'uvs' | 'colours'): boolean => surfaces.some((surface) => surface[layer] !== null)
  const [normals, uvs, colours] = [has('normals'), has('uvs'), has('colours')]
  const corners = surfaces.reduce((sum, { positions }) => sum + positions.length / 3, 0)
  const triangles = surfaces.reduce((sum, { indices }) => sum + indices.length / 3, 0)
  const floats = (names: readonly string[]): string[] => names.map((name) => `property float ${name}`)
  const header = [
    'ply',
    'format binary_little_endian 1.0',
    'comment written by Gentle Crate',
    `element vertex ${corners}`,
    ...floats(['x', 'y', 'z']),
    ...(normals ? floats(['nx', 'ny', 'nz']) : []),
    ...(uvs ? floats(['s', 't']) : []),
    ...(colours ? ['red', 'green', 'blue', 'alpha'].map((name) => `property uchar ${name}`) : []),
    `element face ${triangles}`,
    'property list uchar int vertex_indices',
    'end_header\n',
  ].join('\n')
  const start = new TextEncoder().encode(header)
  const cornerBytes = 12 + (normals ? 12 : 0) + (uvs ? 8 : 0) + (colours ? 4 : 0)
  const bytes = new Uint8Array(start.length + corners * cornerBytes + triangles * 13)
  bytes.set(start)
  const view = new DataView(bytes.buffer)
  let at = start.length
  const float = (value: number): void => {
    view.setFloat32(at, value, true)
    at += 4
  }
  for (const surface of surfaces)
    for (let corner = 0; corner < surface.positions.length / 3; corner++) {
      for (let axis = 0; axis < 3; axis++) float(surface.positions[corner * 3 + axis])
      if (normals) for (let axis = 0; axis < 3; axis++) float(surface.normals?.[corner * 3 + axis] ?? 0)
      if (uvs) {
        float(surface.uvs?.[corner * 2] ?? 0)
        float(1 - (surface.uvs?.[corner * 2 + 1] ?? 1))
      }
      if (colours)
        for (let channel = 0; channel < 4; channel++) bytes[at++] = surface.colours?.[corner * 4 + channel] ?? 255
    }
  let first = 0
  for (const { positions, indices } of surfaces) {
    for (let corner = 0; corner < indices.length; corner++) {
      if (corner % 3 === 0) bytes[at++] = 3
      view.setInt32(at, indices[corner] + first, true)
      at += 4
    }
    first += positions.length / 3
  }
  return bytes
}
