import { z } from 'zod'
import { cross, type Vector3 } from './vectors.ts'

export const axisNames = ['+x', '-x', '+y', '-y', '+z', '-z'] as const
export const axisNameSchema = z.enum(axisNames)
export type AxisName = z.infer<typeof axisNameSchema>

/** Up and forward inside: an item is right-handed and stands in these whatever its source or its game has. */
export const WORKING_UP: AxisName = '+y'
export const WORKING_FORWARD: AxisName = '+z'

/**
 * The unit vector of an axis name.
 * @example axisVector('-z') // [0, 0, -1]
 */
export function axisVector(axis: AxisName): Vector3 {
  const vector: Vector3 = [0, 0, 0]
  vector['xyz'.indexOf(axis[1])] = axis[0] === '-' ? -1 : 1
  return vector
}

/**
 * The forward axis that usually goes with an up axis, when only up is known.
 * @example customaryForward('+z') // '-y'
 */
export function customaryForward(up: AxisName): AxisName {
  return up[1] === 'y' ? '+z' : '-y'
}

/**
 * The turn (column-major 4 × 4) that takes one right-handed pair of up and forward to another.
 * With F = [right, up, forward] as columns, the turn is F_to · F_fromᵀ.
 *
 * @example turnItem(document, axesTurn('+z', '-y', '+y', '+z'))
 */
export function axesTurn(fromUp: AxisName, fromForward: AxisName, toUp: AxisName, toForward: AxisName): number[] {
  const frame = (up: AxisName, forward: AxisName): Vector3[] => {
    const upVector = axisVector(up)
    const forwardVector = axisVector(forward)
    return [cross(upVector, forwardVector), upVector, forwardVector]
  }
  const from = frame(fromUp, fromForward)
  const to = frame(toUp, toForward)
  const matrix = new Array<number>(16).fill(0)
  matrix[15] = 1
  for (let column = 0; column < 3; column++) {
    for (let row = 0; row < 3; row++) {
      // `+ 0` turns a negative zero into a plain one, so that kept matrices compare equal.
      matrix[column * 4 + row] = to.reduce((sum, axis, index) => sum + axis[row] * from[index][column], 0) + 0
    }
  }
  return matrix
}

/**
 * Product of two column-major 4 × 4 matrices: first `b`, then `a`.
 *
 * @example const toScene = multiplyMatrices(parent.getWorldMatrix(), node.getMatrix())
 */
export function multiplyMatrices(a: readonly number[], b: readonly number[]): number[] {
  const product = new Array<number>(16).fill(0)
  for (let column = 0; column < 4; column++) {
    for (let row = 0; row < 4; row++) {
      for (let index = 0; index < 4; index++) product[column * 4 + row] += a[index * 4 + row] * b[column * 4 + index]
    }
  }
  return product
}

/**
 * Whether a column-major matrix changes nothing, to within what single precision can tell.
 * @example isIdentity(identityMatrix()) // true
 */
export const isIdentity = (matrix: readonly number[]): boolean =>
  matrix.every((value, index) => Math.abs(value - (index % 5 === 0 ? 1 : 0)) < 1e-9)

/**
 * A new column-major 4 × 4 matrix that changes nothing.
 *
 * @example chainMatrices().join() === identityMatrix().join()
 */
export const identityMatrix = (): number[] => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]

/**
 * A column-major 4 × 4 matrix that scales by one factor along all axes.
 * @example scaleMatrix(2)[0] // 2
 */
export const scaleMatrix = (factor: number): number[] => [factor, 0, 0, 0, 0, factor, 0, 0, 0, 0, factor, 0, 0, 0, 0, 1]
