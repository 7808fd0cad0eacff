import type { Document } from '@gltf-transform/core'
import { identityMatrix, multiplyMatrices } from '../maths/axes.ts'
import { getRootExtras } from '../item/extras.ts'
import { invertMatrix, transformedPoints } from '../maths/matrices.ts'
import { mergedTriangles } from '../item/measure.ts'
import { listViewParts, restMatrix } from '../item/parts.ts'
import { readPrimitive } from '../item/primitive-arrays.ts'
import { outlineChange } from '../geometry/surface/outline-change.ts'
import { cornerDistances, createSurfaceFinder, surfaceDifference } from '../geometry/surface/surface-distance.ts'

/** How far two states of an item lie apart, in the units of the second. */
export interface Difference {
  worst: number
  mean: number
  worstAt: [number, number, number]
  /** Share of the outline that changed, from eight directions. */
  outlines: number[]
  /** At each corner of each surface of each part. */
  parts: { name: string; distances: Float32Array[] }[]
}

/**
 * How one state of an item is moved so that it stands where another does.
 * @example const matrix = placementOf(start, reduced)
 */
export function placementOf(state: Document, target: Document): number[] {
  const fit = (document: Document): number[] => getRootExtras(document.getRoot()).fit ?? identityMatrix()
  return multiplyMatrices(fit(target), invertMatrix(fit(state)) ?? identityMatrix())
}

/**
 * How far the shape of one state lies from another's, at each corner and over all, in the units of the second.
 * @example const { worst } = differenceOf(start, reduced)
 */
export function differenceOf(before: Document, after: Document): Difference {
  const placed = (document: Document, matrix: number[]) => {
    const { positions, indices } = mergedTriangles(listViewParts(document))
    return { positions: transformedPoints(positions, matrix), indices }
  }
  const source = placed(before, placementOf(before, after))
  const result = placed(after, identityMatrix())
  const finder = createSurfaceFinder(source)
  const { worst, mean, worstAt } = surfaceDifference(source, result)
  const outlines = source.indices.length > 0 ? outlineChange(source, result) : []
  return {
    worst,
    mean,
    worstAt,
    outlines,
    parts: listViewParts(after).map((part) => ({
      name: part.name,
      distances: part.mesh
        .listPrimitives()
        .map((primitive) =>
          cornerDistances(transformedPoints(readPrimitive(primitive).positions, [...restMatrix(part.node)]), finder),
        ),
    })),
  }
}
