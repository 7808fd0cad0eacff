/**
 * Matrices of the loader's own: 16 numbers, column by column.
 * @example compose([1, 2, 3], [0, 0, 0, 1], [1, 1, 1]).slice(12) // [1, 2, 3, 1]
 */
export function compose(t: readonly number[], q: readonly number[], s: readonly number[]): number[] {
  const [x, y, z, w] = q
  return [
    (1 - 2 * (y * y + z * z)) * s[0],
    2 * (x * y + z * w) * s[0],
    2 * (x * z - y * w) * s[0],
    0,
    2 * (x * y - z * w) * s[1],
    (1 - 2 * (x * x + z * z)) * s[1],
    2 * (y * z + x * w) * s[1],
    0,
    2 * (x * z + y * w) * s[2],
    2 * (y * z - x * w) * s[2],
    (1 - 2 * (x * x + y * y)) * s[2],
    0,
    t[0],
    t[1],
    t[2],
    1,
  ]
}

/**
 * The product of two column-major 4 × 4 matrices: the right one is applied first.
 *
 * @example const world = multiply(parent, own)
 */
export function multiply(a: readonly number[], b: readonly number[]): number[] {
  return Array.from({ length: 16 }, (_, at) => {
    const row = at % 4
    const column = at - row
    return a[row] * b[column] + a[row + 4] * b[column + 1] + a[row + 8] * b[column + 2] + a[row + 12] * b[column + 3]
  })
}

const SMALL = 1e-6

/**
 * Whether a matrix does more than move.
 * @example turnsOrScales(compose([1, 2, 3], [0, 0, 0, 1], [1, 1, 1])) // false
 */
export const turnsOrScales = (m: readonly number[]): boolean =>
  [0, 1, 2, 4, 5, 6, 8, 9, 10].some(
    (at) => Math.abs(m[at] - (at % 5 === 0 ? 1 : 0)) > (at % 5 === 0 ? SMALL : 2 * SMALL),
  )

/**
 * Whether a matrix mirrors, so that what it holds is wound the other way (glTF 2.0, section 3.7.4).
 * @example mirrors(compose([0, 0, 0], [0, 0, 0, 1], [-1, 1, 1])) // true
 */
export const mirrors = ([a, b, c, , d, e, f, , g, h, i]: readonly number[]): boolean =>
  a * (e * i - f * h) - d * (b * i - c * h) + g * (b * f - c * e) < 0

/**
 * The matrix that undoes another (cofactors over the determinant); the last row is taken to be 0 0 0 1.
 * @example inverse(compose([1, 2, 3], [0, 0, 0, 1], [1, 1, 1])).slice(12) // [-1, -2, -3, 1]
 */
export function inverse(m: readonly number[]): number[] {
  const [a, b, c, d, e, f, g, h, i] = [m[0], m[1], m[2], m[4], m[5], m[6], m[8], m[9], m[10]]
  const determinant = a * (e * i - f * h) - d * (b * i - c * h) + g * (b * f - c * e) || 1
  const columns = [
    [e * i - f * h, c * h - b * i, b * f - c * e],
    [f * g - d * i, a * i - c * g, c * d - a * f],
    [d * h - e * g, b * g - a * h, a * e - b * d],
  ].map((column) => column.map((value) => value / determinant))
  const move = [0, 1, 2].map(
    (axis) => -(columns[0][axis] * m[12] + columns[1][axis] * m[13] + columns[2][axis] * m[14]),
  )
  return [...columns[0], 0, ...columns[1], 0, ...columns[2], 0, ...move, 1]
}

/**
 * Shift, turn and scale of a matrix without slant; a mirrored one has a negative scale along x.
 * @example apart(compose([1, 2, 3], [0, 0, 0, 1], [2, 2, 2])).scale // [2, 2, 2]
 */
export function apart(m: readonly number[]): { translation: number[]; rotation: number[]; scale: number[] } {
  const scale = [0, 4, 8].map((at) => Math.hypot(m[at], m[at + 1], m[at + 2]))
  if (mirrors(m)) scale[0] = -scale[0]
  const [xx, xy, xz, yx, yy, yz, zx, zy, zz] = [0, 1, 2, 4, 5, 6, 8, 9, 10].map(
    (at) => m[at] / (scale[Math.floor(at / 4)] || 1),
  )
  // The four candidates of which the largest is taken (Bar-Itzhack 2000 gives why any other is less exact).
  const squares = [1 + xx - yy - zz, 1 - xx + yy - zz, 1 - xx - yy + zz, 1 + xx + yy + zz]
  const largest = squares.indexOf(Math.max(...squares))
  const half = Math.sqrt(Math.max(squares[largest], 1e-12)) / 2
  const [a, b, c, d, e, f] = [yz - zy, zx - xz, xy - yx, xy + yx, zx + xz, yz + zy].map((each) => each / (4 * half))
  const rotation = [
    [half, d, e, a],
    [d, half, f, b],
    [e, f, half, c],
    [a, b, c, half],
  ][largest]
  return { translation: m.slice(12, 15), rotation, scale }
}
