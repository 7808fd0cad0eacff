import { apart, curveSize, valueAt, type Curve } from '../../maths/curve.ts'

/** A curve with fewer keys, and how far it leaves the one before. */
export interface ThinnedKeys {
  curve: Curve
  /** The largest distance between both at any time: game units, degrees, or parts of one. */
  largestError: number
  /** Seconds at which they are so far apart. */
  worstAt: number
}

/** Splits of one stretch look through all its times again: longer ones are cut first. */
const LONGEST_STRETCH = 512
/** A curve with a way in and out is looked at so many times between two keys. */
const LOOKS_BETWEEN_KEYS = 32
const DENSE = 4

/**
 * Puts the keys of a curve on a grid of so many a second and leaves out those that the others give within the error
 * (splitting where it is largest: Douglas & Peucker 1973, over time). The error is measured at all old keys and between
 * them, so that it holds at any time. Where the curve is faster than the grid the error is larger than allowed, and
 * told. Jumps stay jumps, at the nearest time of the grid.
 * @param allowed in game units, degrees, or parts of one
 * @param span seconds over which the grid lies; curves of one thing share it, so that their keys stand at the same times
 *
 * @example thinKeys(curve, { keysPerSecond: 30, allowed: 0.1 }).curve.times.length
 */
export function thinKeys(
  curve: Curve,
  { keysPerSecond, allowed, span }: { keysPerSecond: number; allowed: number; span?: readonly [number, number] },
): ThinnedKeys {
  if (curve.times.length < 2) return { curve, largestError: 0, worstAt: curve.times[0] ?? 0 }
  const grid = gridOf(span ?? [curve.times[0], curve.times[curve.times.length - 1]], keysPerSecond)
  if (curve.interpolation === 'STEP') return thinJumps(curve, grid)
  const size = curveSize(curve.path)
  const values = new Float64Array(grid.length * size)
  for (let at = 0; at < grid.length; at++) valueAt(curve, grid[at], values, at * size)
  const looks = looksOf(curve, grid)
  const onGrid: Curve = { path: curve.path, times: grid, values: Float32Array.from(values), interpolation: 'LINEAR' }
  const kept = new Uint8Array(grid.length)
  kept[0] = kept[grid.length - 1] = 1
  const stretches: [number, number][] = []
  for (let from = 0; from < grid.length - 1; from += LONGEST_STRETCH) {
    const to = Math.min(grid.length - 1, from + LONGEST_STRETCH)
    kept[from] = kept[to] = 1
    stretches.push([from, to])
  }
  let largestError = 0
  let worstAt = grid[0]
  while (stretches.length > 0) {
    const [from, to] = stretches.pop() as [number, number]
    const { error, where } =
      to - from > 1 && turnsWide(onGrid, from, to)
        ? { error: Infinity, where: (grid[from] + grid[to]) / 2 }
        : worstOf(onGrid, from, to, looks)
    if (error > allowed && to - from > 1) {
      const middle = Math.min(to - 1, Math.max(from + 1, nearestIn(grid, where, from, to)))
      kept[middle] = 1
      stretches.push([from, middle], [middle, to])
    } else if (error > largestError) {
      largestError = error
      worstAt = where
    }
  }
  return { curve: keptKeys(onGrid, kept), largestError, worstAt }
}

/** Cosine of half the turn between two keys at the most, 120°. */
const LEAST_COSINE = 0.5

/**
 * Whether two keys lie so far round from each other that rounding may send who plays them the other way: half a turn
 * has two shortest ways.
 */
function turnsWide({ path, values }: Curve, from: number, to: number): boolean {
  if (path !== 'rotation') return false
  let cosine = 0
  for (let axis = 0; axis < 4; axis++) cosine += values[from * 4 + axis] * values[to * 4 + axis]
  return Math.abs(cosine) < LEAST_COSINE
}

/** Times from the first to the last, so many a second; the last stays where it is. */
function gridOf([first, last]: readonly [number, number], keysPerSecond: number): Float32Array {
  const steps = Math.max(1, Math.floor((last - first) * keysPerSecond + 1e-4))
  // Stretched to end at the last key: a little slower than the rate, never faster.
  return Float32Array.from({ length: steps + 1 }, (_, step) => first + ((last - first) * step) / steps)
}

interface Looks {
  /** Rising. */
  seconds: Float64Array
  values: Float64Array
}

/**
 * Times at which the curve is compared, with its values. What is straight between keys is furthest off at a key; turns
 * and curves are looked at in between as well.
 */
function looksOf(curve: Curve, grid: Float32Array): Looks {
  const [first, last] = [grid[0], grid[grid.length - 1]]
  const { times, path, interpolation } = curve
  // Between keys much denser than the grid there is nothing more to see.
  const isDense = times.length > grid.length * DENSE
  const pieces = interpolation === 'CUBICSPLINE' ? LOOKS_BETWEEN_KEYS : path === 'rotation' && !isDense ? 2 : 1
  const size = curveSize(path)
  const ahead = times[0] > first ? 1 : 0
  const behind = times[times.length - 1] < last ? 1 : 0
  const count = ahead + (times.length - 1) * pieces + 1 + behind
  const seconds = new Float64Array(count)
  seconds[0] = first
  for (let key = 0, at = ahead; key < times.length; key++) {
    const gap = key + 1 < times.length ? times[key + 1] - times[key] : 0
    for (let piece = 0; piece < (key + 1 < times.length ? pieces : 1); piece++)
      seconds[at++] = times[key] + (gap * piece) / pieces
  }
  if (behind) seconds[count - 1] = last
  const values = new Float64Array(count * size)
  const straight = interpolation === 'LINEAR' && pieces === 1
  // Keys of a straight curve are their own values; anything else is worked out.
  if (straight && !ahead && !behind) values.set(curve.values)
  else for (let at = 0; at < count; at++) valueAt(curve, seconds[at], values, at * size)
  return { seconds, values }
}

/** Where between two keys the straight way lies furthest from the curve, and how far. */
function worstOf(
  { path, times, values }: Curve,
  from: number,
  to: number,
  looks: Looks,
): { error: number; where: number } {
  const size = curveSize(path)
  const [a, b] = [from * size, to * size]
  const [start, end] = [times[from], times[to]]
  let dot = 0
  for (let axis = 0; axis < size; axis++) dot += values[a + axis] * values[b + axis]
  const sign = path === 'rotation' && dot < 0 ? -1 : 1
  const angle = path === 'rotation' ? Math.acos(Math.min(1, Math.abs(dot))) : 0
  const sine = Math.sin(angle)
  let most = -1
  let worst = -1
  for (let look = firstAfter(looks.seconds, start); looks.seconds[look] < end; look++) {
    const share = (looks.seconds[look] - start) / (end - start)
    // Spherical between turns (Shoemake 1985), straight between all else.
    const one = angle < 1e-6 ? 1 - share : Math.sin((1 - share) * angle) / sine
    const other = (angle < 1e-6 ? share : Math.sin(share * angle) / sine) * sign
    const at = look * size
    let off = 0
    let opposite = 0
    for (let axis = 0; axis < size; axis++) {
      const value = values[a + axis] * one + values[b + axis] * other
      const difference = value - looks.values[at + axis]
      if (path === 'scale') off = Math.max(off, Math.abs(difference))
      else off += difference * difference
      if (path === 'rotation') opposite += (value + looks.values[at + axis]) ** 2
    }
    if (path === 'rotation' && opposite < off) off = opposite
    if (off <= most) continue
    most = off
    worst = look
  }
  if (worst < 0) return { error: 0, where: start }
  const straight = Float64Array.from({ length: size }, (_, axis) => values[a + axis])
  const stretch: Curve = {
    path,
    times: Float32Array.from([start, end]),
    values: Float32Array.from([...values.subarray(a, a + size), ...values.subarray(b, b + size)]),
    interpolation: 'LINEAR',
  }
  valueAt(stretch, looks.seconds[worst], straight)
  return { error: apart(path, straight, 0, looks.values, worst * size), where: looks.seconds[worst] }
}

function firstAfter(sorted: Float64Array, seconds: number): number {
  let low = 0
  let high = sorted.length
  while (low < high) {
    const middle = (low + high) >> 1
    if (sorted[middle] > seconds) high = middle
    else low = middle + 1
  }
  return low
}

function nearestIn(grid: Float32Array, seconds: number, from: number, to: number): number {
  let low = from
  let high = to
  while (high - low > 1) {
    const middle = (low + high) >> 1
    if (grid[middle] <= seconds) low = middle
    else high = middle
  }
  return seconds - grid[low] < grid[high] - seconds ? low : high
}

function thinJumps(curve: Curve, grid: Float32Array): ThinnedKeys {
  const size = curveSize(curve.path)
  const values = new Float64Array(grid.length * size)
  const kept = new Uint8Array(grid.length)
  const half = grid.length > 1 ? (grid[1] - grid[0]) / 2 : 0
  for (let at = 0; at < grid.length; at++) {
    // What is jumped to within half a step after it counts for it.
    valueAt(curve, at === 0 ? grid[0] : grid[at] + half * 0.999, values, at * size)
    kept[at] =
      at === 0 || at === grid.length - 1 || apart(curve.path, values, at * size, values, (at - 1) * size) > 1e-6 ? 1 : 0
  }
  const onGrid: Curve = { ...curve, times: grid, values: Float32Array.from(values) }
  return { curve: keptKeys(onGrid, kept), largestError: 0, worstAt: grid[0] }
}

function keptKeys({ path, times, values, interpolation }: Curve, kept: Uint8Array): Curve {
  const size = curveSize(path)
  const keys = [...kept.keys()].filter((key) => kept[key] === 1)
  const own = new Float32Array(keys.length * size)
  keys.forEach((key, at) => own.set(values.subarray(key * size, (key + 1) * size), at * size))
  return { path, times: Float32Array.from(keys, (key) => times[key]), values: own, interpolation }
}
