import { lengthOfXyz } from '../../maths/vectors.ts'
import type { TriangleSoup } from './convex-hull.ts'
import { createSurfaceFinder, type SurfaceFinder } from '../surface/surface-distance.ts'
import type { Triple } from './placed-shape.ts'

/**
 * How a collision shape stands to the mesh that is seen: for each of its corners, positive outside the mesh and
 * negative inside it.
 */
export interface StandOut {
  /** The shape cut finely enough for its faces to be judged between their corners. */
  mesh: TriangleSoup
  distances: Float32Array
  /** Furthest outside and furthest inside, both positive. */
  outside: number
  inside: number
  outsideAt: Triple
  insideAt: Triple
}

/** Corners that one shape is cut into at most. */
const MOST_CORNERS = 2500

/**
 * Measures where a shape stands outside or lies inside a mesh.
 * @param fineness longest edge that is judged by its ends alone
 * @param finder of the mesh's surface, where several shapes are measured against one mesh
 *
 * @example const { outside, inside } = standOut(view, placedMesh(solid), 0.1)
 */
export function standOut(
  view: TriangleSoup,
  shape: TriangleSoup,
  fineness: number,
  finder: SurfaceFinder = createSurfaceFinder(view),
): StandOut {
  const mesh = cutFinely(shape, fineness)
  const distances = new Float32Array(mesh.positions.length / 3)
  const result: StandOut = { mesh, distances, outside: 0, inside: 0, outsideAt: [0, 0, 0], insideAt: [0, 0, 0] }
  for (let corner = 0; corner < distances.length; corner++) {
    const place: Triple = [mesh.positions[corner * 3], mesh.positions[corner * 3 + 1], mesh.positions[corner * 3 + 2]]
    const nearest = finder.nearest(...place)
    if (!nearest) continue
    const signed = isBehind(view, nearest.triangle, place) ? -nearest.distance : nearest.distance
    distances[corner] = signed
    if (signed > result.outside) Object.assign(result, { outside: signed, outsideAt: place })
    if (-signed > result.inside) Object.assign(result, { inside: -signed, insideAt: place })
  }
  return result
}

/** Whether a place lies behind the nearest triangle's outward side. */
function isBehind({ positions, indices }: TriangleSoup, triangle: number, place: readonly number[]): boolean {
  const corner = (which: number): number[] =>
    [0, 1, 2].map((axis) => positions[indices[triangle * 3 + which] * 3 + axis])
  const [a, b, c] = [corner(0), corner(1), corner(2)]
  const [u, v] = [b.map((value, axis) => value - a[axis]), c.map((value, axis) => value - a[axis])]
  const normal = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
  return normal.reduce((sum, value, axis) => sum + value * (place[axis] - a[axis]), 0) < 0
}

/** Halves the longest edge of every triangle until all are short enough, or there are enough corners. */
function cutFinely(soup: TriangleSoup, longest: number): TriangleSoup {
  const positions = Array.from(soup.positions)
  let triangles = Array.from({ length: soup.indices.length / 3 }, (_, triangle) => [
    ...soup.indices.subarray(triangle * 3, triangle * 3 + 3),
  ])
  const halves = new Map<string, number>()
  const middle = (a: number, b: number): number => {
    const key = a < b ? `${a} ${b}` : `${b} ${a}`
    const known = halves.get(key)
    if (known !== undefined) return known
    for (let axis = 0; axis < 3; axis++) positions.push((positions[a * 3 + axis] + positions[b * 3 + axis]) / 2)
    halves.set(key, positions.length / 3 - 1)
    return positions.length / 3 - 1
  }
  const edge = (a: number, b: number): number =>
    lengthOfXyz(
      positions[a * 3] - positions[b * 3],
      positions[a * 3 + 1] - positions[b * 3 + 1],
      positions[a * 3 + 2] - positions[b * 3 + 2],
    )
  for (let cut = true; cut && positions.length / 3 < MOST_CORNERS;) {
    cut = false
    triangles = triangles.flatMap(([a, b, c]) => {
      const lengths = [edge(a, b), edge(b, c), edge(c, a)]
      const most = Math.max(...lengths)
      if (most <= longest || positions.length / 3 >= MOST_CORNERS) return [[a, b, c]]
      cut = true
      const turn = lengths.indexOf(most)
      const [p, q, r] = turn === 0 ? [a, b, c] : turn === 1 ? [b, c, a] : [c, a, b]
      const m = middle(p, q)
      return [
        [p, m, r],
        [m, q, r],
      ]
    })
  }
  return { positions: Float32Array.from(positions), indices: Uint32Array.from(triangles.flat()) }
}
