import { lengthOfXyz } from '../../maths/vectors.ts'
import { Triangle, Vector3 } from 'three'
import { meetEdges, NO_TWIN } from './edges.ts'
import { groupPositions } from './position-groups.ts'

/** Which connected piece each triangle belongs to, numbered in order of first appearance. */
export interface Pieces {
  pieceOfTriangle: Uint32Array
  count: number
}

/**
 * Connected pieces of a mesh: triangles that touch in any place are one piece.
 * @param positions 3 floats a corner
 * @param indices 3 a triangle
 *
 * @example const { pieceOfTriangle, count } = connectedPieces(positions, indices)
 */
export function connectedPieces(positions: Float32Array, indices: Uint32Array): Pieces {
  const { groupOfCorner, cornerOfGroup } = groupPositions(positions)
  const parent = Uint32Array.from(cornerOfGroup.keys())
  const find = (start: number): number => {
    let at = start
    while (parent[at] !== at) {
      parent[at] = parent[parent[at]]
      at = parent[at]
    }
    return at
  }
  for (let index = 0; index < indices.length; index += 3) {
    const root = find(groupOfCorner[indices[index]])
    parent[find(groupOfCorner[indices[index + 1]])] = root
    parent[find(groupOfCorner[indices[index + 2]])] = root
  }
  const numberOf = new Map<number, number>()
  const pieceOfTriangle = new Uint32Array(indices.length / 3)
  for (let triangle = 0; triangle < pieceOfTriangle.length; triangle++) {
    const root = find(groupOfCorner[indices[triangle * 3]])
    const known = numberOf.get(root) ?? numberOf.size
    numberOf.set(root, known)
    pieceOfTriangle[triangle] = known
  }
  return { pieceOfTriangle, count: numberOf.size }
}

/**
 * The longest side of any box round a connected piece; 0 where there is none.
 * @param positions 3 floats a corner
 * @param indices 3 a triangle
 *
 * @example longestPieceSide(Float32Array.of(0, 0, 0, 2, 0, 0, 0, 1, 0), Uint32Array.of(0, 1, 2)) // 2
 */
export function longestPieceSide(positions: Float32Array, indices: Uint32Array): number {
  const { pieceOfTriangle, count } = connectedPieces(positions, indices)
  const low = new Float32Array(count * 3).fill(Infinity)
  const high = new Float32Array(count * 3).fill(-Infinity)
  for (let at = 0; at < indices.length; at++) {
    const piece = pieceOfTriangle[Math.floor(at / 3)] * 3
    for (let axis = 0; axis < 3; axis++) {
      const value = positions[indices[at] * 3 + axis]
      if (value < low[piece + axis]) low[piece + axis] = value
      if (value > high[piece + axis]) high[piece + axis] = value
    }
  }
  return low.reduce((longest, least, at) => Math.max(longest, high[at] - least), 0)
}

export const growths = ['face', 'flat', 'piece', 'surface', 'round'] as const
/** How far a pick reaches from the triangle that was pointed at. */
export type Growth = (typeof growths)[number]

/**
 * The triangles that a pick stands for, as 1 in the answer: the one pointed at; the area round it that bends less than
 * an angle from triangle to triangle; all that is connected with it; or all. A round pick, which reaches a distance
 * instead, is `facesWithin`.
 *
 * @example const marks = growPick(positions, indices, hit.triangle, 'flat', 20)
 */
export function growPick(
  positions: Float32Array,
  indices: Uint32Array,
  seed: number,
  growth: Exclude<Growth, 'round'>,
  angleDegrees: number,
): Uint8Array {
  const triangleCount = indices.length / 3
  const picked = new Uint8Array(triangleCount)
  if (growth === 'surface') return picked.fill(1)
  picked[seed] = 1
  if (growth === 'face') return picked
  if (growth === 'piece') {
    const { pieceOfTriangle } = connectedPieces(positions, indices)
    return picked.map((_, triangle) => (pieceOfTriangle[triangle] === pieceOfTriangle[seed] ? 1 : 0))
  }
  const { groupOfCorner } = groupPositions(positions)
  const { twin } = meetEdges(indices.map((corner) => groupOfCorner[corner]))
  const normals = faceNormals(positions, indices)
  const limit = Math.cos((angleDegrees * Math.PI) / 180) - 1e-6
  const queue = [seed]
  for (let at = 0; at < queue.length; at++) {
    const triangle = queue[at]
    for (let edge = triangle * 3; edge < triangle * 3 + 3; edge++) {
      if (twin[edge] === NO_TWIN) continue
      const next = Math.floor(twin[edge] / 3)
      if (picked[next] || Math.abs(dot(normals, triangle, next)) < limit) continue
      picked[next] = 1
      queue.push(next)
    }
  }
  return picked
}

/**
 * The triangles that come nearer to a point than a radius, as 1 in the answer.
 * @example const marks = facesWithin(positions, indices, hit.point, 0.25)
 */
export function facesWithin(
  positions: Float32Array,
  indices: Uint32Array,
  [x, y, z]: readonly number[],
  radius: number,
): Uint8Array {
  const triangle = new Triangle()
  const point = new Vector3(x, y, z)
  const nearest = new Vector3()
  const picked = new Uint8Array(indices.length / 3)
  for (let number = 0; number < picked.length; number++) {
    triangle.a.fromArray(positions, indices[number * 3] * 3)
    triangle.b.fromArray(positions, indices[number * 3 + 1] * 3)
    triangle.c.fromArray(positions, indices[number * 3 + 2] * 3)
    picked[number] = triangle.closestPointToPoint(point, nearest).distanceToSquared(point) <= radius * radius ? 1 : 0
  }
  return picked
}

/**
 * Unit normal of each triangle; zero for one without area.
 * @example [...faceNormals(Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0), Uint32Array.of(0, 1, 2))] // [0, 0, 1]
 */
export function faceNormals(positions: Float32Array, indices: Uint32Array): Float32Array {
  const normals = new Float32Array(indices.length)
  for (let index = 0; index < indices.length; index += 3) {
    const [a, b, c] = [indices[index] * 3, indices[index + 1] * 3, indices[index + 2] * 3]
    const [ux, uy, uz] = [
      positions[b] - positions[a],
      positions[b + 1] - positions[a + 1],
      positions[b + 2] - positions[a + 2],
    ]
    const [vx, vy, vz] = [
      positions[c] - positions[a],
      positions[c + 1] - positions[a + 1],
      positions[c + 2] - positions[a + 2],
    ]
    const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx]
    const length = lengthOfXyz(nx, ny, nz)
    if (length === 0) continue
    normals[index] = nx / length
    normals[index + 1] = ny / length
    normals[index + 2] = nz / length
  }
  return normals
}

const dot = (normals: Float32Array, a: number, b: number): number =>
  normals[a * 3] * normals[b * 3] + normals[a * 3 + 1] * normals[b * 3 + 1] + normals[a * 3 + 2] * normals[b * 3 + 2]
