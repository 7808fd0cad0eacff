import type { Rulebook } from '../../game/schema.ts'

/** How things act in every game's yard, in metres, kilograms and seconds. */
const WALK_METRES_PER_SECOND = 4.5
const REACH_METRES = 1.6
const BALL_RADIUS_METRES = 0.14
const BALL_METRES_PER_SECOND = 17
const THROW_METRES_PER_SECOND = 6
const BLOW_NEWTON_SECONDS = 20
const FELT_NEWTONS = 30
const LOUDEST_NEWTONS = 2000
const GRAVITY_METRES = 9.81
const GROUND_REACH_METRES = 200
/** What the physics engine's own tolerances are tuned for. */
const ENGINE_LENGTH_METRES = 0.5

export const BALL_KILOGRAMS = 0.6
export const FIGURE_KILOGRAMS = 70
/** A figure lifts no more than this. */
export const MOST_LIFTED_KILOGRAMS = 60
/** What one blow takes off a thing's toughness. */
export const BLOW = 10
export const MOST_THINGS = 60
export const MOST_BALLS = 12
export const STEP_SECONDS = 1 / 60

/**
 * The same measures in the lengths of one game: speeds in units a second, impulses and forces with units for metres.
 */
export interface YardMeasures {
  unitsPerMetre: number
  walkSpeed: number
  reach: number
  ballRadius: number
  ballSpeed: number
  throwSpeed: number
  blow: number
  feltForce: number
  loudestForce: number
  gravity: number
  groundReach: number
  /** What the engine is told is an ordinary length. */
  engineLength: number
  /** How far the figure keeps off what it walks against. */
  skin: number
}

/**
 * The measures of a game's yard.
 * @example yardMeasures(rulebook).walkSpeed // units a second
 */
export function yardMeasures({ space }: Rulebook): YardMeasures {
  const unitsPerMetre = 1 / space.unit.metres
  return {
    unitsPerMetre,
    walkSpeed: WALK_METRES_PER_SECOND * unitsPerMetre,
    reach: REACH_METRES * unitsPerMetre,
    ballRadius: BALL_RADIUS_METRES * unitsPerMetre,
    ballSpeed: BALL_METRES_PER_SECOND * unitsPerMetre,
    throwSpeed: THROW_METRES_PER_SECOND * unitsPerMetre,
    blow: BLOW_NEWTON_SECONDS * unitsPerMetre,
    feltForce: FELT_NEWTONS * unitsPerMetre,
    loudestForce: LOUDEST_NEWTONS * unitsPerMetre,
    gravity: GRAVITY_METRES * unitsPerMetre,
    groundReach: GROUND_REACH_METRES * unitsPerMetre,
    engineLength: ENGINE_LENGTH_METRES * unitsPerMetre,
    skin: 0.005 * unitsPerMetre,
  }
}
