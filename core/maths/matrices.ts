import { identityMatrix, multiplyMatrices } from './axes.ts'
import { unitTurn } from './turns.ts'
import { isNearlyOne } from './vectors.ts'

/** Column-major 4 × 4 matrices as plain arrays, for readers and comparisons. Points are columns. */
export type Matrix = number[]

/**
 * A column-major 4 × 4 matrix that moves.
 *
 * @example translationMatrix(1, 2, 3).slice(12) // [1, 2, 3, 1]
 */
export const translationMatrix = (x: number, y: number, z: number): Matrix => [
  1,
  0,
  0,
  0,
  0,
  1,
  0,
  0,
  0,
  0,
  1,
  0,
  x,
  y,
  z,
  1,
]

/**
 * A column-major 4 × 4 matrix that scales along each axis.
 * @example determinantOf(scalingMatrix(2, 3, 4)) // 24
 */
export const scalingMatrix = (x: number, y: number, z: number): Matrix => [
  x,
  0,
  0,
  0,
  0,
  y,
  0,
  0,
  0,
  0,
  z,
  0,
  0,
  0,
  0,
  1,
]

/** Shorter ones have lost so many digits that they cannot be made one long. */
const SHORTEST_AXIS = 1e-300

/**
 * Turn about an axis (Rodrigues' formula); an axis without length turns nothing.
 * @example const quarter = rotationMatrix(0, 1, 0, Math.PI / 2)
 */
export function rotationMatrix(x: number, y: number, z: number, angleRadians: number): Matrix {
  const length = Math.hypot(x, y, z)
  if (length < SHORTEST_AXIS) return identityMatrix()
  const [u, v, w] = [x / length, y / length, z / length]
  const [c, s] = [Math.cos(angleRadians), Math.sin(angleRadians)]
  const k = 1 - c
  return [
    c + u * u * k,
    v * u * k + w * s,
    w * u * k - v * s,
    0,
    u * v * k - w * s,
    c + v * v * k,
    w * v * k + u * s,
    0,
    u * w * k + v * s,
    v * w * k - u * s,
    c + w * w * k,
    0,
    0,
    0,
    0,
    1,
  ]
}

/**
 * Product from left to right: the last one acts first.
 *
 * @example chainMatrices(translationMatrix(0, 1, 0), scalingMatrix(2, 2, 2)) // scales, then moves
 */
export const chainMatrices = (...matrices: readonly Matrix[]): Matrix =>
  matrices.reduce((product, matrix) => multiplyMatrices(product, matrix), identityMatrix())

/**
 * Inverse of an affine matrix, or null when it flattens space.
 *
 * @example const back = invertMatrix(node.getWorldMatrix()) ?? identityMatrix()
 */
export function invertMatrix(m: readonly number[]): Matrix | null {
  const cofactor = (row: number, column: number): number => {
    const [r1, r2] = [(row + 1) % 3, (row + 2) % 3]
    const [c1, c2] = [(column + 1) % 3, (column + 2) % 3]
    return m[c1 * 4 + r1] * m[c2 * 4 + r2] - m[c2 * 4 + r1] * m[c1 * 4 + r2]
  }
  const determinant = m[0] * cofactor(0, 0) + m[4] * cofactor(0, 1) + m[8] * cofactor(0, 2)
  if (!Number.isFinite(determinant) || Math.abs(determinant) < 1e-30) return null
  const inverse = identityMatrix()
  for (let row = 0; row < 3; row++) {
    for (let column = 0; column < 3; column++) inverse[column * 4 + row] = cofactor(column, row) / determinant
  }
  for (let row = 0; row < 3; row++)
    inverse[12 + row] = -(inverse[row] * m[12] + inverse[4 + row] * m[13] + inverse[8 + row] * m[14])
  return inverse
}

/**
 * Determinant of the turning and scaling part: negative where space is mirrored.
 *
 * @example determinantOf(scalingMatrix(2, 2, -2)) // -8
 */
export function determinantOf(m: readonly number[]): number {
  return m[0] * (m[5] * m[10] - m[9] * m[6]) - m[4] * (m[1] * m[10] - m[9] * m[2]) + m[8] * (m[1] * m[6] - m[5] * m[2])
}

/**
 * Shift, turn (x, y, z, w) and scale of a matrix without slant; a mirrored one has a negative x scale.
 *
 * @example const { translation, rotation, scale } = decomposeMatrix(matrix)
 */
export function decomposeMatrix(m: readonly number[]): { translation: number[]; rotation: number[]; scale: number[] } {
  const scale = [Math.hypot(m[0], m[1], m[2]), Math.hypot(m[4], m[5], m[6]), Math.hypot(m[8], m[9], m[10])]
  if (determinantOf(m) < 0) scale[0] = -scale[0]
  const r = (row: number, column: number): number => m[column * 4 + row] / (scale[column] || 1)
  // Rounded matrices turn a little askew: what is taken apart and put together again and again must not drift.
  return { translation: [m[12], m[13], m[14]], rotation: unitTurn(quaternionOf(r)), scale }
}

/**
 * The matrix of a shift, a turn (unit quaternion x, y, z, w) and a scale, done in the other order.
 *
 * @example composeMatrix([0, 1, 0], [0, 0, 0, 1], [2, 2, 2])
 */
export const composeMatrix = (
  [tx, ty, tz]: readonly number[],
  [x, y, z, w]: readonly number[],
  [sx, sy, sz]: readonly number[],
): Matrix => [
  (1 - 2 * (y * y + z * z)) * sx,
  2 * (x * y + z * w) * sx,
  2 * (x * z - y * w) * sx,
  0,
  2 * (x * y - z * w) * sy,
  (1 - 2 * (x * x + z * z)) * sy,
  2 * (y * z + x * w) * sy,
  0,
  2 * (x * z + y * w) * sz,
  2 * (y * z - x * w) * sz,
  (1 - 2 * (x * x + y * y)) * sz,
  0,
  tx,
  ty,
  tz,
  1,
]

/** Quaternion of a rotation given by its elements (Shepperd 1978: the largest component first). */
function quaternionOf(r: (row: number, column: number) => number): number[] {
  const trace = r(0, 0) + r(1, 1) + r(2, 2)
  if (trace > 0) {
    const s = Math.sqrt(trace + 1) * 2
    return [(r(2, 1) - r(1, 2)) / s, (r(0, 2) - r(2, 0)) / s, (r(1, 0) - r(0, 1)) / s, s / 4]
  }
  const i = r(0, 0) >= r(1, 1) && r(0, 0) >= r(2, 2) ? 0 : r(1, 1) >= r(2, 2) ? 1 : 2
  const [j, k] = [(i + 1) % 3, (i + 2) % 3]
  const s = Math.sqrt(Math.max(1e-12, 1 + r(i, i) - r(j, j) - r(k, k))) * 2
  const quaternion = [0, 0, 0, (r(k, j) - r(j, k)) / s]
  quaternion[i] = s / 4
  quaternion[j] = (r(j, i) + r(i, j)) / s
  quaternion[k] = (r(k, i) + r(i, k)) / s
  return quaternion
}

/**
 * Each quaternion (4 numbers) on the near side of the one before, so that motion takes the short way.
 * @example [...keepNear(Float32Array.of(0, 0, 0, 1, 0, 0, 0, -1))] // [0, 0, 0, 1, 0, 0, 0, 1]
 */
export function keepNear(quaternions: Float32Array): Float32Array {
  for (let at = 4; at + 3 < quaternions.length; at += 4) {
    let dot = 0
    for (let axis = 0; axis < 4; axis++) dot += quaternions[at + axis] * quaternions[at - 4 + axis]
    if (dot < 0) for (let axis = 0; axis < 4; axis++) quaternions[at + axis] = -quaternions[at + axis]
  }
  return quaternions
}

/**
 * Points (3 numbers each) under a matrix, as a new array.
 *
 * @example const inScene = transformedPoints(positions, restMatrix(part.node))
 */
export function transformedPoints(points: Float32Array, m: readonly number[]): Float32Array {
  const moved = new Float32Array(points.length)
  for (let at = 0; at + 2 < points.length; at += 3) {
    for (let axis = 0; axis < 3; axis++)
      moved[at + axis] =
        m[axis] * points[at] + m[4 + axis] * points[at + 1] + m[8 + axis] * points[at + 2] + m[12 + axis]
  }
  return moved
}

/**
 * Unit directions across a surface (3 numbers each) under a matrix, as a new array: they turn with the inverse
 * transposed, whatever the matrix mirrors, so that they go on pointing away from the side they pointed away from.
 *
 * @example const moved = transformedNormals(normals, node.getWorldMatrix())
 */
export function transformedNormals(normals: Float32Array, m: readonly number[]): Float32Array {
  const side = determinantOf(m) < 0 ? -1 : 1
  const cofactor = (row: number, column: number): number => {
    const [r1, r2] = [(row + 1) % 3, (row + 2) % 3]
    const [c1, c2] = [(column + 1) % 3, (column + 2) % 3]
    return (m[c1 * 4 + r1] * m[c2 * 4 + r2] - m[c2 * 4 + r1] * m[c1 * 4 + r2]) * side
  }
  const rows = [0, 1, 2].map((row) => [cofactor(row, 0), cofactor(row, 1), cofactor(row, 2)])
  const moved = new Float32Array(normals.length)
  for (let at = 0; at + 2 < normals.length; at += 3) {
    const turned = rows.map((row) => row[0] * normals[at] + row[1] * normals[at + 1] + row[2] * normals[at + 2])
    const length = Math.hypot(turned[0], turned[1], turned[2]) || 1
    const before = Math.hypot(normals[at], normals[at + 1], normals[at + 2])
    const kept = isNearlyOne(before) ? before : 1
    for (let axis = 0; axis < 3; axis++) moved[at + axis] = (turned[axis] / length) * kept
  }
  return moved
}
