import { groupPositions } from './position-groups.ts'

/** A mesh with new corners in the middle of some edges. */
export interface SplitEdges {
  indices: Uint32Array
  /** The triangle that each new one is a piece of. */
  fromTriangle: Uint32Array
  /** The two corners that each added corner lies between; it comes after the corners that were there. */
  between: [number, number][]
}

/**
 * Splits edges in the middle, and every triangle at such an edge in two, three or four, so that no gap opens: an edge
 * is split on both sides or on neither, across seams as well. The surface stays where it is.
 * @param marked whether an edge between two places is split; asked with numbers of corners
 *
 * @example const { indices, between } = splitEdges(positions, triangles, (a, b) => lengthBetween(a, b) > 2)
 */
export function splitEdges(
  positions: Float32Array,
  indices: Uint32Array,
  marked: (a: number, b: number) => boolean,
): SplitEdges {
  const { groupOfCorner, cornerOfGroup } = groupPositions(positions)
  const groups = cornerOfGroup.length
  const key = (a: number, b: number): number => Math.min(a, b) * groups + Math.max(a, b)
  const split = new Set<number>()
  for (let at = 0; at < indices.length; at++) {
    const [a, b] = [indices[at], indices[at % 3 === 2 ? at - 2 : at + 1]]
    if (groupOfCorner[a] !== groupOfCorner[b] && marked(a, b)) split.add(key(groupOfCorner[a], groupOfCorner[b]))
  }
  const between: [number, number][] = []
  const middles = new Map<number, number>()
  const corners = positions.length / 3
  const middleOf = (a: number, b: number): number | null => {
    if (!split.has(key(groupOfCorner[a], groupOfCorner[b]))) return null
    const own = Math.min(a, b) * corners + Math.max(a, b)
    const known = middles.get(own)
    if (known !== undefined) return known
    between.push([Math.min(a, b), Math.max(a, b)])
    middles.set(own, corners + between.length - 1)
    return corners + between.length - 1
  }
  const placeOf = (corner: number, axis: number): number => {
    if (corner < corners) return positions[corner * 3 + axis]
    const [a, b] = between[corner - corners]
    return (positions[a * 3 + axis] + positions[b * 3 + axis]) / 2
  }
  const lengthSquared = (a: number, b: number): number =>
    [0, 1, 2].reduce((sum, axis) => sum + (placeOf(a, axis) - placeOf(b, axis)) ** 2, 0)
  const made: number[] = []
  const fromTriangle: number[] = []
  for (let at = 0; at < indices.length; at += 3) {
    const [a, b, c] = indices.subarray(at, at + 3)
    const pieces = piecesOf([a, b, c], [middleOf(a, b), middleOf(b, c), middleOf(c, a)], lengthSquared)
    for (const piece of pieces) {
      made.push(...piece)
      fromTriangle.push(at / 3)
    }
  }
  return { indices: Uint32Array.from(made), fromTriangle: Uint32Array.from(fromTriangle), between }
}

type Triple = [number, number, number]

/**
 * A triangle cut at the middles of its edges ab, bc and ca, wound as it was; what is left of it beside a cut corner is
 * cut along its shorter diagonal.
 */
function piecesOf(
  [a, b, c]: Triple,
  [ab, bc, ca]: (number | null)[],
  lengthSquared: (a: number, b: number) => number,
): Triple[] {
  if (ab !== null && bc !== null && ca !== null)
    return [
      [a, ab, ca],
      [ab, b, bc],
      [ca, bc, c],
      [ab, bc, ca],
    ]
  if (ab === null && bc === null && ca === null) return [[a, b, c]]
  // Turned so that the first edge is split, and of two the other one comes next.
  if (ab === null || (bc === null && ca !== null)) return piecesOf([b, c, a], [bc, ca, ab], lengthSquared)
  if (bc === null)
    return [
      [a, ab, c],
      [ab, b, c],
    ]
  return lengthSquared(ab, c) <= lengthSquared(a, bc)
    ? [
        [ab, b, bc],
        [a, ab, c],
        [ab, bc, c],
      ]
    : [
        [ab, b, bc],
        [a, ab, bc],
        [a, bc, c],
      ]
}
