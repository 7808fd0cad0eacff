import type Physics from '@dimforge/rapier3d-compat'
import { RAPIER } from './physics-engine.ts'
import type { Rulebook } from '../../game/schema.ts'
import type { LoadedSolid } from '../check-solids.ts'
import { STEP_SECONDS, type YardMeasures } from './measures.ts'

/**
 * The collider of a solid in the scene, or in the space of a body that stands at `origin`; null for a hull without
 * extent.
 *
 * @example const collider = colliderOf(solid, rulebook, middleOf([solid]))
 */
export function colliderOf(
  solid: LoadedSolid,
  rulebook: Rulebook,
  origin: readonly number[] = [0, 0, 0],
): Physics.ColliderDesc | null {
  const description = shapeOf(solid, origin)
  if (!description) return null
  const surface = rulebook.materials.surfaces.find(({ name }) => name === solid.surface)
  return description.setFriction(surface?.friction ?? 0.6).setRestitution(surface?.bounce ?? 0)
}

/** Round shapes are the engine's own, which is what the game has; hulls and meshes are their corners. */
function shapeOf(
  { shape, half, middle, rotation, positions, indices }: LoadedSolid,
  origin: readonly number[],
): Physics.ColliderDesc | null {
  const placed = (description: Physics.ColliderDesc): Physics.ColliderDesc =>
    description
      .setTranslation(middle[0] - origin[0], middle[1] - origin[1], middle[2] - origin[2])
      .setRotation({ x: rotation[0], y: rotation[1], z: rotation[2], w: rotation[3] })
  const moved = positions.map((value, at) => value - origin[at % 3])
  switch (shape) {
    case 'box':
      return placed(
        RAPIER.ColliderDesc.cuboid(Math.max(1e-4, half[0]), Math.max(1e-4, half[1]), Math.max(1e-4, half[2])),
      )
    case 'ball':
      return placed(RAPIER.ColliderDesc.ball(Math.max(...half)))
    case 'capsule':
      return placed(RAPIER.ColliderDesc.capsule(Math.max(1e-4, half[1] - half[0]), half[0]))
    case 'cylinder':
      return placed(RAPIER.ColliderDesc.cylinder(half[1], half[0]))
    case 'hull':
      return RAPIER.ColliderDesc.convexHull(moved)
    default:
      return indices.length > 0 && Math.max(...indices) < positions.length / 3
        ? RAPIER.ColliderDesc.trimesh(moved, indices)
        : null
  }
}

/**
 * The middle of all corners of some solids: where a body made of them has its origin.
 * @example const [x, y, z] = middleOf(solids)
 */
export function middleOf(solids: readonly LoadedSolid[]): [number, number, number] {
  const low = [Infinity, Infinity, Infinity]
  const high = [-Infinity, -Infinity, -Infinity]
  for (const { positions } of solids) {
    for (let at = 0; at < positions.length; at++) {
      low[at % 3] = Math.min(low[at % 3], positions[at])
      high[at % 3] = Math.max(high[at % 3], positions[at])
    }
  }
  return low.map((value, axis) => (value + high[axis]) / 2) as [number, number, number]
}

/**
 * Half of the longest side in plan, at most one metre: how far before itself the figure holds a thing.
 * @example const reach = extentOf(solids, 1 / rulebook.space.metresPerUnit)
 */
export function extentOf(solids: readonly LoadedSolid[], unitsPerMetre: number): number {
  const middle = middleOf(solids)
  let reach = 0
  for (const { positions } of solids)
    for (let at = 0; at < positions.length; at += 3)
      reach = Math.max(reach, Math.hypot(positions[at] - middle[0], positions[at + 2] - middle[2]))
  return Math.min(unitsPerMetre, reach)
}

/**
 * The height of the lowest corner.
 * @example const height = lowestOf(solids)
 */
export function lowestOf(solids: readonly LoadedSolid[]): number {
  let low = Infinity
  for (const { positions } of solids)
    for (let at = 1; at < positions.length; at += 3) low = Math.min(low, positions[at])
  return low
}

/**
 * An empty world with the pull of the earth, stepped sixty times a second, as exact in every game's unit.
 * @example const world = newWorld(yardMeasures(rulebook))
 */
export function newWorld({ gravity, engineLength }: YardMeasures): Physics.World {
  const world = new RAPIER.World({ x: 0, y: -gravity, z: 0 })
  world.timestep = STEP_SECONDS
  world.lengthUnit = engineLength
  return world
}

/**
 * The ground with its top at a height.
 * @example world.createCollider(groundAt(yardMeasures(rulebook), 0))
 */
export function groundAt({ groundReach, unitsPerMetre }: YardMeasures, height: number): Physics.ColliderDesc {
  const half = unitsPerMetre / 2
  return RAPIER.ColliderDesc.cuboid(groundReach, half, groundReach)
    .setTranslation(0, height - half, 0)
    .setFriction(0.8)
}
