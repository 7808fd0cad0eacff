import type { mat4, vec3 } from '@gltf-transform/core'
import { determinantOf } from '../maths/matrices.ts'
import { countMeshTriangles, restMatrix, type Part } from './parts.ts'
import { accessorToFloats, primitiveIndices } from './primitive-arrays.ts'

/** An axis-aligned box in scene units. */
export interface Bounds {
  min: [number, number, number]
  max: [number, number, number]
}

/**
 * A box round nothing: joining it to another gives the other.
 * @example uniteBounds(emptyBounds(), { min: [0, 0, 0], max: [1, 2, 3] }).max // [1, 2, 3]
 */
export function emptyBounds(): Bounds {
  return { min: [Infinity, Infinity, Infinity], max: [-Infinity, -Infinity, -Infinity] }
}

/**
 * Whether a box is round nothing.
 *
 * @example isEmptyBounds({ min: [1, 0, 0], max: [0, 0, 0] }) // true
 */
export const isEmptyBounds = (bounds: Bounds): boolean => bounds.min[0] > bounds.max[0]

/**
 * Grows `bounds` in place by the points of `positions` (3 floats each) under a column-major matrix.
 * @example growBounds(bounds, positions, node.getWorldMatrix())
 */
export function growBounds(bounds: Bounds, positions: Float32Array, matrix: mat4): void {
  for (let offset = 0; offset + 2 < positions.length; offset += 3) {
    const x = positions[offset]
    const y = positions[offset + 1]
    const z = positions[offset + 2]
    for (let axis = 0; axis < 3; axis++) {
      const value = matrix[axis] * x + matrix[4 + axis] * y + matrix[8 + axis] * z + matrix[12 + axis]
      if (value < bounds.min[axis]) bounds.min[axis] = value
      if (value > bounds.max[axis]) bounds.max[axis] = value
    }
  }
}

/**
 * The box around one part in scene space.
 *
 * @example const [width, height, depth] = boundsSize(partBounds(part))
 */
export function partBounds(part: Part): Bounds {
  const bounds = emptyBounds()
  const matrix = restMatrix(part.node)
  for (const primitive of part.mesh.listPrimitives()) {
    const position = primitive.getAttribute('POSITION')
    if (position) growBounds(bounds, accessorToFloats(position), matrix)
  }
  return bounds
}

/**
 * The box around several parts; empty bounds when there are none.
 *
 * @example const [width, height, depth] = boundsSize(partsBounds(listViewParts(document)))
 */
export function partsBounds(parts: readonly Part[]): Bounds {
  return parts.map(partBounds).reduce(uniteBounds, emptyBounds())
}

/**
 * The box round two boxes.
 * @example uniteBounds({ min: [0, 0, 0], max: [1, 1, 1] }, { min: [2, 0, 0], max: [3, 1, 1] }).max // [3, 1, 1]
 */
export function uniteBounds(first: Bounds, second: Bounds): Bounds {
  const bounds = emptyBounds()
  for (let axis = 0; axis < 3; axis++) {
    bounds.min[axis] = Math.min(first.min[axis], second.min[axis])
    bounds.max[axis] = Math.max(first.max[axis], second.max[axis])
  }
  return bounds
}

/**
 * Width, height and depth of a box along x, y, z; zeros for an empty one.
 *
 * @example boundsSize({ min: [0, 0, 0], max: [2, 3, 4] }) // [2, 3, 4]
 */
export function boundsSize(bounds: Bounds): vec3 {
  if (isEmptyBounds(bounds)) return [0, 0, 0]
  return [bounds.max[0] - bounds.min[0], bounds.max[1] - bounds.min[1], bounds.max[2] - bounds.min[2]]
}

/**
 * Whether a matrix mirrors: what it holds is drawn with its winding reversed (glTF 2.0 specification, section 3.7.4).
 *
 * @example isMirroring([-1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]) // true
 */
export const isMirroring = (matrix: readonly number[]): boolean => determinantOf(matrix) < 0

/**
 * Positions (scene space) and triangle indices of several parts run together, wound as they are drawn.
 *
 * @example const { positions, indices } = mergedTriangles(listViewParts(document))
 */
export function mergedTriangles(parts: readonly Part[]): {
  positions: Float32Array
  indices: Uint32Array
  partOfTriangle: Uint32Array
} {
  let cornerCount = 0
  let triangleCount = 0
  for (const part of parts) {
    triangleCount += countMeshTriangles(part.mesh)
    for (const primitive of part.mesh.listPrimitives())
      cornerCount += primitive.getAttribute('POSITION')?.getCount() ?? 0
  }
  const positions = new Float32Array(cornerCount * 3)
  const indices = new Uint32Array(triangleCount * 3)
  const partOfTriangle = new Uint32Array(triangleCount)
  let corner = 0
  let index = 0
  parts.forEach((part, partNumber) => {
    const matrix = restMatrix(part.node)
    const mirrored = isMirroring(matrix)
    for (const primitive of part.mesh.listPrimitives()) {
      const position = primitive.getAttribute('POSITION')
      if (!position) continue
      const own = primitiveIndices(primitive)
      for (let at = 0; at < own.length; at += 3) {
        partOfTriangle[index / 3] = partNumber
        indices[index++] = corner + own[at]
        indices[index++] = corner + own[mirrored ? at + 2 : at + 1]
        indices[index++] = corner + own[mirrored ? at + 1 : at + 2]
      }
      transformPoints(accessorToFloats(position), matrix, positions, corner * 3)
      corner += position.getCount()
    }
  })
  return { positions, indices, partOfTriangle }
}

/** Writes `points` under a column-major matrix into `target` from `offset` on. */
export function transformPoints(points: Float32Array, matrix: mat4, target: Float32Array, offset = 0): void {
  for (let at = 0; at + 2 < points.length; at += 3) {
    const x = points[at]
    const y = points[at + 1]
    const z = points[at + 2]
    for (let axis = 0; axis < 3; axis++) {
      target[offset + at + axis] = matrix[axis] * x + matrix[4 + axis] * y + matrix[8 + axis] * z + matrix[12 + axis]
    }
  }
}
