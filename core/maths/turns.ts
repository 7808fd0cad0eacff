/**
 * Two turns (unit quaternions x, y, z, w) one after the other, the second first: Hamilton’s product.
 *
 * @example multiplyTurns([0, 1, 0, 0], [0, 1, 0, 0]) // [0, 0, 0, -1]
 */
export function multiplyTurns(a: ArrayLike<number>, b: ArrayLike<number>): [number, number, number, number] {
  const [ax, ay, az, aw] = [a[0], a[1], a[2], a[3]]
  const [bx, by, bz, bw] = [b[0], b[1], b[2], b[3]]
  return [
    aw * bx + ax * bw + ay * bz - az * by,
    aw * by - ax * bz + ay * bw + az * bx,
    aw * bz + ax * by - ay * bx + az * bw,
    aw * bw - ax * bx - ay * by - az * bz,
  ]
}

/**
 * The same turn as a quaternion that is one long; what has no length stays as it is.
 *
 * @example unitTurn([0, 3, 0, 4]) // [0, 0.6, 0, 0.8]
 */
export function unitTurn(turn: ArrayLike<number>): number[] {
  const length = Math.hypot(turn[0], turn[1], turn[2], turn[3]) || 1
  return Array.from(turn, (part) => part / length)
}

/**
 * The same turn with the signs that are nearer to another's: all of them turned over are the same turn.
 *
 * @example nearTurn([0, 0, 0, -1], [0, 0, 0, 1]) // [0, 0, 0, 1]
 */
export function nearTurn(turn: ArrayLike<number>, other: ArrayLike<number>): number[] {
  const sign = turn[0] * other[0] + turn[1] * other[1] + turn[2] * other[2] + turn[3] * other[3] < 0 ? -1 : 1
  return Array.from(turn, (part) => part * sign)
}
