/**
 * Cuts triangles into groups with at most so many corners each, as few and as compact as halving by place makes them:
 * groups that are too large are cut across their longest side (a kd-tree; Bentley 1975), in shares that fill the pieces
 * evenly.
 * @param positions 3 floats a corner
 * @param indices 3 a triangle
 * @param mostCorners at least 3
 * @returns the triangles of each group, by their numbers; one group where the limit holds already
 *
 * @example const sections = cutByCorners(positions, indices, 1000)
 */
export function cutByCorners(positions: Float32Array, indices: Uint32Array, mostCorners: number): Uint32Array[] {
  if (mostCorners < 3) throw new RangeError('a triangle has three corners')
  const all = Uint32Array.from({ length: indices.length / 3 }, (_, triangle) => triangle)
  const seen = new Uint32Array(positions.length / 3)
  let round = 0
  const cornersOf = (triangles: Uint32Array): number => {
    round++
    let count = 0
    for (const triangle of triangles)
      for (let corner = triangle * 3; corner < triangle * 3 + 3; corner++) {
        if (seen[indices[corner]] === round) continue
        seen[indices[corner]] = round
        count++
      }
    return count
  }
  const made: Uint32Array[] = []
  const waiting: Uint32Array[] = [all]
  while (waiting.length > 0) {
    const triangles = waiting.pop() as Uint32Array
    const corners = cornersOf(triangles)
    if (corners <= mostCorners) {
      if (triangles.length > 0) made.push(triangles)
      continue
    }
    const pieces = Math.max(2, Math.ceil((corners / mostCorners) * ROOM_FOR_EDGES))
    const share = Math.max(1, Math.round((triangles.length * Math.floor(pieces / 2)) / pieces))
    const sorted = alongLongestSide(positions, indices, triangles)
    // The first half is cut further first, so that groups come in order of place.
    waiting.push(sorted.subarray(share), sorted.subarray(0, share))
  }
  return made
}

/** Corners along a cut stand in both pieces. */
const ROOM_FOR_EDGES = 1.08

function alongLongestSide(positions: Float32Array, indices: Uint32Array, triangles: Uint32Array): Uint32Array {
  const least = [Infinity, Infinity, Infinity]
  const most = [-Infinity, -Infinity, -Infinity]
  const middle = (triangle: number, axis: number): number =>
    positions[indices[triangle * 3] * 3 + axis] +
    positions[indices[triangle * 3 + 1] * 3 + axis] +
    positions[indices[triangle * 3 + 2] * 3 + axis]
  for (const triangle of triangles)
    for (let axis = 0; axis < 3; axis++) {
      least[axis] = Math.min(least[axis], middle(triangle, axis))
      most[axis] = Math.max(most[axis], middle(triangle, axis))
    }
  const sides = most.map((value, axis) => value - least[axis])
  const axis = sides.indexOf(Math.max(...sides))
  return triangles.slice().sort((a, b) => middle(a, axis) - middle(b, axis) || a - b)
}
