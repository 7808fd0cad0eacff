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

/**
 * Puts the keys of a curve on a grid of so many a second and leaves out those that the others give within the error
 * (splitting where it is largest: Douglas & Peucker 1973, over time). The error is measured at all old keys and between
 * them, so that it holds at any time. Where the curve is faster than the grid the error is larger than allowed, and told.
 * Jumps stay jumps, at the nearest time of the grid.
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
  const straight: Curve = {
    path: curve.path,
    times: new Float32Array(2),
    values: new Float32Array(2 * size),
    interpolation: 'LINEAR',
  }
  const between = new Float64Array(size)
  let largestError = 0
  let worstAt = grid[0]
  while (stretches.length > 0) {
    const [from, to] = stretches.pop() as [number, number]
    straight.times[0] = grid[from]
    straight.times[1] = grid[to]
    straight.values.set(onGrid.values.subarray(from * size, (from + 1) * size), 0)
    straight.values.set(onGrid.values.subarray(to * size, (to + 1) * size), size)
    let error = 0
    let where = grid[from]
    for (let look = firstAfter(looks.seconds, grid[from]); looks.seconds[look] < grid[to]; look++) {
      valueAt(straight, looks.seconds[look], between)
      const off = apart(curve.path, between, 0, looks.values, look * size)
      if (off <= error) continue
      error = off
      where = looks.seconds[look]
    }
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

/** Times from the first to the last, so many a second; the last stays where it is. */
function gridOf([first, last]: readonly [number, number], keysPerSecond: number): Float32Array {
  const steps = Math.max(1, Math.floor((last - first) * keysPerSecond + 1e-4))
  // Stretched to end at the last key: a little slower than the rate, never faster.
  return Float32Array.from({ length: steps + 1 }, (_, step) => first + ((last - first) * step) / steps)
}

/** Times at which the curve is compared, with its values: its own keys, and what lies between. */
function looksOf(curve: Curve, grid: Float32Array): { seconds: Float64Array; values: Float64Array } {
  const pieces = curve.interpolation === 'CUBICSPLINE' ? LOOKS_BETWEEN_KEYS : 2
  const own = curve.times
  const seconds: number[] = []
  for (let key = 0; key < own.length; key++)
    for (let piece = 0; piece < (key + 1 < own.length ? pieces : 1); piece++)
      seconds.push(own[key] + (((own[key + 1] ?? own[key]) - own[key]) * piece) / pieces)
  for (let step = 0; step + 1 < grid.length; step++) seconds.push((grid[step] + grid[step + 1]) / 2)
  const sorted = Float64Array.from(seconds).sort()
  const size = curveSize(curve.path)
  const values = new Float64Array(sorted.length * size)
  for (let at = 0; at < sorted.length; at++) valueAt(curve, sorted[at], values, at * size)
  return { seconds: sorted, values }
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
