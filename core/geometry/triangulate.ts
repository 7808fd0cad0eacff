import earcut from 'earcut'

/**
 * Triangles of polygons whose corners stand in order.
 * Quads are cut along the diagonal that keeps both halves facing the same way and, of two such, the
 * shorter; larger polygons by ear clipping in their own plane (Newell's normal), so that concave ones come out right.
 * @param positions 3 floats a corner
 * @param starts first corner of each polygon, and one past the last
 */
export function triangulatePolygons(positions: Float32Array, starts: Uint32Array): Uint32Array {
  const triangles: number[] = []
  for (let polygon = 0; polygon + 1 < starts.length; polygon++) {
    const first = starts[polygon]
    const count = starts[polygon + 1] - first
    if (count === 3) triangles.push(first, first + 1, first + 2)
    else if (count === 4) cutQuad(positions, first, triangles)
    else if (count > 4) clipEars(positions, first, count, triangles)
  }
  return Uint32Array.from(triangles)
}

function cutQuad(positions: Float32Array, first: number, triangles: number[]): void {
  const [a, b, c, d] = [first, first + 1, first + 2, first + 3]
  const overAC = facingAgreement(positions, [a, b, c], [a, c, d])
  const overBD = facingAgreement(positions, [a, b, d], [b, c, d])
  const useAC = overAC > 0 === overBD > 0 ? distanceSquared(positions, a, c) <= distanceSquared(positions, b, d) : overAC > 0
  if (useAC) triangles.push(a, b, c, a, c, d)
  else triangles.push(a, b, d, b, c, d)
}

/** Positive when two triangles face the same way. */
function facingAgreement(positions: Float32Array, first: readonly number[], second: readonly number[]): number {
  const n = areaNormal(positions, first)
  const m = areaNormal(positions, second)
  return n[0] * m[0] + n[1] * m[1] + n[2] * m[2]
}

/** Twice the area of a polygon as a vector along its normal (Newell). */
function areaNormal(positions: Float32Array, corners: readonly number[]): [number, number, number] {
  const normal: [number, number, number] = [0, 0, 0]
  for (let index = 0; index < corners.length; index++) {
    const from = corners[index] * 3
    const to = corners[(index + 1) % corners.length] * 3
    normal[0] += (positions[from + 1] - positions[to + 1]) * (positions[from + 2] + positions[to + 2])
    normal[1] += (positions[from + 2] - positions[to + 2]) * (positions[from] + positions[to])
    normal[2] += (positions[from] - positions[to]) * (positions[from + 1] + positions[to + 1])
  }
  return normal
}

const distanceSquared = (positions: Float32Array, a: number, b: number): number =>
  (positions[a * 3] - positions[b * 3]) ** 2 + (positions[a * 3 + 1] - positions[b * 3 + 1]) ** 2 + (positions[a * 3 + 2] - positions[b * 3 + 2]) ** 2

function clipEars(positions: Float32Array, first: number, count: number, triangles: number[]): void {
  const corners = Array.from({ length: count }, (_, index) => first + index)
  const normal = areaNormal(positions, corners)
  const widest = [0, 1, 2].reduce((best, axis) => (Math.abs(normal[axis]) > Math.abs(normal[best]) ? axis : best))
  // Projected along the largest component; swapped when that axis points backward, so winding is kept.
  const [s, t] = normal[widest] >= 0 ? [(widest + 1) % 3, (widest + 2) % 3] : [(widest + 2) % 3, (widest + 1) % 3]
  const flat = corners.flatMap((corner) => [positions[corner * 3 + s], positions[corner * 3 + t]])
  const ears = earcut(flat)
  if (ears.length !== (count - 2) * 3) {
    // Degenerate outlines lose ears; a fan keeps the count that the source promised.
    for (let index = 1; index + 1 < count; index++) triangles.push(first, first + index, first + index + 1)
    return
  }
  const turned = ears.length > 0 && flatArea(flat, ears) < 0
  for (let index = 0; index < ears.length; index += 3) {
    const [a, b, c] = [ears[index], ears[index + 1], ears[index + 2]]
    if (turned) triangles.push(first + a, first + c, first + b)
    else triangles.push(first + a, first + b, first + c)
  }
}

/** Sum of the signed areas of triangles in the plane. */
function flatArea(flat: readonly number[], ears: readonly number[]): number {
  let sum = 0
  for (let index = 0; index < ears.length; index += 3) {
    const [a, b, c] = [ears[index] * 2, ears[index + 1] * 2, ears[index + 2] * 2]
    sum += (flat[b] - flat[a]) * (flat[c + 1] - flat[a + 1]) - (flat[b + 1] - flat[a + 1]) * (flat[c] - flat[a])
  }
  return sum
}
