import RAPIER from '@dimforge/rapier3d-compat'
import type { Rulebook } from '../../rulebook/schema.ts'
import type { LoadedSolid } from '../check-solids.ts'

let ready: Promise<void> | null = null

/** Loads the physics engine once. */
export function startPhysics(): Promise<void> {
  ready ??= RAPIER.init()
  return ready
}

/** The collider of a solid in the scene, or in the space of a body that stands at `origin`; null for a hull without extent. */
export function colliderOf(solid: LoadedSolid, rulebook: Rulebook, origin: readonly number[] = [0, 0, 0]): RAPIER.ColliderDesc | null {
  const description = shapeOf(solid, origin)
  if (!description) return null
  const surface = rulebook.materials.surfaces.find(({ name }) => name === solid.surface)
  return description.setFriction(surface?.friction ?? 0.6).setRestitution(surface?.bounce ?? 0)
}

/** Round shapes are the engine's own, which is what the game has; hulls and meshes are their corners. */
function shapeOf({ shape, half, middle, rotation, positions, indices }: LoadedSolid, origin: readonly number[]): RAPIER.ColliderDesc | null {
  const placed = (description: RAPIER.ColliderDesc): RAPIER.ColliderDesc =>
    description.setTranslation(middle[0] - origin[0], middle[1] - origin[1], middle[2] - origin[2]).setRotation({ x: rotation[0], y: rotation[1], z: rotation[2], w: rotation[3] })
  const moved = positions.map((value, at) => value - origin[at % 3])
  switch (shape) {
    case 'box':
      return placed(RAPIER.ColliderDesc.cuboid(Math.max(1e-4, half[0]), Math.max(1e-4, half[1]), Math.max(1e-4, half[2])))
    case 'ball':
      return placed(RAPIER.ColliderDesc.ball(Math.max(...half)))
    case 'capsule':
      return placed(RAPIER.ColliderDesc.capsule(Math.max(1e-4, half[1] - half[0]), half[0]))
    case 'cylinder':
      return placed(RAPIER.ColliderDesc.cylinder(half[1], half[0]))
    case 'hull':
      return RAPIER.ColliderDesc.convexHull(moved)
    default:
      return indices.length > 0 && Math.max(...indices) < positions.length / 3 ? RAPIER.ColliderDesc.trimesh(moved, indices) : null
  }
}

/** The middle of all corners of some solids: where a body made of them has its origin. */
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

/** How far the lowest corner lies along up. */
export function lowestOf(solids: readonly LoadedSolid[], up: readonly number[]): number {
  let low = Infinity
  for (const { positions } of solids) for (let at = 0; at < positions.length; at += 3) low = Math.min(low, positions[at] * up[0] + positions[at + 1] * up[1] + positions[at + 2] * up[2])
  return low
}

/** Up as a unit vector. */
export function upOf({ space }: Rulebook): [number, number, number] {
  const up: [number, number, number] = [0, 0, 0]
  up['xyz'.indexOf(space.up[1])] = space.up[0] === '-' ? -1 : 1
  return up
}

/** Metres per second squared at the lake. */
const GRAVITY = 9.81

/** Gravity in game units. */
export function gravityOf(rulebook: Rulebook): { x: number; y: number; z: number } {
  const [x, y, z] = upOf(rulebook).map((value) => -value * (GRAVITY / rulebook.space.unit.metres))
  return { x, y, z }
}

/** Half the side of the ground. */
const GROUND_REACH = 400

/** The ground, its top at a height along up. */
export function groundAt(rulebook: Rulebook, height: number): RAPIER.ColliderDesc {
  const up = upOf(rulebook)
  const half = up.map((value) => (value === 0 ? GROUND_REACH : 1))
  return RAPIER.ColliderDesc.cuboid(half[0], half[1], half[2]).setTranslation(up[0] * (height - 1), up[1] * (height - 1), up[2] * (height - 1)).setFriction(0.8)
}

export const STEP_SECONDS = 1 / 60
