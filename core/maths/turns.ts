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
