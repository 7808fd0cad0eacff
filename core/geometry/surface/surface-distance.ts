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
const FEW_TRIANGLES = 400

/**
 * A surface made ready for questions of distance (bounding volume hierarchy).
 *
 * @example const nearest = createSurfaceFinder(mesh).nearest(0, 1.5, 0)
 */
export function createSurfaceFinder({ positions, indices }: TriangleSoup): SurfaceFinder {
  if (indices.length === 0) return { nearest: () => null }
  if (indices.length <= FEW_TRIANGLES * 3) return finderOfFew({ positions, indices })
  const geometry = new BufferGeometry()
  const corners = new BufferAttribute(positions, 3)
  geometry.setAttribute('position', corners)
  geometry.setIndex(new BufferAttribute(indices, 1))
  const bvh = new MeshBVH(geometry, { indirect: true })
  const place = new Vector3()
  const target = { point: new Vector3(), distance: 0, faceIndex: 0 }
  const lastAsked = new Triangle()
  const onLast = new Vector3()
  let last = 0
  return {
    nearest(x, y, z, reach = Infinity, enough = 0) {
      place.set(x, y, z)
      // Places that are asked about one after another lie near each other mostly: the triangle found last bounds this.
      lastAsked.setFromAttributeAndIndices(corners, indices[last * 3], indices[last * 3 + 1], indices[last * 3 + 2])
      const distance = lastAsked.closestPointToPoint(place, onLast).distanceTo(place)
      // A triangle without area may tell no distance, which bounds nothing.
      const fallback: NearestPoint | null =
        distance <= reach ? { point: onLast.toArray(), distance, triangle: last } : null
      if (fallback && distance < enough) return fallback
      const hit = bvh.closestPointToPoint(place, target, enough, fallback ? distance : reach)
      if (!hit || (fallback && hit.distance >= distance)) return fallback
      last = hit.faceIndex
      return { point: hit.point.toArray(), distance: hit.distance, triangle: last }
    },
  }
}

/** Asks each triangle whose box lies nearer than what was found so far. */
function finderOfFew({ positions, indices }: TriangleSoup): SurfaceFinder {
  const boxes = triangleBoxes(positions, indices)
  const asked = new Triangle()
  const place = new Vector3()
  const onTriangle = new Vector3()
  // Places that are asked about one after another lie near each other mostly: looked at from where the last one was.
  let first = 0
  return {
    nearest(x, y, z, reach = Infinity, enough = 0) {
      place.set(x, y, z)
      let found: NearestPoint | null = null
      let least = reach * reach
      const from = first
      let at = from - 3
      for (let left = indices.length; left > 0 && !(found && found.distance < enough); left -= 3) {
        at = at + 3 === indices.length ? 0 : at + 3
        if (!(squaredToBox(boxes, at * 2, x, y, z) < least)) continue
        asked.a.fromArray(positions, indices[at] * 3)
        asked.b.fromArray(positions, indices[at + 1] * 3)
        asked.c.fromArray(positions, indices[at + 2] * 3)
        const apart = asked.closestPointToPoint(place, onTriangle).distanceToSquared(place)
        if (!(apart < least)) continue
        least = apart
        first = at
        found = { point: [onTriangle.x, onTriangle.y, onTriangle.z], distance: Math.sqrt(apart), triangle: at / 3 }
      }
      return found
    },
  }
}

/** Least x, y and z and largest x, y and z of each triangle: 6 floats a triangle. */
function triangleBoxes(positions: Float32Array, indices: Uint32Array): Float32Array {
  const boxes = new Float32Array(indices.length * 2)
  for (let at = 0; at < indices.length; at += 3)
    for (let axis = 0; axis < 3; axis++) {
      const a = positions[indices[at] * 3 + axis]
      const b = positions[indices[at + 1] * 3 + axis]
      const c = positions[indices[at + 2] * 3 + axis]
      boxes[at * 2 + axis] = Math.min(a, b, c)
      boxes[at * 2 + 3 + axis] = Math.max(a, b, c)
    }
  return boxes
}

/** Squared distance of a place from a box, which is 0 within it. */
function squaredToBox(boxes: Float32Array, at: number, x: number, y: number, z: number): number {
  const dx = outsideSpan(x, boxes[at], boxes[at + 3])
  const dy = outsideSpan(y, boxes[at + 1], boxes[at + 4])
  const dz = outsideSpan(z, boxes[at + 2], boxes[at + 5])
  return dx * dx + dy * dy + dz * dz
}

const outsideSpan = (value: number, least: number, most: number): number =>
  value < least ? least - value : value > most ? value - most : 0

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
  bothWays(sampledSurface(first, samples), sampledSurface(second, samples), (finder, x, y, z) => {
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
export const worstShift = (first: TriangleSoup, second: TriangleSoup, samples: number): number =>
  worstShiftBetween(sampledSurface(first, samples), sampledSurface(second, samples))

/** A surface made ready to be measured against others: made once for as many as there are. */
export interface SampledSurface {
  /** 3 floats a place. */
  points: Float32Array
  /** Made when it is first asked for. */
  finder: () => SurfaceFinder
}

/**
 * A surface with so many places on it, for being measured against several others.
 *
 * @example worstShiftBetween(sampledSurface(mesh, 100), sampledSurface(mesh, 100)) // 0
 */
export function sampledSurface(soup: TriangleSoup, samples: number): SampledSurface {
  let finder: SurfaceFinder | null = null
  return {
    points: sampleSurface(soup.positions, soup.indices, samples).points,
    finder: () => (finder ??= createSurfaceFinder(soup)),
  }
}

/**
 * The worst shift between two surfaces that were made ready.
 *
 * @example const shift = worstShiftBetween(source, sampledSurface(reduced, 300))
 */
export function worstShiftBetween(first: SampledSurface, second: SampledSurface): number {
  let worst = 0
  bothWays(first, second, (finder, x, y, z) => {
    worst = Math.max(worst, finder.nearest(x, y, z, Infinity, worst)?.distance ?? 0)
  })
  return worst
}

/**
 * The typical shift between two surfaces that were made ready: the root of the mean square of the distances, of the way
 * that has more of it. A leaf that is gone counts by its area, where the worst shift would count as if all were.
 *
 * @example const shift = typicalShiftBetween(source, sampledSurface(reduced, 150))
 */
export const typicalShiftBetween = (first: SampledSurface, second: SampledSurface): number =>
  Math.sqrt(Math.max(meanSquare(first, second), meanSquare(second, first)))

function meanSquare({ points }: SampledSurface, to: SampledSurface): number {
  let sum = 0
  visitSamples(points, to, (finder, x, y, z) => {
    sum += (finder.nearest(x, y, z)?.distance ?? 0) ** 2
  })
  return sum / Math.max(1, points.length / 3)
}

/**
 * Whether the worst shift is no more than a limit: told at the first place that lies further off.
 * @example if (staysWithin(source, sampledSurface(reduced, 300), 0.01)) keep(reduced)
 */
export function staysWithin(first: SampledSurface, second: SampledSurface, limit: number): boolean {
  let isWithin = true
  bothWays(first, second, (finder, x, y, z) => {
    isWithin = (finder.nearest(x, y, z, Infinity, limit)?.distance ?? 0) <= limit
    return isWithin
  })
  return isWithin
}

type Visit = (other: SurfaceFinder, x: number, y: number, z: number) => boolean | void

/** Visits samples of each of two surfaces, with what finds the nearest point of the other, until it says `false`. */
function bothWays(first: SampledSurface, second: SampledSurface, visit: Visit): void {
  if (visitSamples(first.points, second, visit)) visitSamples(second.points, first, visit)
}

/** Whether all were visited. */
function visitSamples(points: Float32Array, to: SampledSurface, visit: Visit): boolean {
  const finder = to.finder()
  for (let at = 0; at < points.length; at += 3)
    if (visit(finder, points[at], points[at + 1], points[at + 2]) === false) return false
  return true
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
