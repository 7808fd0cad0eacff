import { lengthOfXyz } from '../../maths/vectors.ts'
import { meetEdges, NO_TWIN } from './edges.ts'
import { groupPositions } from './position-groups.ts'

/** A mesh by places: corners that stand in one place are one, however many UVs or normals they carry. */
export interface PlaceMesh {
  /** 3 floats a place. */
  places: Float32Array
  /** Place of each triangle corner, 3 a triangle. */
  placeOfIndex: Uint32Array
  placeOfCorner: Uint32Array
  /** Half-edge on the other side of each half-edge, NO_TWIN on borders and where more than two meet. */
  twin: Uint32Array
}

/**
 * @param positions 3 floats a corner
 * @param indices 3 a triangle
 *
 * @example const { places, twin } = placeMesh(positions, indices)
 */
export function placeMesh(positions: Float32Array, indices: Uint32Array): PlaceMesh {
  const { groupOfCorner, cornerOfGroup } = groupPositions(positions)
  const places = new Float32Array(cornerOfGroup.length * 3)
  cornerOfGroup.forEach((corner, place) => places.set(positions.subarray(corner * 3, corner * 3 + 3), place * 3))
  const placeOfIndex = indices.map((corner) => groupOfCorner[corner])
  return { places, placeOfIndex, placeOfCorner: groupOfCorner, twin: meetEdges(placeOfIndex).twin }
}

/**
 * The half-edge after this one round its triangle; half-edge 3t + k begins at corner k of triangle t.
 * @example nextEdge(5) // 3
 */
export const nextEdge = (edge: number): number => (edge % 3 === 2 ? edge - 2 : edge + 1)
/**
 * The half-edge before this one round its triangle.
 * @example previousEdge(3) // 5
 */
export const previousEdge = (edge: number): number => (edge % 3 === 0 ? edge + 2 : edge - 1)
/**
 * Whether another triangle lies at the other side of a half-edge.
 * @example if (!hasTwin(twin, edge)) open.push(edge)
 */
export const hasTwin = (twin: Uint32Array, edge: number): boolean => twin[edge] !== NO_TWIN

/**
 * Unit normal of the triangle of three places; zero when it has no area.
 * @example normalOf(Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0), 0, 1, 2) // [0, 0, 1]
 */
export function normalOf(places: Float32Array, a: number, b: number, c: number): [number, number, number] {
  const ax = places[a * 3]
  const ay = places[a * 3 + 1]
  const az = places[a * 3 + 2]
  const ux = places[b * 3] - ax
  const uy = places[b * 3 + 1] - ay
  const uz = places[b * 3 + 2] - az
  const vx = places[c * 3] - ax
  const vy = places[c * 3 + 1] - ay
  const vz = places[c * 3 + 2] - az
  const nx = uy * vz - uz * vy
  const ny = uz * vx - ux * vz
  const nz = ux * vy - uy * vx
  const length = lengthOfXyz(nx, ny, nz)
  return length === 0 ? [0, 0, 0] : [nx / length, ny / length, nz / length]
}

/**
 * Angle between two unit normals, in degrees.
 * @example angleBetween([0, 0, 1], [0, 1, 0]) // 90
 */
export const angleBetween = (n: readonly number[], m: readonly number[]): number =>
  (Math.acos(Math.max(-1, Math.min(1, n[0] * m[0] + n[1] * m[1] + n[2] * m[2]))) * 180) / Math.PI

/**
 * Distance of two corners, in the units of their places.
 * @example distanceBetween(Float32Array.of(0, 0, 0, 3, 4, 0), 0, 1) // 5
 */
export function distanceBetween(places: Float32Array, a: number, b: number): number {
  return lengthOfXyz(
    places[a * 3] - places[b * 3],
    places[a * 3 + 1] - places[b * 3 + 1],
    places[a * 3 + 2] - places[b * 3 + 2],
  )
}

/**
 * Smallest of the three angles of a triangle of places, in degrees.
 * @example smallestAngleOf(Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0), 0, 1, 2) // 45
 */
export function smallestAngleOf(places: Float32Array, a: number, b: number, c: number): number {
  const [opposite, left, right] = [
    distanceBetween(places, b, c),
    distanceBetween(places, c, a),
    distanceBetween(places, a, b),
  ]
  if (opposite * left * right === 0) return 0
  // The smallest angle has the largest cosine.
  const cosine = Math.max(
    cosineFacing(opposite, left, right),
    cosineFacing(left, right, opposite),
    cosineFacing(right, opposite, left),
  )
  return Math.min(180, (Math.acos(Math.max(-1, Math.min(1, cosine))) * 180) / Math.PI)
}

/** Cosine of the angle that faces a side, by the lengths of the three (law of cosines). */
const cosineFacing = (opposite: number, one: number, two: number): number =>
  (one * one + two * two - opposite * opposite) / (2 * one * two)

/**
 * Whether a mesh encloses something: each edge is gone along as often one way as the other. Triangles without three
 * places count for nothing.
 * @param placeOfIndex place of each triangle corner, 3 a triangle
 *
 * @example isClosed(Uint32Array.from([0, 1, 2])) // false
 */
export function isClosed(placeOfIndex: Uint32Array): boolean {
  const count = placeOfIndex.reduce((most, place) => Math.max(most, place), 0) + 1
  const balance = new Map<number, number>()
  for (let edge = 0; edge < placeOfIndex.length; edge++) {
    const [from, to, third] = [edge, nextEdge(edge), previousEdge(edge)].map((each) => placeOfIndex[each])
    if (from === to || to === third || from === third) continue
    const key = Math.min(from, to) * count + Math.max(from, to)
    balance.set(key, (balance.get(key) ?? 0) + (from < to ? 1 : -1))
  }
  return balance.size > 0 && [...balance.values()].every((each) => each === 0)
}
