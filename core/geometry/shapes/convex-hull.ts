import { lengthOf, lengthOfXyz } from '../../maths/vectors.ts'
import type { Point } from 'quickhull3d'
import quickHull from 'quickhull3d/dist/quickhull3d.js'

export interface TriangleSoup {
  positions: Float32Array
  indices: Uint32Array
}

const MOST_INPUT_POINTS = 4000

/**
 * A convex hull with at most `mostPoints` corners. Corners are chosen greedily: the extremes first, then
 * each time the hull corner that lies furthest outside the hull of those chosen so far.
 * @param positions 3 floats a point
 * @returns null when the points lie in a plane or are fewer than four
 *
 * @example convexHull(boxMesh({ min: [0, 0, 0], max: [1, 1, 1] }).positions, 32)?.positions.length // 24
 */
export const convexHull = (positions: Float32Array, mostPoints: number): TriangleSoup | null =>
  chosenHull(positions, mostPoints, 0)?.mesh ?? null

/** A hull and how far the furthest of the given points lies outside it. */
export interface ChosenHull {
  mesh: TriangleSoup
  error: number
}

/**
 * The convex hull with the fewest corners, chosen greedily, from which no point stands out by more than an error; where
 * the most corners do not do, the hull with those. The error that is left is measured on all points.
 * @param asked in the points’ units; 0 takes as many corners as there may be
 *
 * @example const chosen = chosenHull(positions, 32, 0.01)
 */
export function chosenHull(positions: Float32Array, mostPoints: number, asked: number): ChosenHull | null {
  const points = distinctPoints(positions)
  const full = hullOf(thin(points))
  if (!full) return null
  if (full.points.length <= mostPoints && asked === 0) return { mesh: toSoup(full), error: reachOutside(points, full) }
  const chosen = startingPoints(full.points)
  let hull = hullOf(chosen)
  while (chosen.length < mostPoints) {
    if (hull && asked > 0 && reachOutside(full.points, hull) <= asked) break
    const next = hull ? furthestOutside(full.points, hull) : furthestFrom(full.points, chosen)
    if (!next) break
    chosen.push(next)
    hull = hullOf(chosen)
  }
  return hull ? balanced(hull, points, full.points) : null
}

/** Share of what stands out over a face by which its corners are moved out. */
const MOVED_OUT = 0.6

/**
 * A hull of fewer corners lies within the full one everywhere. Its corners are moved out a little, over the faces that
 * miss something, so that it is as much too large as too small; a face that misses nothing stays where it is.
 */
function balanced(hull: Hull, points: Point[], outline: Point[]): ChosenHull {
  const error = reachOutside(points, hull)
  const moves = hull.points.map((): { sum: Point; faces: number } => ({ sum: [0, 0, 0], faces: 0 }))
  for (const face of hull.faces) {
    const [nx, ny, nz, d] = planeOf(hull.points[face[0]], hull.points[face[1]], hull.points[face[2]])
    let reach = 0
    for (const point of outline) reach = Math.max(reach, nx * point[0] + ny * point[1] + nz * point[2] - d)
    for (const corner of face) {
      const { sum } = moves[corner]
      sum[0] += nx * reach
      sum[1] += ny * reach
      sum[2] += nz * reach
      moves[corner].faces++
    }
  }
  const moved = hullOf(
    hull.points.map(
      (point, corner): Point =>
        point.map(
          (value, axis) => value + (moves[corner].sum[axis] / Math.max(1, moves[corner].faces)) * MOVED_OUT,
        ) as Point,
    ),
  )
  const after = moved ? reachOutside(points, moved) : Infinity
  return moved && after < error && moved.points.length <= hull.points.length
    ? { mesh: toSoup(moved), error: after }
    : { mesh: toSoup(hull), error }
}

/**
 * How far the furthest point lies outside a convex mesh, in front of its faces; 0 when all are inside. @param positions
 * 3 floats a point
 *
 * @example outsideConvex(boxMesh({ min: [0, 0, 0], max: [1, 1, 1] }), Float32Array.of(0.5, 3, 0.5)) // 2
 */
export function outsideConvex({ positions: corners, indices }: TriangleSoup, positions: Float32Array): number {
  const at = (corner: number): Point => [corners[corner * 3], corners[corner * 3 + 1], corners[corner * 3 + 2]]
  const faces = Array.from({ length: indices.length / 3 }, (_, face) =>
    [0, 1, 2].map((corner) => indices[face * 3 + corner]),
  )
  return reachOutside(distinctPoints(positions), {
    points: Array.from({ length: corners.length / 3 }, (_, corner) => at(corner)),
    faces,
  })
}

function reachOutside(points: Point[], hull: Hull): number {
  const planes = hull.faces.map(([a, b, c]) => planeOf(hull.points[a], hull.points[b], hull.points[c]))
  let reach = 0
  for (const point of points)
    for (const [nx, ny, nz, d] of planes) reach = Math.max(reach, nx * point[0] + ny * point[1] + nz * point[2] - d)
  return reach
}

interface Hull {
  points: Point[]
  faces: number[][]
}

function hullOf(points: Point[]): Hull | null {
  if (points.length < 4) return null
  try {
    const faces = quickHull(points)
    if (faces.length < 4) return null
    const used = [...new Set(faces.flat())].sort((a, b) => a - b)
    const newIndex = new Map(used.map((old, index) => [old, index]))
    const hull = {
      points: used.map((index) => points[index]),
      faces: faces.map((face) => face.map((index) => newIndex.get(index) as number)),
    }
    return hullVolume(hull) > 0 ? hull : null
  } catch {
    // The library throws on points in a plane; such a part has no hull.
    return null
  }
}

function hullVolume({ points, faces }: Hull): number {
  return faces.reduce((sum, [a, b, c]) => {
    const [p, q, r] = [points[a], points[b], points[c]]
    return (
      sum +
      (p[0] * (q[1] * r[2] - q[2] * r[1]) + p[1] * (q[2] * r[0] - q[0] * r[2]) + p[2] * (q[0] * r[1] - q[1] * r[0])) / 6
    )
  }, 0)
}

function distinctPoints(positions: Float32Array): Point[] {
  const points = new Map<string, Point>()
  for (let at = 0; at + 2 < positions.length; at += 3) {
    const point: Point = [positions[at], positions[at + 1], positions[at + 2]]
    points.set(point.join(' '), point)
  }
  return [...points.values()]
}

/** Of very many points, only the furthest along many directions can be hull corners that matter. */
function thin(points: Point[]): Point[] {
  if (points.length <= MOST_INPUT_POINTS) return points
  const kept = new Set<Point>()
  const golden = Math.PI * (3 - Math.sqrt(5))
  for (let index = 0; index < 400; index++) {
    const y = 1 - (2 * (index + 0.5)) / 400
    const radius = Math.sqrt(1 - y * y)
    const [dx, dz] = [Math.cos(golden * index) * radius, Math.sin(golden * index) * radius]
    kept.add(extreme(points, [dx, y, dz]))
  }
  return [...kept]
}

const extreme = (points: Point[], direction: Point): Point => {
  let best = points[0]
  let reach = -Infinity
  for (const point of points) {
    const along = point[0] * direction[0] + point[1] * direction[1] + point[2] * direction[2]
    if (along > reach) {
      reach = along
      best = point
    }
  }
  return best
}

function startingPoints(points: Point[]): Point[] {
  const directions: Point[] = [
    [1, 0, 0],
    [-1, 0, 0],
    [0, 1, 0],
    [0, -1, 0],
    [0, 0, 1],
    [0, 0, -1],
  ]
  return [...new Set(directions.map((direction) => extreme(points, direction)))]
}

function furthestOutside(points: Point[], hull: Hull): Point | null {
  const planes = hull.faces.map(([a, b, c]) => planeOf(hull.points[a], hull.points[b], hull.points[c]))
  let best: Point | null = null
  let reach = 1e-9
  for (const point of points) {
    for (const [nx, ny, nz, d] of planes) {
      const outside = nx * point[0] + ny * point[1] + nz * point[2] - d
      if (outside > reach) {
        reach = outside
        best = point
      }
    }
  }
  return best
}

function planeOf(a: Point, b: Point, c: Point): [number, number, number, number] {
  const u = [b[0] - a[0], b[1] - a[1], b[2] - a[2]]
  const v = [c[0] - a[0], c[1] - a[1], c[2] - a[2]]
  const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
  const length = lengthOf(n) || 1
  return [n[0] / length, n[1] / length, n[2] / length, (n[0] * a[0] + n[1] * a[1] + n[2] * a[2]) / length]
}

function furthestFrom(points: Point[], chosen: Point[]): Point | null {
  let best: Point | null = null
  let reach = 0
  for (const point of points) {
    const near = Math.min(
      ...chosen.map((other) => lengthOfXyz(other[0] - point[0], other[1] - point[1], other[2] - point[2])),
    )
    if (near > reach) {
      reach = near
      best = point
    }
  }
  return best
}

function toSoup({ points, faces }: Hull): TriangleSoup {
  return {
    positions: Float32Array.from(points.flatMap((point) => [...point])),
    indices: Uint32Array.from(
      faces.flatMap((face) => face.slice(1, -1).flatMap((corner, index) => [face[0], corner, face[index + 2]])),
    ),
  }
}
