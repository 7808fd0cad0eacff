import type { Document, Primitive } from '@gltf-transform/core'
import { compactCorners } from '../../geometry/mesh/reduce.ts'
import { cutByCorners } from '../../geometry/mesh/cut-by-corners.ts'
import { gatherCorners, readPrimitive, writeIndices } from '../../item/primitive-arrays.ts'
import { rememberByValue } from '../../support/remember.ts'

/** Asked by check and again by packing. */
const cut = rememberByValue(cutByCorners, 64)

/**
 * The sections that a surface is written in where a game reads so many corners of one: the triangles of each.
 *
 * @example const count = sectionsOf(primitive, 1000).length
 */
export function sectionsOf(primitive: Primitive, mostCorners: number): Uint32Array[] {
  const { positions, indices } = readPrimitive(primitive)
  // Most surfaces are one section, and need not be told apart by all their numbers.
  if (positions.length / 3 <= mostCorners) return cutByCorners(positions, indices, mostCorners)
  return cut(positions, indices, mostCorners)
}

/**
 * Cuts each surface of a document into sections, each with corners of its own.
 * @example cutIntoSections(document, 65535)
 */
export function cutIntoSections(document: Document, mostCorners: number): void {
  for (const mesh of document.getRoot().listMeshes()) {
    const surfaces = mesh.listPrimitives()
    const sections = surfaces.map((primitive) => sectionsOf(primitive, mostCorners))
    if (sections.every(({ length }) => length < 2)) continue
    surfaces.forEach((primitive, number) => {
      mesh.removePrimitive(primitive)
      for (const triangles of sections[number]) mesh.addPrimitive(withTriangles(document, primitive.clone(), triangles))
      primitive.dispose()
    })
  }
}

/**
 * A surface with some of its triangles alone, and the corners that they use.
 * @example mesh.addPrimitive(withTriangles(document, surface, [0, 1, 5]))
 */
export function withTriangles(document: Document, primitive: Primitive, triangles: ArrayLike<number>): Primitive {
  const { positions, indices } = readPrimitive(primitive)
  const own = new Uint32Array(triangles.length * 3)
  for (let at = 0; at < triangles.length; at++)
    own.set(indices.subarray(triangles[at] * 3, triangles[at] * 3 + 3), at * 3)
  const compact = compactCorners(own, positions.length / 3)
  gatherCorners(document, primitive, compact.oldCorner)
  writeIndices(document, primitive, compact.indices, compact.oldCorner.length)
  return primitive
}
