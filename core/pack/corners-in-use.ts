import type { Document } from '@gltf-transform/core'
import { weld } from '@gltf-transform/functions'
import { compactCorners } from '../geometry/mesh/reduce.ts'
import { gatherCorners, primitiveIndices, writeIndices } from '../item/primitive-arrays.ts'

/**
 * Keeps each corner of an item's surfaces once, in the order in which triangles use them: as whoever reads a list of
 * triangles numbers them, so that a file that was read and is written again is the same. Changes the document, which is
 * the caller's own.
 * @param written which attributes the file has, by their semantic in glTF; all others are dropped
 *
 * @example await orderCorners(document, /^(POSITION|NORMAL|TEXCOORD_0)$/)
 */
export async function orderCorners(document: Document, written: RegExp): Promise<void> {
  const primitives = document
    .getRoot()
    .listMeshes()
    .flatMap((mesh) => mesh.listPrimitives())
  for (const primitive of primitives) {
    for (const semantic of primitive.listSemantics())
      if (!written.test(semantic)) primitive.setAttribute(semantic, null)
    for (const target of primitive.listTargets()) primitive.removeTarget(target)
  }
  await document.transform(weld())
  for (const primitive of primitives) {
    const corners = primitive.getAttribute('POSITION')?.getCount() ?? 0
    const { oldCorner, indices } = compactCorners(primitiveIndices(primitive), corners)
    gatherCorners(document, primitive, oldCorner)
    writeIndices(document, primitive, indices, oldCorner.length)
  }
}
