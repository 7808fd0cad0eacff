/** What a curve moves: a place or a size of three numbers, or a turn as a quaternion of four. */
export type CurvePath = 'translation' | 'rotation' | 'scale'

/** One value over time, as glTF has it (glTF 2.0, section 3.11 and appendix C). */
export interface Curve {
  path: CurvePath
  /** Seconds, rising. */
  times: Float32Array
  /** 3 or 4 numbers a key; with CUBICSPLINE three times as many: way in, value, way out. */
  values: Float32Array
  interpolation: 'LINEAR' | 'STEP' | 'CUBICSPLINE'
}

/**
 * Numbers of one value of a curve.
 *
 * @example curveSize('rotation') // 4
 */
export const curveSize = (path: CurvePath): 3 | 4 => (path === 'rotation' ? 4 : 3)

/**
 * Where a curve is at a time; before its first key and after its last it stands still.
 * @param into takes the 3 or 4 numbers, at `offset`
 *
 * @example const place = valueAt(curve, 0.5, new Float64Array(3))
 */
export function valueAt<Into extends Float64Array | number[]>(
  curve: Curve,
  seconds: number,
  into: Into,
  offset = 0,
): Into {
  const { times, values, interpolation, path } = curve
  const size = curveSize(path)
  const cubic = interpolation === 'CUBICSPLINE'
  const last = times.length - 1
  const start = (key: number, row: 0 | 1 | 2): number => (cubic ? key * 3 + row : key) * size
  const at = seconds >= times[last] ? last : seconds <= times[0] ? 0 : keyBefore(times, seconds)
  const from = start(at, 1)
  const gap = at === last ? 0 : times[at + 1] - times[at]
  const share = gap > 0 ? Math.max(0, (seconds - times[at]) / gap) : 0
  if (share === 0 || interpolation === 'STEP') {
    for (let axis = 0; axis < size; axis++) into[offset + axis] = values[from + axis]
    return into
  }
  const to = start(at + 1, 1)
  if (!cubic) {
    if (path === 'rotation') turnBetween(values, from, to, share, into, offset)
    else
      for (let axis = 0; axis < size; axis++)
        into[offset + axis] = values[from + axis] + (values[to + axis] - values[from + axis]) * share
    return into
  }
  const [out, way] = [start(at, 2), start(at + 1, 0)]
  const [t, t2, t3] = [share, share ** 2, share ** 3]
  for (let axis = 0; axis < size; axis++)
    into[offset + axis] =
      (2 * t3 - 3 * t2 + 1) * values[from + axis] +
      gap * (t3 - 2 * t2 + t) * values[out + axis] +
      (3 * t2 - 2 * t3) * values[to + axis] +
      gap * (t3 - t2) * values[way + axis]
  if (path === 'rotation') makeUnit(into, offset)
  return into
}

/** The last key at or before a time that lies between the first and the last. */
function keyBefore(times: Float32Array, seconds: number): number {
  let low = 0
  let high = times.length - 1
  while (high - low > 1) {
    const middle = (low + high) >> 1
    if (times[middle] <= seconds) low = middle
    else high = middle
  }
  return low
}

function makeUnit(values: Float64Array | number[], offset: number): void {
  const length = Math.hypot(values[offset], values[offset + 1], values[offset + 2], values[offset + 3]) || 1
  for (let axis = 0; axis < 4; axis++) values[offset + axis] /= length
}

/** Spherical interpolation the short way (Shoemake 1985). */
function turnBetween(
  values: ArrayLike<number>,
  from: number,
  to: number,
  share: number,
  into: Float64Array | number[],
  offset: number,
): void {
  let cosine = 0
  for (let axis = 0; axis < 4; axis++) cosine += values[from + axis] * values[to + axis]
  const sign = cosine < 0 ? -1 : 1
  const angle = Math.acos(Math.min(1, Math.abs(cosine)))
  const [a, b] =
    angle < 1e-6
      ? [1 - share, share]
      : [Math.sin((1 - share) * angle) / Math.sin(angle), Math.sin(share * angle) / Math.sin(angle)]
  for (let axis = 0; axis < 4; axis++) into[offset + axis] = values[from + axis] * a + values[to + axis] * sign * b
  if (angle < 1e-6) makeUnit(into, offset)
}

/**
 * How far two values of a curve lie apart: a place by its length, a turn by its angle in degrees, a size by the largest
 * difference along an axis.
 *
 * @example apart('translation', [0, 0, 0], 0, [3, 4, 0], 0) // 5
 */
export function apart(path: CurvePath, a: ArrayLike<number>, atA: number, b: ArrayLike<number>, atB: number): number {
  if (path === 'translation') return Math.hypot(a[atA] - b[atB], a[atA + 1] - b[atB + 1], a[atA + 2] - b[atB + 2])
  if (path === 'scale')
    return Math.max(Math.abs(a[atA] - b[atB]), Math.abs(a[atA + 1] - b[atB + 1]), Math.abs(a[atA + 2] - b[atB + 2]))
  // By the sine of half the angle: a cosine near one tells small angles badly.
  let [same, other] = [0, 0]
  for (let axis = 0; axis < 4; axis++) {
    same += (a[atA + axis] - b[atB + axis]) ** 2
    other += (a[atA + axis] + b[atB + axis]) ** 2
  }
  return (4 * Math.asin(Math.min(1, Math.sqrt(Math.min(same, other)) / 2)) * 180) / Math.PI
}
