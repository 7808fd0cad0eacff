import type { Document, Primitive } from '@gltf-transform/core'
import { determinantOf, transformedNormals, transformedPoints } from '../maths/matrices.ts'
import {
  accessorToFloats,
  primitiveIndices,
  reversedWinding,
  writeAttribute,
  writeIndices,
} from './primitive-arrays.ts'

/**
 * Puts a matrix (column-major 4 × 4) into a primitive's corners: places, normals, tangents and morph targets. No corner
 * changes its number; where the matrix mirrors, each triangle is turned over. Accessors are replaced, never written
 * into.
 *
 * @example transformPrimitive(document, surface, node.getMatrix())
 */
export function transformPrimitive(document: Document, primitive: Primitive, matrix: readonly number[]): void {
  const position = primitive.getAttribute('POSITION')
  const normal = primitive.getAttribute('NORMAL')
  const tangent = primitive.getAttribute('TANGENT')
  const mirrors = determinantOf(matrix) < 0
  if (position)
    writeAttribute(document, primitive, 'POSITION', transformedPoints(accessorToFloats(position), matrix), 3)
  if (normal) writeAttribute(document, primitive, 'NORMAL', transformedNormals(accessorToFloats(normal), matrix), 3)
  if (tangent)
    writeAttribute(document, primitive, 'TANGENT', transformedTangents(accessorToFloats(tangent), matrix, mirrors), 4)
  // What a target adds is a difference of places: a shift leaves it alone.
  const differences = [...matrix.slice(0, 12), 0, 0, 0, 1]
  for (const target of primitive.listTargets()) {
    for (const semantic of ['POSITION', 'NORMAL', 'TANGENT']) {
      const accessor = target.getAttribute(semantic)
      if (accessor)
        target.setAttribute(
          semantic,
          accessor
            .clone()
            .setNormalized(false)
            .setArray(transformedPoints(accessorToFloats(accessor), differences) as Float32Array<ArrayBuffer>),
        )
    }
  }
  if (mirrors)
    writeIndices(document, primitive, reversedWinding(primitiveIndices(primitive)), position?.getCount() ?? 0)
}

/**
 * Directions along a surface turn with the matrix itself; which way the picture's other axis goes turns over where it
 * mirrors.
 */
function transformedTangents(tangents: Float32Array, m: readonly number[], mirrors: boolean): Float32Array {
  const moved = new Float32Array(tangents.length)
  for (let at = 0; at + 3 < tangents.length; at += 4) {
    const turned = [0, 1, 2].map(
      (axis) => m[axis] * tangents[at] + m[4 + axis] * tangents[at + 1] + m[8 + axis] * tangents[at + 2],
    )
    const length = Math.hypot(turned[0], turned[1], turned[2]) || 1
    for (let axis = 0; axis < 3; axis++) moved[at + axis] = turned[axis] / length
    moved[at + 3] = mirrors ? -tangents[at + 3] : tangents[at + 3]
  }
  return moved
}
