import { createRayCaster, spreadDirections } from './ray-caster.ts'

export interface FacingMeasure {
  /** Share of the rays from outside that met the back of a triangle first, 0 to 1. */
  inwardShare: number
  rays: number
  /** How many of those rays each part took. */
  inwardByPart: Map<number, number>
}

const DIRECTIONS = 26
const RAYS_ACROSS = 24

/**
 * Looks at the item from outside all round, with parallel rays on a grid, and counts how often a back is seen first.
 * @param twoSided per triangle: 1 where a back is meant to be seen
 */
export function measureFacing(positions: Float32Array, indices: Uint32Array, partOfTriangle: Uint32Array, twoSided: Uint8Array): FacingMeasure {
  const measure: FacingMeasure = { inwardShare: 0, rays: 0, inwardByPart: new Map() }
  if (indices.length === 0) return measure
  const caster = createRayCaster(positions, indices)
  const { centre, radius } = enclosingBall(positions)
  let inward = 0
  for (const direction of spreadDirections(DIRECTIONS)) {
    const [side, up] = perpendicular(direction)
    for (let row = 0; row < RAYS_ACROSS; row++) {
      for (let column = 0; column < RAYS_ACROSS; column++) {
        const s = ((column + 0.5) / RAYS_ACROSS - 0.5) * 2 * radius
        const t = ((row + 0.5) / RAYS_ACROSS - 0.5) * 2 * radius
        const origin = centre.map((value, axis) => value - direction[axis] * radius * 2 + side[axis] * s + up[axis] * t)
        const hit = caster.first(origin, direction)
        if (!hit) continue
        measure.rays++
        if (hit.front || twoSided[hit.triangle]) continue
        inward++
        const part = partOfTriangle[hit.triangle]
        measure.inwardByPart.set(part, (measure.inwardByPart.get(part) ?? 0) + 1)
      }
    }
  }
  measure.inwardShare = measure.rays === 0 ? 0 : inward / measure.rays
  return measure
}

function enclosingBall(positions: Float32Array): { centre: number[]; radius: number } {
  const min = [Infinity, Infinity, Infinity]
  const max = [-Infinity, -Infinity, -Infinity]
  for (let at = 0; at < positions.length; at++) {
    min[at % 3] = Math.min(min[at % 3], positions[at])
    max[at % 3] = Math.max(max[at % 3], positions[at])
  }
  const centre = min.map((value, axis) => (value + max[axis]) / 2)
  return { centre, radius: Math.hypot(...max.map((value, axis) => value - min[axis])) / 2 || 1 }
}

function perpendicular([x, y, z]: readonly number[]): [number[], number[]] {
  const helper = Math.abs(y) < 0.9 ? [0, 1, 0] : [1, 0, 0]
  const side = [helper[1] * z - helper[2] * y, helper[2] * x - helper[0] * z, helper[0] * y - helper[1] * x]
  const length = Math.hypot(...side)
  const unit = side.map((value) => value / length)
  return [unit, [y * unit[2] - z * unit[1], z * unit[0] - x * unit[2], x * unit[1] - y * unit[0]]]
}
