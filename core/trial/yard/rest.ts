import { RAPIER, startPhysics } from './physics-engine.ts'
import type { Rulebook } from '../../game/schema.ts'
import type { LoadedSolid } from '../check-solids.ts'
import { colliderOf, groundAt, lowestOf, middleOf, newWorld } from './colliders.ts'
import { STEP_SECONDS, yardMeasures } from './measures.ts'

/** What becomes of a loose thing that is put down or dropped. */
export interface RestResult {
  verdict: 'rests' | 'topples' | 'jitters' | 'sinks'
  /** When it came to rest; null when it did not in the time given. */
  seconds: number | null
  turnedDegrees: number
  /** How far its lowest point ended above the ground; negative when it sank in. */
  endHeight: number
}

const LONGEST_SECONDS = 8
/** Speeds below which a thing counts as still, and for how long. */
const STILL_METRES_PER_SECOND = 0.025
const STILL_RADIANS_PER_SECOND = 0.05
const STILL_SECONDS = 0.3
/** A thing turned by more than this has fallen over. */
const TOPPLED_DEGREES = 30
/** How deep a thing may stand in the ground. */
const SUNK_METRES = 0.05

/**
 * Lets a loose thing fall from a height and tells whether it comes to rest as it was put.
 * @param solids of one thing, in the scene
 * @param dropHeight in game units, above where it stands on the ground
 *
 * @example const { verdict } = await restOf(solids, rulebook, 2)
 */
export async function restOf(
  solids: readonly LoadedSolid[],
  rulebook: Rulebook,
  dropHeight: number,
): Promise<RestResult> {
  await startPhysics()
  const measures = yardMeasures(rulebook)
  const world = newWorld(measures)
  try {
    world.createCollider(groundAt(measures, 0))
    const middle = middleOf(solids)
    const lift = dropHeight - lowestOf(solids)
    const body = world.createRigidBody(
      RAPIER.RigidBodyDesc.dynamic()
        .setTranslation(middle[0], middle[1] + lift, middle[2])
        .setCanSleep(false),
    )
    for (const solid of solids) {
      const description = colliderOf(solid, rulebook, middle)
      if (description) world.createCollider(description.setMass(Math.max(0.01, solid.massKilograms ?? 1)), body)
    }
    let still = 0
    let seconds: number | null = null
    for (let step = 0; step < LONGEST_SECONDS / STEP_SECONDS; step++) {
      world.step()
      const [speed, spin] = [body.linvel(), body.angvel()]
      const quiet =
        Math.hypot(speed.x, speed.y, speed.z) < STILL_METRES_PER_SECOND * measures.unitsPerMetre &&
        Math.hypot(spin.x, spin.y, spin.z) < STILL_RADIANS_PER_SECOND
      still = quiet ? still + STEP_SECONDS : 0
      if (still >= STILL_SECONDS) {
        seconds = Number(((step + 1) * STEP_SECONDS - still).toFixed(3))
        break
      }
    }
    const { x, y, z, w } = body.rotation()
    const lean = leanOf([x, y, z, w])
    const at = body.translation()
    const endHeight = lowestAfter(solids, middle, [at.x, at.y, at.z], [x, y, z, w])
    const verdict =
      endHeight < -SUNK_METRES * measures.unitsPerMetre
        ? 'sinks'
        : lean > TOPPLED_DEGREES
          ? 'topples'
          : seconds === null
            ? 'jitters'
            : 'rests'
    return { verdict, seconds, turnedDegrees: lean, endHeight }
  } finally {
    world.free()
  }
}

function turn([x, y, z, w]: readonly number[], v: readonly number[]): number[] {
  const t = [2 * (y * v[2] - z * v[1]), 2 * (z * v[0] - x * v[2]), 2 * (x * v[1] - y * v[0])]
  return [
    v[0] + w * t[0] + y * t[2] - z * t[1],
    v[1] + w * t[1] + z * t[0] - x * t[2],
    v[2] + w * t[2] + x * t[1] - y * t[0],
  ]
}

/** How far its own up leans from up, in degrees. */
function leanOf(rotation: readonly number[]): number {
  const [, height] = turn(rotation, [0, 1, 0])
  return (Math.acos(Math.max(-1, Math.min(1, height))) * 180) / Math.PI
}

function lowestAfter(
  solids: readonly LoadedSolid[],
  middle: readonly number[],
  at: readonly number[],
  rotation: readonly number[],
): number {
  let low = Infinity
  for (const { positions } of solids) {
    for (let corner = 0; corner < positions.length; corner += 3) {
      const placed = turn(rotation, [
        positions[corner] - middle[0],
        positions[corner + 1] - middle[1],
        positions[corner + 2] - middle[2],
      ])
      low = Math.min(low, placed[1] + at[1])
    }
  }
  return low
}
