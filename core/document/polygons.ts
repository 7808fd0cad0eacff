import type { Document } from '@gltf-transform/core'
import { listAllParts } from './parts.ts'

/**
 * Corner attribute with the number of the polygon a corner belongs to, on primitives whose source
 * had quads or n-gons. Their corners are unshared and stand in polygon order; the triangle index is a
 * plain fan until Triangulate makes a better one.
 */
export const POLYGON_ATTRIBUTE = '_POLYGON'

/** First corner of each polygon, and one past the last; needs the polygon attribute. */
export function polygonStarts(polygonOfCorner: ArrayLike<number>): Uint32Array {
  const starts: number[] = []
  for (let corner = 0; corner < polygonOfCorner.length; corner++) {
    if (corner === 0 || polygonOfCorner[corner] !== polygonOfCorner[corner - 1]) starts.push(corner)
  }
  starts.push(polygonOfCorner.length)
  return Uint32Array.from(starts)
}

/** How many polygons of more than three corners are left in the item. */
export function countLargePolygons(document: Document): number {
  let count = 0
  for (const part of listAllParts(document)) {
    for (const primitive of part.mesh.listPrimitives()) {
      const polygons = primitive.getAttribute(POLYGON_ATTRIBUTE)?.getArray()
      if (!polygons) continue
      const starts = polygonStarts(polygons)
      for (let polygon = 0; polygon + 1 < starts.length; polygon++) if (starts[polygon + 1] - starts[polygon] > 3) count++
    }
  }
  return count
}
