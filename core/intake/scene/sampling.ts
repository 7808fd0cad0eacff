import { decomposeMatrix, keepNear, type Matrix } from '../../maths/matrices.ts'
import { nearTurn } from '../../maths/turns.ts'
import { fillGaps, leavesRest } from '../../item/motion-at.ts'
import type { SourceNode, SourceTrack } from './source-scene.ts'

/** One number over time. */
export interface Curve {
  /** Seconds, rising. */
  times: ArrayLike<number>
  values: ArrayLike<number>
}

const MOST_KEYS = 20_000

/**
 * The union of all key times, with long gaps filled, so that turns of more than half a circle stay right.
 * @example const times = sampleTimes(curves.map((curve) => curve.times))
 */
export function sampleTimes(keyTimes: readonly ArrayLike<number>[]): number[] {
  const all = new Set<number>()
  for (const times of keyTimes)
    for (let key = 0; key < Math.min(times.length, MOST_KEYS); key++)
      if (Number.isFinite(times[key])) all.add(times[key])
  const keys = [...all].sort((a, b) => a - b).slice(0, MOST_KEYS)
  return fillGaps(keys)
}

/**
 * A curve's value, straight between keys and still beyond its ends.
 * @example valueAt({ times: [0, 2], values: [10, 20] }, 1) // 15
 */
export function valueAt({ times, values }: Curve, time: number): number {
  let low = 0
  let high = times.length - 1
  if (time <= times[0]) return values[0]
  if (time >= times[high]) return values[high]
  while (high - low > 1) {
    const middle = (low + high) >> 1
    if (times[middle] <= time) low = middle
    else high = middle
  }
  const share = (time - times[low]) / (times[high] - times[low] || 1)
  return values[low] + (values[high] - values[low]) * share
}

/**
 * Tracks of a node whose place is known at each time; parts of it that stay as the node has them have none.
 * The glTF clock has no negative times: motion that begins before zero is moved.
 *
 * @example const tracks = tracksOf(node, times, (seconds) => placeAt(node, seconds))
 */
export function tracksOf(
  node: SourceNode,
  times: readonly number[],
  matrixAt: (seconds: number) => Matrix,
): SourceTrack[] {
  if (times.length === 0) return []
  const start = Math.min(0, times[0])
  const parts = {
    translation: new Float32Array(times.length * 3),
    rotation: new Float32Array(times.length * 4),
    scale: new Float32Array(times.length * 3),
  }
  times.forEach((seconds, key) => {
    const { translation, rotation, scale } = decomposeMatrix(matrixAt(seconds))
    parts.translation.set(translation, key * 3)
    parts.rotation.set(rotation, key * 4)
    parts.scale.set(scale, key * 3)
  })
  const rest = decomposeMatrix(node.matrix)
  parts.rotation.set(nearTurn(parts.rotation.subarray(0, 4), rest.rotation))
  keepNear(parts.rotation)
  const seconds = Float32Array.from(times, (time) => time - start)
  return (['translation', 'rotation', 'scale'] as const).flatMap((path) =>
    leavesRest(parts[path], rest[path]) ? [{ node, path, times: seconds, values: parts[path] }] : [],
  )
}
