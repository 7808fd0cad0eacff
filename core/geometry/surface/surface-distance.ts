import { BufferAttribute, BufferGeometry, Triangle, Vector3 } from 'three'
import { MeshBVH } from 'three-mesh-bvh'
import type { TriangleSoup } from '../shapes/convex-hull.ts'
import { sampleSurface } from './sample-surface.ts'

/** A point of a surface. */
export interface NearestPoint {
  point: [number, number, number]
  distance: number
  triangle: number
}

/** Finds the nearest point of a surface, for many points. */
export interface SurfaceFinder {
  /**
   * Null where the surface is empty. `reach` leaves out what is further away; the first point that is found nearer than
   * `enough` will do.
   */
  nearest: (x: number, y: number, z: number, reach?: number, enough?: number) => NearestPoint | null
}

/** Up to so many triangles it is quicker to look at each of them. */
const FEW_TRIANGLES = 48

/**
 * A surface made ready for questions of distance (bounding volume hierarchy).
 *
 * @example const nearest = createSurfaceFinder(mesh).nearest(0, 1.5, 0)
 */
export function createSurfaceFinder({ positions, indices }: TriangleSoup): SurfaceFinder {
  if (indices.length === 0) return { nearest: () => null }
  if (indices.length <= FEW_TRIANGLES * 3) return finderOfFew({ positions, indices })
  const geometry = new BufferGeometry()
  geometry.setAttribute('position', new BufferAttribute(positions, 3))
  geometry.setIndex(new BufferAttribute(indices, 1))
  const bvh = new MeshBVH(geometry, { indirect: true })
  const place = new Vector3()
  const target = { point: new Vector3(), distance: 0, faceIndex: 0 }
  return {
    nearest(x, y, z, reach = Infinity, enough = 0) {
      const hit = bvh.closestPointToPoint(place.set(x, y, z), target, enough, reach)
      return hit
        ? { point: [hit.point.x, hit.point.y, hit.point.z], distance: hit.distance, triangle: hit.faceIndex }
        : null
    },
  }
}

function finderOfFew({ positions, indices }: TriangleSoup): SurfaceFinder {
  const triangles = Array.from({ length: indices.length / 3 }, (_, triangle) => {
    const [a, b, c] = [0, 1, 2].map((corner) => new Vector3().fromArray(positions, indices[triangle * 3 + corner] * 3))
    return new Triangle(a, b, c)
  })
  const place = new Vector3()
  const onTriangle = new Vector3()
  return {
    nearest(x, y, z, reach = Infinity, enough = 0) {
      place.set(x, y, z)
      let found: NearestPoint | null = null
      let least = reach * reach
      for (let triangle = 0; triangle < triangles.length && !(found && found.distance < enough); triangle++) {
        const apart = triangles[triangle].closestPointToPoint(place, onTriangle).distanceToSquared(place)
        if (!(apart < least)) continue
        least = apart
        found = { point: [onTriangle.x, onTriangle.y, onTriangle.z], distance: Math.sqrt(apart), triangle }
      }
      return found
    },
  }
}

/** How far two surfaces lie apart, in the units of their positions. */
export interface SurfaceDifference {
  /** Symmetric Hausdorff distance, by sampling: the worst shift anywhere. */
  worst: number
  /** Mean of the distances both ways. */
  mean: number
  /** Where the worst one is. */
  worstAt: [number, number, number]
}

/**
 * Distance between two surfaces, measured from samples of each to the whole of the other (as in Cignoni,
 * Rocchini and Scopigno 1998, “Metro”).
 *
 * @example const { worst, mean } = surfaceDifference(before, after)
 */
export function surfaceDifference(first: TriangleSoup, second: TriangleSoup, samples = 10_000): SurfaceDifference {
  const difference: SurfaceDifference = { worst: 0, mean: 0, worstAt: [0, 0, 0] }
  let sum = 0
  let count = 0
  bothWays(first, second, samples, (finder, x, y, z) => {
    const distance = finder.nearest(x, y, z)?.distance ?? 0
    sum += distance
    count++
    if (distance <= difference.worst) return
    difference.worst = distance
    difference.worstAt = [x, y, z]
  })
  difference.mean = count > 0 ? sum / count : 0
  return difference
}

/**
 * The worst shift alone, as `surfaceDifference` tells it: what lies nearer than the worst so far is not measured to its
 * end, which takes a fraction of the time.
 *
 * @example worstShift(mesh, mesh, 100) // 0
 */
export function worstShift(first: TriangleSoup, second: TriangleSoup, samples: number): number {
  let worst = 0
  bothWays(first, second, samples, (finder, x, y, z) => {
    worst = Math.max(worst, finder.nearest(x, y, z, Infinity, worst)?.distance ?? 0)
  })
  return worst
}

/**
 * Whether the worst shift is no more than a limit: told at the first place that lies further off.
 * @example if (staysWithin(source, reduced, 0.01, 300)) keep(reduced)
 */
export function staysWithin(first: TriangleSoup, second: TriangleSoup, limit: number, samples: number): boolean {
  let isWithin = true
  bothWays(first, second, samples, (finder, x, y, z) => {
    isWithin = (finder.nearest(x, y, z, Infinity, limit)?.distance ?? 0) <= limit
    return isWithin
  })
  return isWithin
}

/** Visits samples of each of two surfaces, with what finds the nearest point of the other, until it says `false`. */
function bothWays(
  first: TriangleSoup,
  second: TriangleSoup,
  samples: number,
  visit: (other: SurfaceFinder, x: number, y: number, z: number) => boolean | void,
): void {
  for (const [from, to] of [
    [first, second],
    [second, first],
  ] as const) {
    const finder = createSurfaceFinder(to)
    const { points } = sampleSurface(from.positions, from.indices, samples)
    for (let at = 0; at < points.length; at += 3)
      if (visit(finder, points[at], points[at + 1], points[at + 2]) === false) return
  }
}

/**
 * Distance of each corner of a mesh from a surface: what an error map colours.
 * @example const shift = Math.max(...cornerDistances(reduced.positions, createSurfaceFinder(source)))
 */
export function cornerDistances(positions: Float32Array, surface: SurfaceFinder): Float32Array {
  const distances = new Float32Array(positions.length / 3)
  for (let corner = 0; corner < distances.length; corner++) {
    distances[corner] =
      surface.nearest(positions[corner * 3], positions[corner * 3 + 1], positions[corner * 3 + 2])?.distance ?? 0
  }
  return distances
}
