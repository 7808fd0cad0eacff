import { lengthOf, lengthOfXyz } from '../../maths/vectors.ts'
import { groupPositions } from '../mesh/position-groups.ts'
import { splitCorners } from '../mesh/split-corners.ts'

/** Corners split where an edge is hard, with their normals. */
export interface EvenNormals {
  /** Old corner that each new corner is taken from. */
  oldCorner: Uint32Array
  /** 3 a triangle. */
  indices: Uint32Array
  /** Unit normals, 3 floats a new corner. */
  normals: Float32Array
  hardEdgeCorners: number
}

/**
 * Normals by angle: a corner's normal is the sum of the normals of the triangles round its place that lie
 * within `hardAngleDegrees` of its own, weighted by area and by the angle at the corner
 * (Thürmer and Wüthrich 1998 for the angle weight). Corners that get different normals are split.
 * @param given normals that came with the corners, 3 floats each: where two triangles had different ones at a place,
 * the edge was made hard by somebody and stays hard
 *
 * @example const { normals, indices } = evenNormals(positions, indices, 40)
 */
export function evenNormals(
  positions: Float32Array,
  indices: Uint32Array,
  hardAngleDegrees: number,
  given: Float32Array | null = null,
): EvenNormals {
  const { groupOfCorner, cornerOfGroup } = groupPositions(positions)
  const faces = faceFrames(positions, indices)
  const { starts, members } = incidence(indices, groupOfCorner, cornerOfGroup.length)
  const limit = Math.cos((hardAngleDegrees * Math.PI) / 180) - 1e-6
  const perIndex = new Float32Array(indices.length * 3)
  for (let group = 0; group < cornerOfGroup.length; group++) {
    for (let own = starts[group]; own < starts[group + 1]; own++)
      sumAround(
        members,
        starts[group],
        starts[group + 1],
        members[own],
        faces,
        limit,
        perIndex,
        (other) => given !== null && !sameDirection(given, indices[members[own]], indices[other]),
      )
  }
  const split = splitCorners(indices, perIndex, 3, 2048)
  return {
    oldCorner: split.oldCorner,
    indices: split.indices,
    normals: split.values,
    hardEdgeCorners: Math.max(0, split.oldCorner.length - positions.length / 3),
  }
}

interface FaceFrames {
  /** Unit normal of each triangle. */
  normals: Float32Array
  /** Area times corner angle of each triangle corner. */
  weights: Float32Array
}

function faceFrames(positions: Float32Array, indices: Uint32Array): FaceFrames {
  const triangleCount = indices.length / 3
  const normals = new Float32Array(triangleCount * 3)
  const weights = new Float32Array(indices.length)
  const edge = (from: number, to: number): [number, number, number] => [
    positions[to * 3] - positions[from * 3],
    positions[to * 3 + 1] - positions[from * 3 + 1],
    positions[to * 3 + 2] - positions[from * 3 + 2],
  ]
  for (let triangle = 0; triangle < triangleCount; triangle++) {
    const corners = [indices[triangle * 3], indices[triangle * 3 + 1], indices[triangle * 3 + 2]]
    const u = edge(corners[0], corners[1])
    const v = edge(corners[0], corners[2])
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
    const doubleArea = lengthOfXyz(n[0], n[1], n[2])
    if (doubleArea === 0) continue
    for (let axis = 0; axis < 3; axis++) normals[triangle * 3 + axis] = n[axis] / doubleArea
    for (let corner = 0; corner < 3; corner++) {
      const a = edge(corners[corner], corners[(corner + 1) % 3])
      const b = edge(corners[corner], corners[(corner + 2) % 3])
      const cosine = (a[0] * b[0] + a[1] * b[1] + a[2] * b[2]) / (lengthOf(a) * lengthOf(b) || 1)
      weights[triangle * 3 + corner] = doubleArea * Math.acos(Math.min(1, Math.max(-1, cosine)))
    }
  }
  return { normals, weights }
}

/** The triangle corners (positions in `indices`) at each place, as one flat list with starts. */
function incidence(
  indices: Uint32Array,
  groupOfCorner: Uint32Array,
  groupCount: number,
): { starts: Uint32Array; members: Uint32Array } {
  const starts = new Uint32Array(groupCount + 1)
  for (const corner of indices) starts[groupOfCorner[corner] + 1]++
  for (let group = 0; group < groupCount; group++) starts[group + 1] += starts[group]
  const fill = starts.slice()
  const members = new Uint32Array(indices.length)
  for (let index = 0; index < indices.length; index++) members[fill[groupOfCorner[indices[index]]]++] = index
  return { starts, members }
}

/** Given normals this close (cosine of 2°) are one and the same. */
const SAME_DIRECTION = 0.9994

function sameDirection(normals: Float32Array, a: number, b: number): boolean {
  return (
    a === b ||
    normals[a * 3] * normals[b * 3] +
      normals[a * 3 + 1] * normals[b * 3 + 1] +
      normals[a * 3 + 2] * normals[b * 3 + 2] >=
      SAME_DIRECTION
  )
}

/** Fans of thousands of triangles round one place are summed up to this many, to stay linear. */
const MOST_AROUND = 512

function sumAround(
  members: Uint32Array,
  from: number,
  to: number,
  own: number,
  faces: FaceFrames,
  limit: number,
  out: Float32Array,
  isParted: (other: number) => boolean,
): void {
  const ownFace = Math.floor(own / 3) * 3
  const [nx, ny, nz] = [faces.normals[ownFace], faces.normals[ownFace + 1], faces.normals[ownFace + 2]]
  let [x, y, z] = [0, 0, 0]
  const end = Math.min(to, from + MOST_AROUND)
  for (let at = from; at < end; at++) {
    const face = Math.floor(members[at] / 3) * 3
    const [mx, my, mz] = [faces.normals[face], faces.normals[face + 1], faces.normals[face + 2]]
    if (nx * mx + ny * my + nz * mz < limit || isParted(members[at])) continue
    const weight = faces.weights[members[at]]
    x += mx * weight
    y += my * weight
    z += mz * weight
  }
  const length = lengthOfXyz(x, y, z)
  const usable = length > 0
  const flat = lengthOfXyz(nx, ny, nz) > 0
  out[own * 3] = usable ? x / length : flat ? nx : 0
  out[own * 3 + 1] = usable ? y / length : flat ? ny : 1
  out[own * 3 + 2] = usable ? z / length : flat ? nz : 0
}
