import type { Document } from '@gltf-transform/core'
import { mergedTriangles } from '../document/measure.ts'
import { countPrimitiveTriangles, listViewParts, type Part } from '../document/parts.ts'
import { measureFacing } from '../geometry/facing.ts'
import { isTwoSidedName } from '../rulebook/names.ts'

export interface PartFacing {
  /** Share of what is seen from outside that is the back of a face. */
  share: number
  /** Parts with backs to be seen, the worst first, with their share of the whole. */
  parts: { name: string; share: number }[]
}

/** Looks at the item from outside and finds the parts whose backs show. */
export function measurePartFacing(document: Document): PartFacing {
  const parts = listViewParts(document)
  const { positions, indices, partOfTriangle } = mergedTriangles(parts)
  const measure = measureFacing(positions, indices, partOfTriangle, twoSidedTriangles(parts, partOfTriangle.length))
  const worst = [...measure.inwardByPart]
    .map(([number, rays]) => ({ name: parts[number].name, share: rays / measure.rays }))
    .sort((a, b) => b.share - a.share)
  return { share: measure.inwardShare, parts: worst }
}

function twoSidedTriangles(parts: readonly Part[], triangleCount: number): Uint8Array {
  const twoSided = new Uint8Array(triangleCount)
  let at = 0
  for (const part of parts) {
    for (const primitive of part.mesh.listPrimitives()) {
      const count = countPrimitiveTriangles(primitive)
      const material = primitive.getMaterial()
      if (material && isTwoSidedName(material.getName())) twoSided.fill(1, at, at + count)
      at += count
    }
  }
  return twoSided
}
