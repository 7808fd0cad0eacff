import type Physics from '@dimforge/rapier3d-compat'
import { RAPIER, startPhysics } from '../physics-engine.ts'
import type { TriangleSoup } from '../shapes/convex-hull.ts'

/** A body that comes near an item: a box or a ball, sizes in game units. */
export interface ApproachingBody {
  shape: 'box' | 'ball'
  /** Across, up and along its way. */
  size: readonly [number, number, number]
  /** Heights of its underside above the item's lowest point, from which it comes. */
  heights: readonly number[]
}

/** How near a body comes to what is seen before it touches a solid, at its worst. */
export interface Approach {
  /** How far it stands off from what is seen when it touches what is not there; 0 when it never does. */
  standsOff: number
  /** How far it gets into what is seen where no solid stops it; 0 when it never does. */
  getsInto: number
  /** Where it stands then. */
  standsOffAt: [number, number, number]
  getsIntoAt: [number, number, number]
}

const SIDES = 16
const LANES = 5

const UP = [0, 1, 0]

/**
 * Sends a body at an item from all sides, in lanes across it, once at what is seen and once at the solids, and compares
 * how far it gets. The body stays upright.
 *
 * @example const { standsOff } = await approachItem(view, solids, { shape: 'ball', size: [1, 1, 1], heights: [0] })
 */
export async function approachItem(
  view: TriangleSoup,
  solids: readonly TriangleSoup[],
  body: ApproachingBody,
): Promise<Approach> {
  await startPhysics()
  const worst: Approach = { standsOff: 0, getsInto: 0, standsOffAt: [0, 0, 0], getsIntoAt: [0, 0, 0] }
  if (view.indices.length === 0) return worst
  const worlds = [[view], solids].map(worldOf)
  try {
    const { low, high, middle, reach } = extents(view, UP)
    const distance = reach * 2 + Math.max(...body.size) * 2
    const shape =
      body.shape === 'ball'
        ? new RAPIER.Ball(body.size[1] / 2)
        : new RAPIER.Cuboid(body.size[0] / 2, body.size[1] / 2, body.size[2] / 2)
    const [right, forward] = planOf(UP)
    for (let side = 0; side < SIDES; side++) {
      const angle = (side / SIDES) * 2 * Math.PI
      const way = [0, 1, 2].map((axis) => right[axis] * Math.cos(angle) + forward[axis] * Math.sin(angle))
      const across = [0, 1, 2].map((axis) => -right[axis] * Math.sin(angle) + forward[axis] * Math.cos(angle))
      for (const height of body.heights) {
        for (let lane = 0; lane < LANES; lane++) {
          const off = (lane / (LANES - 1) - 0.5) * reach * 1.6
          const start = [0, 1, 2].map(
            (axis) =>
              middle[axis] -
              way[axis] * distance +
              across[axis] * off +
              UP[axis] * Math.min(high, low + height + body.size[1] / 2),
          )
          const [seen, solid] = worlds.map((world) => castTo(world, shape, start, way, UP, distance * 2))
          if (seen === null && solid === null) continue
          // A lane that would only graze is told by neither.
          const gap = (seen ?? distance * 2) - (solid ?? distance * 2)
          const at = (way_: number): [number, number, number] =>
            [0, 1, 2].map((axis) => start[axis] + way[axis] * way_) as [number, number, number]
          if (solid !== null && seen !== null && gap > worst.standsOff)
            Object.assign(worst, { standsOff: gap, standsOffAt: at(solid) })
          if (seen !== null && -gap > worst.getsInto)
            Object.assign(worst, { getsInto: Math.min(-gap, reach * 2), getsIntoAt: at(seen) })
        }
      }
    }
    return worst
  } finally {
    for (const world of worlds) world.free()
  }
}

function worldOf(meshes: readonly TriangleSoup[]): Physics.World {
  const world = new RAPIER.World({ x: 0, y: 0, z: 0 })
  for (const { positions, indices } of meshes)
    if (indices.length > 0) world.createCollider(RAPIER.ColliderDesc.trimesh(positions, indices))
  world.step()
  return world
}

/** How far a shape gets along a way before it touches something; null when nothing stops it. */
function castTo(
  world: Physics.World,
  shape: Physics.Shape,
  start: readonly number[],
  way: readonly number[],
  up: readonly number[],
  most: number,
): number | null {
  const hit = world.castShape(
    { x: start[0], y: start[1], z: start[2] },
    turnTo(way, up),
    { x: way[0], y: way[1], z: way[2] },
    shape,
    0,
    most,
    true,
  )
  return hit ? hit.time_of_impact : null
}

/** The turn that points a body's z along its way, upright. */
function turnTo(way: readonly number[], up: readonly number[]): { x: number; y: number; z: number; w: number } {
  // Only games with Y or Z up: the body is turned about up, by the angle of its way.
  const [right, forward] = planOf(UP)
  const angle = Math.atan2(
    way.reduce((sum, value, axis) => sum + value * right[axis], 0),
    way.reduce((sum, value, axis) => sum + value * forward[axis], 0),
  )
  const half = angle / 2
  return { x: up[0] * Math.sin(half), y: up[1] * Math.sin(half), z: up[2] * Math.sin(half), w: Math.cos(half) }
}

function planOf(up: readonly number[]): [number[], number[]] {
  return Math.abs(up[1]) > 0.5
    ? [
        [1, 0, 0],
        [0, 0, 1],
      ]
    : Math.abs(up[2]) > 0.5
      ? [
          [0, 1, 0],
          [1, 0, 0],
        ]
      : [
          [0, 1, 0],
          [0, 0, 1],
        ]
}

/** Heights along up, the middle in plan, and how far anything is from it in plan. */
function extents(
  { positions }: TriangleSoup,
  up: readonly number[],
): { low: number; high: number; middle: number[]; reach: number } {
  const plan = planOf(UP)
  const spans = [...plan, up].map((direction) => {
    let [low, high] = [Infinity, -Infinity]
    for (let at = 0; at < positions.length; at += 3) {
      const value = positions[at] * direction[0] + positions[at + 1] * direction[1] + positions[at + 2] * direction[2]
      if (value < low) low = value
      if (value > high) high = value
    }
    return { low, high }
  })
  const middle = [0, 1, 2].map((axis) =>
    plan.reduce((sum, direction, index) => sum + (direction[axis] * (spans[index].low + spans[index].high)) / 2, 0),
  )
  return {
    low: spans[2].low,
    high: spans[2].high,
    middle,
    reach: Math.hypot((spans[0].high - spans[0].low) / 2, (spans[1].high - spans[1].low) / 2),
  }
}
