import { lengthOf } from '../../maths/vectors.ts'
import type { TriangleSoup } from '../shapes/convex-hull.ts'
import { sampleSurface, surfaceArea } from './sample-surface.ts'
import { createSurfaceFinder } from './surface-distance.ts'

/** A surface with the directions it is lit by, 3 floats a corner. */
export interface LitSurface extends TriangleSoup {
  normals: Float32Array
}

export interface ShadingDifference {
  /** Share of the second surface that is lit by a direction more than `angleDegrees` off, 0 to 1. */
  share: number
  /** Area of the second surface, to weigh several against each other. */
  area: number
}

/**
 * How much of a surface light falls on otherwise than on another in the same place: at `samples` places, by the normals
 * interpolated over the triangles, as a game interpolates them.
 *
 * @example const { share } = shadingDifference(before, after, 10)
 */
export function shadingDifference(
  before: LitSurface,
  after: LitSurface,
  angleDegrees: number,
  samples = 2000,
): ShadingDifference {
  const finder = createSurfaceFinder(before)
  const { points, triangles } = sampleSurface(after.positions, after.indices, samples)
  const least = Math.cos((angleDegrees * Math.PI) / 180)
  let compared = 0
  let off = 0
  for (let sample = 0; sample < triangles.length; sample++) {
    const point = points.subarray(sample * 3, sample * 3 + 3)
    const near = finder.nearest(point[0], point[1], point[2])
    const own = normalAt(after, triangles[sample], point)
    const given = near && normalAt(before, near.triangle, near.point)
    if (!own || !given) continue
    compared++
    if (own[0] * given[0] + own[1] * given[1] + own[2] * given[2] < least) off++
  }
  return { share: compared === 0 ? 0 : off / compared, area: surfaceArea(after.positions, after.indices) }
}

/** The normal at a point of a triangle, or null where it has no length or the triangle no area. */
function normalAt(
  { positions, indices, normals }: LitSurface,
  triangle: number,
  point: ArrayLike<number>,
): number[] | null {
  const corners = [0, 1, 2].map((corner) => indices[triangle * 3 + corner])
  const [a, b, c] = corners.map((corner) => positions.subarray(corner * 3, corner * 3 + 3))
  const weights = barycentric(a, b, c, point)
  if (!weights) return null
  const sum = [0, 1, 2].map((axis) =>
    corners.reduce((total, corner, at) => total + weights[at] * normals[corner * 3 + axis], 0),
  )
  const length = lengthOf(sum)
  return length > 1e-6 ? sum.map((value) => value / length) : null
}

/**
 * Weights of a triangle's corners at a point of it (Ericson 2004, “Real-Time Collision Detection”, section 3.4); null
 * for one without area.
 */
function barycentric(
  a: ArrayLike<number>,
  b: ArrayLike<number>,
  c: ArrayLike<number>,
  point: ArrayLike<number>,
): [number, number, number] | null {
  const between = (from: ArrayLike<number>, to: ArrayLike<number>): number[] => [
    to[0] - from[0],
    to[1] - from[1],
    to[2] - from[2],
  ]
  const dot = (u: number[], v: number[]): number => u[0] * v[0] + u[1] * v[1] + u[2] * v[2]
  const [u, v, w] = [between(a, b), between(a, c), between(a, point)]
  const [uu, uv, vv, wu, wv] = [dot(u, u), dot(u, v), dot(v, v), dot(w, u), dot(w, v)]
  const area = uu * vv - uv * uv
  if (!(area > 0)) return null
  const [atB, atC] = [(vv * wu - uv * wv) / area, (uu * wv - uv * wu) / area]
  return [1 - atB - atC, atB, atC]
}
