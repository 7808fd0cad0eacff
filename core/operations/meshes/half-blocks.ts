import type { Document } from '@gltf-transform/core'
import {
  cutIntoHalfBlocks,
  decimalsFor,
  halfBlockError,
  onGrid,
  writtenHalfBlocks,
} from '../../geometry/mesh/half-blocks.ts'
import { rememberByValue } from '../../support/remember.ts'
import { gatherTriangles } from './trays.ts'

/** Asked by check, by its gauge and by packing. */
const cut = rememberByValue(cutIntoHalfBlocks, 64)

/** What an item is built of, before it is built. */
export interface HalfBlockCount {
  /** Two for each triangle with an area. */
  blocks: number
  /** Triangles whose half-blocks would have a side that is too short, the shortest first. */
  tiny: { triangle: number; side: number; part: string }[]
  /** Middles of those, in the scene, in the same order. */
  spots: [number, number, number][]
}

/** As many places are marked. */
const MOST_SPOTS = 200

/**
 * Counts the half-blocks of an item, and those that are too small.
 * @param shortestEdge in the game's unit
 *
 * @example const { blocks } = countHalfBlocks(document, 0.4)
 */
export function countHalfBlocks(document: Document, shortestEdge: number): HalfBlockCount {
  const { positions, indices, surfaceOfTriangle, surfaces } = gatherTriangles(document)
  const { shortestSide } = cut(positions, indices)
  const tiny: HalfBlockCount['tiny'] = []
  let flat = 0
  shortestSide.forEach((side, triangle) => {
    if (side === 0) flat++
    if (side < shortestEdge) tiny.push({ triangle, side, part: surfaces[surfaceOfTriangle[triangle]].part })
  })
  tiny.sort((a, b) => a.side - b.side || a.triangle - b.triangle)
  const middle = (triangle: number): [number, number, number] =>
    [0, 1, 2].map(
      (axis) =>
        (positions[indices[triangle * 3] * 3 + axis] +
          positions[indices[triangle * 3 + 1] * 3 + axis] +
          positions[indices[triangle * 3 + 2] * 3 + axis]) /
        3,
    ) as [number, number, number]
  return {
    blocks: (shortestSide.length - flat) * 2,
    tiny,
    spots: tiny.slice(0, MOST_SPOTS).map(({ triangle }) => middle(triangle)),
  }
}

/**
 * How far the half-blocks of an item, in as many digits as are written, lie from its triangles when they are put
 * together again, as a share of the item's longest side.
 *
 * @example if (halfBlockErrorShare(document) > limit) refuse()
 */
export function halfBlockErrorShare(document: Document): number {
  const { positions, indices } = gatherTriangles(document)
  const size = longestSide(positions)
  if (size === 0) return 0
  const decimals = decimalsFor(size)
  const step = 10 ** (1 - decimals)
  const placed = onGrid(positions, decimals)
  const blocks = writtenHalfBlocks(placed, indices, decimals)
  return (halfBlockError(placed, indices, blocks) + (step * Math.sqrt(3)) / 2) / size
}

/**
 * The longest side of the box around some places.
 * @example longestSide([0, 0, 0, 1, 3, 2]) // 3
 */
export function longestSide(positions: ArrayLike<number>): number {
  const least = [Infinity, Infinity, Infinity]
  const most = [-Infinity, -Infinity, -Infinity]
  for (let at = 0; at < positions.length; at++) {
    least[at % 3] = Math.min(least[at % 3], positions[at])
    most[at % 3] = Math.max(most[at % 3], positions[at])
  }
  return Math.max(0, ...most.map((value, axis) => value - least[axis]))
}
