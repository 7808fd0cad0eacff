import { lengthOf } from '../../maths/vectors.ts'
import earcut from 'earcut'

/** Which of the two ways to cut a quad is the better one. */
export const diagonalChoices = ['shortest', 'flattest', 'even'] as const
export type DiagonalChoice = (typeof diagonalChoices)[number]

/**
 * Triangles of polygons whose corners stand in order. Quads are cut so that both halves face the same way and, of two
 * such cuts, by the choice; larger polygons by ear clipping in their own plane (Newell's normal), so that concave ones
 * and those with a hole (joined to the outline by a cut there and back) come out right, and then their inner diagonals
 * are exchanged by the same choice.
 * @param positions 3 floats a corner
 * @param starts first corner of each polygon, and one past the last
 *
 * @example triangulatePolygons(Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0), Uint32Array.of(0, 3)).length // 3
 */
export function triangulatePolygons(
  positions: Float32Array,
  starts: Uint32Array,
  choice: DiagonalChoice = 'shortest',
): Uint32Array {
  const triangles: number[] = []
  for (let polygon = 0; polygon + 1 < starts.length; polygon++) {
    const first = starts[polygon]
    const count = starts[polygon + 1] - first
    if (count === 3) triangles.push(first, first + 1, first + 2)
    else if (count === 4) cutQuad(positions, first, choice, triangles)
    else if (count > 4) triangles.push(...exchangeDiagonals(positions, clipEars(positions, first, count), choice))
  }
  return Uint32Array.from(triangles)
}

function cutQuad(positions: Float32Array, first: number, choice: DiagonalChoice, triangles: number[]): void {
  const [a, b, c, d] = [first, first + 1, first + 2, first + 3]
  const overAC = facingAgreement(positions, [a, b, c], [a, c, d])
  const overBD = facingAgreement(positions, [a, b, d], [b, c, d])
  const useAC =
    overAC > 0 === overBD > 0
      ? costOf(positions, [a, b, c, d], choice) <= costOf(positions, [b, c, d, a], choice)
      : overAC > 0
  if (useAC) triangles.push(a, b, c, a, c, d)
  else triangles.push(a, b, d, b, c, d)
}

/** What a quad a b c d costs when it is cut from a to c. */
function costOf(positions: Float32Array, [a, b, c, d]: readonly number[], choice: DiagonalChoice): number {
  if (choice === 'shortest') return distanceSquared(positions, a, c)
  if (choice === 'even') return -Math.min(smallestAngle(positions, a, b, c), smallestAngle(positions, a, c, d))
  const n = areaNormal(positions, [a, b, c])
  const m = areaNormal(positions, [a, c, d])
  return -(n[0] * m[0] + n[1] * m[1] + n[2] * m[2]) / (lengthOf(n) * lengthOf(m) || 1)
}

const MOST_EXCHANGES = 8
/** Larger polygons keep the ears as they were clipped: each exchange looks at all of them. */
const MOST_EXCHANGED_CORNERS = 200

/**
 * Exchanges diagonals inside one polygon while that makes the cut better and keeps both halves facing as the polygon
 * does.
 */
function exchangeDiagonals(positions: Float32Array, triangles: number[], choice: DiagonalChoice): number[] {
  if (triangles.length > MOST_EXCHANGED_CORNERS * 3) return triangles
  const facing = [0, 0, 0]
  for (let at = 0; at < triangles.length; at += 3)
    areaNormal(positions, triangles.slice(at, at + 3)).forEach((value, axis) => (facing[axis] += value))
  const outward = (corners: readonly number[]): boolean =>
    areaNormal(positions, corners).reduce((sum, value, axis) => sum + value * facing[axis], 0) > 0
  for (let round = 0; round < MOST_EXCHANGES * triangles.length; round++) {
    if (!exchangeOne(positions, triangles, choice, outward)) break
  }
  return triangles
}

function exchangeOne(
  positions: Float32Array,
  triangles: number[],
  choice: DiagonalChoice,
  outward: (corners: readonly number[]) => boolean,
): boolean {
  const edges = new Map<string, number>()
  for (let at = 0; at < triangles.length; at++)
    edges.set(`${triangles[at]} ${triangles[at % 3 === 2 ? at - 2 : at + 1]}`, at)
  for (let at = 0; at < triangles.length; at++) {
    const [a, c] = [triangles[at], triangles[at % 3 === 2 ? at - 2 : at + 1]]
    const other = edges.get(`${c} ${a}`)
    if (other === undefined || a > c) continue
    const b = triangles[Math.floor(other / 3) * 3 + ((other + 2) % 3)]
    const d = triangles[Math.floor(at / 3) * 3 + ((at + 2) % 3)]
    if (edges.has(`${b} ${d}`) || edges.has(`${d} ${b}`) || !outward([a, b, d]) || !outward([b, c, d])) continue
    if (costOf(positions, [b, c, d, a], choice) >= costOf(positions, [a, b, c, d], choice) - 1e-9) continue
    triangles.splice(Math.floor(at / 3) * 3, 3, a, b, d)
    triangles.splice(Math.floor(other / 3) * 3, 3, b, c, d)
    return true
  }
  return false
}

function smallestAngle(positions: Float32Array, a: number, b: number, c: number): number {
  const sides = [
    distanceSquared(positions, b, c),
    distanceSquared(positions, c, a),
    distanceSquared(positions, a, b),
  ].map(Math.sqrt)
  return Math.min(
    ...[0, 1, 2].map((at) => {
      const [opposite, one, two] = [sides[at], sides[(at + 1) % 3], sides[(at + 2) % 3]]
      return one * two === 0
        ? 0
        : Math.acos(Math.max(-1, Math.min(1, (one * one + two * two - opposite * opposite) / (2 * one * two))))
    }),
  )
}

/** Positive when two triangles face the same way. */
function facingAgreement(positions: Float32Array, first: readonly number[], second: readonly number[]): number {
  const n = areaNormal(positions, first)
  const m = areaNormal(positions, second)
  return n[0] * m[0] + n[1] * m[1] + n[2] * m[2]
}

/**
 * Twice the area of a polygon as a vector along its normal (Newell).
 * @example areaNormal(Float32Array.of(0, 0, 0, 2, 0, 0, 0, 2, 0), [0, 1, 2]) // [0, 0, 4]
 */
export function areaNormal(positions: Float32Array, corners: readonly number[]): [number, number, number] {
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
  (positions[a * 3] - positions[b * 3]) ** 2 +
  (positions[a * 3 + 1] - positions[b * 3 + 1]) ** 2 +
  (positions[a * 3 + 2] - positions[b * 3 + 2]) ** 2

function clipEars(positions: Float32Array, first: number, count: number): number[] {
  const corners = Array.from({ length: count }, (_, index) => first + index)
  const normal = areaNormal(positions, corners)
  const widest = [0, 1, 2].reduce((best, axis) => (Math.abs(normal[axis]) > Math.abs(normal[best]) ? axis : best))
  // Projected along the largest component; swapped when that axis points backward, so winding is kept.
  const [s, t] = normal[widest] >= 0 ? [(widest + 1) % 3, (widest + 2) % 3] : [(widest + 2) % 3, (widest + 1) % 3]
  const flat = corners.flatMap((corner) => [positions[corner * 3 + s], positions[corner * 3 + t]])
  const ears = earcut(flat)
  if (ears.length !== (count - 2) * 3) {
    // Degenerate outlines lose ears; a fan keeps the count that the source promised.
    return Array.from({ length: count - 2 }, (_, index) => [first, first + index + 1, first + index + 2]).flat()
  }
  const turned = ears.length > 0 && flatArea(flat, ears) < 0
  return ears.map((_, index) => first + ears[turned && index % 3 !== 0 ? index + (index % 3 === 1 ? 1 : -1) : index])
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
