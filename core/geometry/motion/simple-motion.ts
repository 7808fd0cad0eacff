import type { Curve } from '../../maths/curve.ts'
import { multiplyTurns } from '../../maths/turns.ts'
import { unit, type Vector3 } from '../../maths/vectors.ts'

export const simpleWays = ['there-and-back', 'swing', 'open-and-close', 'turn'] as const

/** A motion of one thing that comes round again. */
export interface SimpleMotion {
  /** Along a line and back; to both sides; to one side and back; once round. */
  way: (typeof simpleWays)[number]
  /** The line, or what it turns about, in the space of what it hangs on. */
  axis: Vector3
  /** How far it goes along the line. */
  distance: number
  /** How far it turns to one side; a whole turn is always 360°. */
  angleDegrees: number
  seconds: number
  /** As fast all the way, or slower towards its ends. */
  easing: 'even' | 'soft'
  /** At which share of its round it is at 0 s. */
  begins: number
}

/**
 * The curve of a simple motion, with keys at an even rate; its end is its beginning.
 * @param rest where the thing stands without it: a place, or a turn as a quaternion
 *
 * @example simpleCurve({ way: 'swing', axis: [0, 1, 0], angleDegrees: 40, seconds: 4, … }, rest, 30)
 */
export function simpleCurve(
  motion: SimpleMotion,
  rest: { translation: readonly number[]; rotation: readonly number[] },
  keysPerSecond: number,
): Curve {
  const steps = Math.max(4, Math.ceil(motion.seconds * keysPerSecond))
  const times = Float32Array.from({ length: steps + 1 }, (_, key) => (motion.seconds * key) / steps)
  const axis = unit(motion.axis)
  const moves = motion.way === 'there-and-back'
  const values = Array.from({ length: steps + 1 }, (_, key) => {
    // The last key is the first, not nearly so.
    const amount = amountAt(motion, ((key % steps) / steps + motion.begins) % 1)
    if (moves) return rest.translation.map((value, at) => value + axis[at] * amount * motion.distance)
    const half = (amount * (motion.way === 'turn' ? 360 : motion.angleDegrees) * Math.PI) / 360
    return multiplyTurns(
      [axis[0] * Math.sin(half), axis[1] * Math.sin(half), axis[2] * Math.sin(half), Math.cos(half)],
      rest.rotation,
    )
  })
  return {
    path: moves ? 'translation' : 'rotation',
    times,
    values: Float32Array.from(values.flat()),
    interpolation: 'LINEAR',
  }
}

/** How far along it is at a share of its round: 0 to 1, or −1 to 1 for what swings to both sides. */
function amountAt({ way, easing }: SimpleMotion, share: number): number {
  if (way === 'turn') return easing === 'soft' ? soft(share) : share
  if (way === 'swing') {
    if (easing === 'soft') return Math.sin(2 * Math.PI * share)
    return share < 0.25 ? 4 * share : share < 0.75 ? 2 - 4 * share : 4 * share - 4
  }
  const there = share < 0.5 ? 2 * share : 2 - 2 * share
  return easing === 'soft' ? soft(there) : there
}

const soft = (share: number): number => share * share * (3 - 2 * share)
