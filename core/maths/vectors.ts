export type Vector3 = [number, number, number]

/** Three numbers that are read and not changed. */
type Read = readonly number[]

/**
 * Scalar product: how far one goes along the other, times both lengths.
 *
 * @example dot([1, 2, 3], [4, 5, 6]) // 32
 */
export const dot = (a: Read, b: Read): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2]

/**
 * Vector product by the right-hand rule: stands square on both, as long as the area between them.
 *
 * @example cross([1, 0, 0], [0, 1, 0]) // [0, 0, 1]
 */
export const cross = (a: Read, b: Read): Vector3 => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
]

/**
 * Length of a vector by its components. Math.hypot guards against numbers whose squares overflow, which singles in
 * doubles cannot, and is many times slower.
 *
 * @example lengthOfXyz(2, 3, 6) // 7
 */
export const lengthOfXyz = (x: number, y: number, z: number): number => Math.sqrt(x * x + y * y + z * z)

/**
 * Length of a vector of three components.
 *
 * @example lengthOf([2, 3, 6]) // 7
 */
export const lengthOf = (a: Read): number => lengthOfXyz(a[0], a[1], a[2])

/**
 * Whether a direction is one long but for its last digits: such is left as it was written, since making it one long
 * again would move them, and turning it back would not bring them back.
 *
 * @example isNearlyOne(0.999999) // true
 */
export const isNearlyOne = (length: number): boolean => Math.abs(length - 1) < 1e-5

/**
 * The same direction at length 1; one without length stays as it is.
 *
 * @example unit([0, 3, 4]) // [0, 0.6, 0.8]
 */
export const unit = (a: Read): Vector3 => {
  const length = lengthOf(a) || 1
  return [a[0] / length, a[1] / length, a[2] / length]
}

/**
 * A place some steps further: each a direction and how far to go along it.
 * @example along([0, 0, 0], [[1, 0, 0], 2], [[0, 1, 0], 3]) // [2, 3, 0]
 */
export const along = (start: Read, ...steps: readonly (readonly [Read, number])[]): Vector3 =>
  [0, 1, 2].map((axis) =>
    steps.reduce((sum, [direction, length]) => sum + direction[axis] * length, start[axis]),
  ) as Vector3
