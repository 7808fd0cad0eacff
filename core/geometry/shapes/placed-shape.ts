import { along, cross, unit, type Vector3 } from '../../maths/vectors.ts'
import type { TriangleSoup } from './convex-hull.ts'

export type Triple = Vector3
/** x, y, z, w. */
export type Quaternion = [number, number, number, number]

/**
 * A collision shape: its mesh about its own middle, and how that is put into the space of the points it was fitted to.
 */
export interface PlacedShape {
  mesh: TriangleSoup
  translation: Triple
  rotation: Quaternion
}

export const UNTURNED: Quaternion = [0, 0, 0, 1]

/**
 * Two unit vectors that stand square on a unit vector and on each other.
 * @example const [right, up] = squareTo(normal)
 */
export function squareTo(axis: readonly number[]): [Triple, Triple] {
  const hint: Triple = Math.abs(axis[0]) < 0.9 ? [1, 0, 0] : [0, 1, 0]
  const first = unit(cross(hint, axis))
  return [first, cross(axis, first)]
}

/**
 * The turn that takes x, y and z to three square unit vectors (Shepperd, “Quaternion from rotation matrix”, 1978).
 * @example rotationTo([1, 0, 0], [0, 1, 0], [0, 0, 1]) // [0, 0, 0, 1]
 */
export function rotationTo(x: readonly number[], y: readonly number[], z: readonly number[]): Quaternion {
  const trace = x[0] + y[1] + z[2]
  if (trace > 0) {
    const s = 2 * Math.sqrt(trace + 1)
    return [(y[2] - z[1]) / s, (z[0] - x[2]) / s, (x[1] - y[0]) / s, s / 4]
  }
  if (x[0] > y[1] && x[0] > z[2]) {
    const s = 2 * Math.sqrt(1 + x[0] - y[1] - z[2])
    return [s / 4, (y[0] + x[1]) / s, (z[0] + x[2]) / s, (y[2] - z[1]) / s]
  }
  if (y[1] > z[2]) {
    const s = 2 * Math.sqrt(1 + y[1] - x[0] - z[2])
    return [(y[0] + x[1]) / s, s / 4, (z[1] + y[2]) / s, (z[0] - x[2]) / s]
  }
  const s = 2 * Math.sqrt(1 + z[2] - x[0] - y[1])
  return [(z[0] + x[2]) / s, (z[1] + y[2]) / s, s / 4, (x[1] - y[0]) / s]
}

/**
 * A vector turned by a quaternion.
 * @example turned([1, 0, 0], [0, 1, 0, 0]) // [-1, 0, 0]
 */
export function turned(vector: readonly number[], [x, y, z, w]: readonly number[]): Triple {
  const t = cross([x, y, z], vector).map((value) => 2 * value)
  const u = cross([x, y, z], t)
  return [vector[0] + w * t[0] + u[0], vector[1] + w * t[1] + u[1], vector[2] + w * t[2] + u[2]]
}

/**
 * The product of two turns: first `second`, then `first`.
 * @example chainTurns(turnOfDegrees([0, 90, 0]), turnOfDegrees([90, 0, 0]))
 */
export const chainTurns = ([ax, ay, az, aw]: Quaternion, [bx, by, bz, bw]: Quaternion): Quaternion => [
  aw * bx + ax * bw + ay * bz - az * by,
  aw * by - ax * bz + ay * bw + az * bx,
  aw * bz + ax * by - ay * bx + az * bw,
  aw * bw - ax * bx - ay * by - az * bz,
]

/**
 * Turns about x, then y, then z, in degrees.
 * @example turnOfDegrees([60, 0, 0])[0] // 0.5
 */
export function turnOfDegrees([x, y, z]: readonly number[]): Quaternion {
  const about = (axis: number, degrees: number): Quaternion => {
    const half = (degrees * Math.PI) / 360
    const made: Quaternion = [0, 0, 0, Math.cos(half)]
    made[axis] = Math.sin(half)
    return made
  }
  return chainTurns(about(2, z), chainTurns(about(1, y), about(0, x)))
}

/**
 * The shape's corners where it is put.
 * @example const inScene = placedMesh(fitBox(positions))
 */
export function placedMesh({ mesh, translation, rotation }: PlacedShape): TriangleSoup {
  const positions = new Float32Array(mesh.positions.length)
  for (let at = 0; at < positions.length; at += 3)
    positions.set(along(turned([...mesh.positions.subarray(at, at + 3)], rotation), [translation, 1]), at)
  return { positions, indices: mesh.indices }
}

/**
 * The points of a list of coordinates.
 * @example pointsOf(Float32Array.of(1, 2, 3, 4, 5, 6)) // [[1, 2, 3], [4, 5, 6]]
 */
export function pointsOf(positions: Float32Array): Triple[] {
  const points: Triple[] = []
  for (let at = 0; at + 2 < positions.length; at += 3)
    points.push([positions[at], positions[at + 1], positions[at + 2]])
  return points
}
