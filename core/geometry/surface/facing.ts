import { unit } from '../../maths/vectors.ts'
import { createRayCaster, spreadDirections, type RayCaster, type RayHit, type SidedRayCaster } from './ray-caster.ts'
import type { TriangleSoup } from '../shapes/convex-hull.ts'

export interface FacingMeasure {
  /** Share of the rays from outside that met the back of a triangle first, 0 to 1. */
  inwardShare: number
  rays: number
  /** How many of those rays each part took. */
  inwardByPart: Map<number, number>
  /** Where backs were met, a few a part. */
  spots: { part: number; point: [number, number, number] }[]
}

/** What is looked at: triangles of several parts in one space. */
export interface SeenItem extends TriangleSoup {
  partOfTriangle: Uint32Array
  /** Per triangle: 1 where a back is meant to be seen. */
  twoSided: Uint8Array
}

const DIRECTIONS = 26
const RAYS_ACROSS = 24
const EYES = 12
const MOST_SPOTS_PER_PART = 12
/** A face that lies so near behind another, as a share of the item's radius, lies in the same place: a back face. */
const SAME_PLACE = 1e-4

/**
 * Looks at the item from outside all round, with parallel rays on a grid, and counts how often a back is seen first,
 * with no front in the same place.
 * @param caster for the item's triangles, where there is one already
 *
 * @example const { inwardShare } = measureFacing(item)
 */
export const measureFacing = (item: SeenItem, caster = createRayCaster(item.positions, item.indices)): FacingMeasure =>
  tally(item, caster, (see) => lookAllRound(item.positions, caster, see))

/**
 * The same from a ring of places where a figure would stand.
 * @param eyeHeight above the item's origin
 *
 * @example const { inwardShare } = measureFacingFromEyes(item, rulebook.space.figure.eyeHeight)
 */
export const measureFacingFromEyes = (
  item: SeenItem,
  eyeHeight: number,
  caster = createRayCaster(item.positions, item.indices),
): FacingMeasure => tally(item, caster, (see) => lookFromEyes(item.positions, caster, eyeHeight, see))

/**
 * Two measures of one item as if it had been looked at once from all those places.
 * @example const all = bothMeasures(measureFacing(item), measureFacingFromEyes(item, 1.7))
 */
export function bothMeasures(first: FacingMeasure, second: FacingMeasure): FacingMeasure {
  const rays = first.rays + second.rays
  const inwardByPart = new Map(first.inwardByPart)
  for (const [part, count] of second.inwardByPart) inwardByPart.set(part, (inwardByPart.get(part) ?? 0) + count)
  const inward = [...inwardByPart.values()].reduce((sum, count) => sum + count, 0)
  const shown = new Map<number, number>()
  const spots = [...first.spots, ...second.spots].filter(({ part }) => {
    const count = (shown.get(part) ?? 0) + 1
    shown.set(part, count)
    return count <= MOST_SPOTS_PER_PART
  })
  return { inwardShare: rays === 0 ? 0 : inward / rays, rays, inwardByPart, spots }
}

function tally(item: SeenItem, caster: SidedRayCaster, look: (see: See) => void): FacingMeasure {
  const measure: FacingMeasure = { inwardShare: 0, rays: 0, inwardByPart: new Map(), spots: [] }
  if (item.indices.length === 0) return measure
  const spotsOfPart = new Map<number, number>()
  const samePlace = enclosingBall(item.positions).radius * SAME_PLACE
  let inward = 0
  look((hit, origin, direction) => {
    measure.rays++
    if (hit.front || item.twoSided[hit.triangle]) return
    if (caster.firstFrontDistance(origin, direction) < hit.distance + samePlace) return
    inward++
    const part = item.partOfTriangle[hit.triangle]
    measure.inwardByPart.set(part, (measure.inwardByPart.get(part) ?? 0) + 1)
    const known = spotsOfPart.get(part) ?? 0
    if (known >= MOST_SPOTS_PER_PART) return
    spotsOfPart.set(part, known + 1)
    measure.spots.push({ part, point: pointAlong(origin, direction, hit.distance) })
  })
  measure.inwardShare = measure.rays === 0 ? 0 : inward / measure.rays
  return measure
}

/**
 * How much of each part is seen from outside: 1 for a part that nothing hides, 0 for one that is enclosed.
 * @example const seen = measureVisibility(item, areaOfPart)
 */
export function measureVisibility(
  { positions, indices, partOfTriangle }: Omit<SeenItem, 'twoSided'>,
  areaOfPart: readonly number[],
): number[] {
  const hits = areaOfPart.map(() => 0)
  if (indices.length === 0) return hits
  const radius = lookAllRound(positions, createRayCaster(positions, indices), ({ triangle }) => {
    hits[partOfTriangle[triangle]]++
  })
  const areaOfRay = ((2 * radius) / RAYS_ACROSS) ** 2
  // A convex thing shows a quarter of its surface on average (Cauchy).
  return hits.map((count, part) =>
    Math.min(1, areaOfPart[part] > 0 ? (count * areaOfRay) / DIRECTIONS / (areaOfPart[part] / 4) : 0),
  )
}

/** Told of what each ray met first. */
type See = (hit: RayHit, origin: readonly number[], direction: readonly number[]) => void

/** Parallel rays from many sides; returns the radius of the ball that the grid covers. */
function lookAllRound(positions: Float32Array, caster: RayCaster, see: See): number {
  const { centre, radius } = enclosingBall(positions)
  for (const direction of spreadDirections(DIRECTIONS)) {
    const [side, up] = perpendicular(direction)
    for (let row = 0; row < RAYS_ACROSS; row++) {
      for (let column = 0; column < RAYS_ACROSS; column++) {
        const s = ((column + 0.5) / RAYS_ACROSS - 0.5) * 2 * radius
        const t = ((row + 0.5) / RAYS_ACROSS - 0.5) * 2 * radius
        const origin = centre.map((value, axis) => value - direction[axis] * radius * 2 + side[axis] * s + up[axis] * t)
        const hit = caster.first(origin, direction)
        if (hit) see(hit, origin, direction)
      }
    }
  }
  return radius
}

/** Rays from eyes round the item, near and a little further off, to a grid over its ball. */
function lookFromEyes(positions: Float32Array, caster: RayCaster, eyeHeight: number, see: See): void {
  const { centre, radius } = enclosingBall(positions)
  for (let eye = 0; eye < EYES; eye++) {
    const angle = (eye / EYES) * Math.PI * 2
    const away = radius * (eye % 2 === 0 ? 1.2 : 2)
    const from = [centre[0] + Math.cos(angle) * away, eyeHeight, centre[2] + Math.sin(angle) * away]
    const toward = unit(centre.map((value, axis) => value - from[axis]))
    const [side, up] = perpendicular(toward)
    for (let row = 0; row < RAYS_ACROSS; row++) {
      for (let column = 0; column < RAYS_ACROSS; column++) {
        const s = ((column + 0.5) / RAYS_ACROSS - 0.5) * 2 * radius
        const t = ((row + 0.5) / RAYS_ACROSS - 0.5) * 2 * radius
        const direction = unit(centre.map((value, axis) => value + side[axis] * s + up[axis] * t - from[axis]))
        const hit = caster.first(from, direction)
        if (hit) see(hit, from, direction)
      }
    }
  }
}

const pointAlong = (
  origin: readonly number[],
  direction: readonly number[],
  distance: number,
): [number, number, number] => [
  origin[0] + direction[0] * distance,
  origin[1] + direction[1] * distance,
  origin[2] + direction[2] * distance,
]

/**
 * A ball round all points, about the middle of their box.
 * @example enclosingBall(Float32Array.of(-1, 0, 0, 1, 0, 0)).radius // 1
 */
export function enclosingBall(positions: Float32Array): { centre: number[]; radius: number } {
  const min = [Infinity, Infinity, Infinity]
  const max = [-Infinity, -Infinity, -Infinity]
  for (let at = 0; at < positions.length; at++) {
    min[at % 3] = Math.min(min[at % 3], positions[at])
    max[at % 3] = Math.max(max[at % 3], positions[at])
  }
  const centre = min.map((value, axis) => (value + max[axis]) / 2)
  return { centre, radius: Math.hypot(...max.map((value, axis) => value - min[axis])) / 2 || 1 }
}

/**
 * Two unit vectors at right angles to a unit vector and to each other.
 * @example const [right, up] = perpendicular(direction)
 */
export function perpendicular([x, y, z]: readonly number[]): [number[], number[]] {
  const helper = Math.abs(y) < 0.9 ? [0, 1, 0] : [1, 0, 0]
  const side = unit([helper[1] * z - helper[2] * y, helper[2] * x - helper[0] * z, helper[0] * y - helper[1] * x])
  return [side, [y * side[2] - z * side[1], z * side[0] - x * side[2], x * side[1] - y * side[0]]]
}
