import { multiplyTurns } from '../../maths/turns.ts'
import { curveSize, type Curve } from '../../maths/curve.ts'

/** Share of a clip over which it is led back to where it began. */
const LED_BACK = 0.25

/**
 * The last quarter of a curve led to where it begins, slowly at first and at the end, so that it can be played over and
 * over without a jump. Each key is moved by its share of what is missing: a turn is turned on, a place moved on.
 *
 * @example const closed = closeLoop(curve)
 */
export function closeLoop(curve: Curve): Curve {
  const { path, times, interpolation } = curve
  const size = curveSize(path)
  const last = times.length - 1
  if (last < 1) return curve
  const values = curve.values.slice()
  const rows = interpolation === 'CUBICSPLINE' ? 3 : 1
  const row = (key: number): number => (key * rows + (rows === 3 ? 1 : 0)) * size
  const begins = times[last] - (times[last] - times[0]) * LED_BACK
  const first = values.slice(row(0), row(0) + size)
  const end = values.slice(row(last), row(last) + size)
  for (let key = 1; key <= last; key++) {
    const share = Math.min(1, Math.max(0, (times[key] - begins) / (times[last] - begins)))
    const eased = interpolation === 'STEP' ? Math.floor(share) : share * share * (3 - 2 * share)
    if (eased === 0) continue
    const at = row(key)
    if (path === 'rotation') values.set(ledBack(values.subarray(at, at + 4), first, end, eased), at)
    else for (let axis = 0; axis < size; axis++) values[at + axis] += (first[axis] - end[axis]) * eased
  }
  return { ...curve, values }
}

/** A turn with a share of the turn from the end to the beginning after it. */
function ledBack(turn: ArrayLike<number>, first: ArrayLike<number>, end: ArrayLike<number>, share: number): number[] {
  const inverse = [-end[0], -end[1], -end[2], end[3]]
  const missing = multiplyTurns(first, inverse)
  const sign = missing[3] < 0 ? -1 : 1
  const half = Math.acos(Math.min(1, Math.abs(missing[3])))
  const scale = half < 1e-6 ? share : Math.sin(half * share) / Math.sin(half)
  const part = [missing[0] * sign * scale, missing[1] * sign * scale, missing[2] * sign * scale, Math.cos(half * share)]
  const turned = multiplyTurns(part, turn)
  const length = Math.hypot(...turned) || 1
  return turned.map((value) => value / length)
}
