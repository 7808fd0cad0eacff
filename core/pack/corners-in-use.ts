import type { Document, Primitive } from '@gltf-transform/core'
import { gatherCorners, primitiveIndices, writeIndices } from '../item/primitive-arrays.ts'

/**
 * Keeps each corner of an item's surfaces once, in the order in which triangles use them: as whoever reads a list of
 * triangles numbers them, so that a file that was read and is written again is the same. Changes the document, which is
 * the caller's own.
 * @param written which attributes the file has, by their semantic in glTF; corners that differ in others are the same
 */
export function orderCorners(document: Document, written: RegExp): void {
  for (const mesh of document.getRoot().listMeshes())
    for (const primitive of mesh.listPrimitives()) orderCornersOf(document, primitive, written)
}

function orderCornersOf(document: Document, primitive: Primitive, written: RegExp): void {
  const accessors = primitive
    .listSemantics()
    .filter((semantic) => written.test(semantic))
    .flatMap((semantic) => primitive.getAttribute(semantic) ?? [])
  const known = new Map<string, number>()
  const oldCorners: number[] = []
  const element: number[] = []
  const indices = primitiveIndices(primitive).map((index) => {
    const key = accessors.map((accessor) => accessor.getElement(index, element).join()).join(';')
    const number = known.get(key) ?? known.size
    if (number === known.size) {
      known.set(key, number)
      oldCorners.push(index)
    }
    return number
  })
  gatherCorners(document, primitive, Uint32Array.from(oldCorners))
  writeIndices(document, primitive, indices, oldCorners.length)
}
