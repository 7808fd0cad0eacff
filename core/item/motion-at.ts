import type { Animation, AnimationChannel, Node } from '@gltf-transform/core'
import { accessorToFloats } from './primitive-arrays.ts'

/** How a clip moves one node: when its keys are, and where it is at any time. */
export interface NodeMotion {
  node: Node
  /** Seconds of all keys, rising. */
  keySeconds: number[]
  /** Whether it jumps from key to key instead of going there. */
  jumps: boolean
  at: (seconds: number) => { translation: number[]; rotation: number[]; scale: number[] }
}

type Path = 'translation' | 'rotation' | 'scale'
interface Curve {
  path: Path
  times: Float32Array
  valueAt: (seconds: number) => number[]
  jumps: boolean
}

/**
 * The motion of each node that a clip moves; what it does not move stays as the node has it (glTF 2.0, section 3.11 and
 * appendix C).
 *
 * @example for (const { node, at } of motionsOf(clip)) places.set(node, at(0.5))
 */
export function motionsOf(clip: Animation): NodeMotion[] {
  const curves = new Map<Node, Curve[]>()
  for (const channel of clip.listChannels()) {
    const node = channel.getTargetNode()
    const curve = curveOf(channel)
    if (node && curve) curves.set(node, [...(curves.get(node) ?? []), curve])
  }
  return [...curves].map(([node, own]) => ({
    node,
    keySeconds: [...new Set(own.flatMap(({ times }) => [...times]))].sort((a, b) => a - b),
    jumps: own.every(({ jumps }) => jumps),
    at(seconds) {
      const rest: Record<Path, number[]> = {
        translation: node.getTranslation(),
        rotation: node.getRotation(),
        scale: node.getScale(),
      }
      for (const { path, valueAt } of own) rest[path] = valueAt(seconds)
      return rest
    },
  }))
}

function curveOf(channel: AnimationChannel): Curve | null {
  const sampler = channel.getSampler()
  const path = channel.getTargetPath()
  const [input, output] = [sampler?.getInput(), sampler?.getOutput()]
  if (!sampler || !input || !output || (path !== 'translation' && path !== 'rotation' && path !== 'scale')) return null
  const times = accessorToFloats(input)
  const values = accessorToFloats(output)
  if (times.length === 0) return null
  const size = path === 'rotation' ? 4 : 3
  const interpolation = sampler.getInterpolation()
  const cubic = interpolation === 'CUBICSPLINE'
  /** Which of the three rows of a cubic key: way in, value, way out. */
  const row = (key: number, which: 0 | 1 | 2): number[] => {
    const start = (cubic ? key * 3 + which : key) * size
    return [...values.subarray(start, start + size)]
  }
  const between = (key: number, share: number, gap: number): number[] => {
    const [from, to] = [row(key, 1), row(key + 1, 1)]
    if (interpolation === 'STEP') return from
    if (!cubic) return path === 'rotation' ? turnBetween(from, to, share) : mixed(from, to, share)
    const [out, into] = [row(key, 2), row(key + 1, 0)]
    const [t, t2, t3] = [share, share ** 2, share ** 3]
    const curved = from.map(
      (value, axis) =>
        (2 * t3 - 3 * t2 + 1) * value +
        gap * (t3 - 2 * t2 + t) * out[axis] +
        (3 * t2 - 2 * t3) * to[axis] +
        gap * (t3 - t2) * into[axis],
    )
    return path === 'rotation' ? unitOf(curved) : curved
  }
  return {
    path,
    times,
    jumps: interpolation === 'STEP',
    valueAt(seconds) {
      const last = times.length - 1
      if (seconds <= times[0]) return row(0, 1)
      if (seconds >= times[last]) return row(last, 1)
      const key = keyBefore(times, seconds)
      const gap = times[key + 1] - times[key]
      return between(key, gap > 0 ? (seconds - times[key]) / gap : 0, gap)
    },
  }
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

const mixed = (a: readonly number[], b: readonly number[], share: number): number[] =>
  a.map((value, axis) => value + (b[axis] - value) * share)

function unitOf(values: readonly number[]): number[] {
  const length = Math.hypot(...values) || 1
  return values.map((value) => value / length)
}

/** Spherical interpolation the short way (Shoemake 1985). */
function turnBetween(from: readonly number[], to: readonly number[], share: number): number[] {
  const cosine = from.reduce((sum, value, axis) => sum + value * to[axis], 0)
  const near = cosine < 0 ? to.map((value) => -value) : to
  const angle = Math.acos(Math.min(1, Math.abs(cosine)))
  if (angle < 1e-6) return unitOf(mixed(from, near, share))
  const [a, b] = [Math.sin((1 - share) * angle), Math.sin(share * angle)].map((each) => each / Math.sin(angle))
  return from.map((value, axis) => value * a + near[axis] * b)
}

/** Between keys further apart, what reads a file goes straight from one number to the next: a turn would not stay one. */
const LONGEST_GAP_SECONDS = 1 / 30
const MOST_KEYS = 20_000

/** Times of keys with long gaps filled, for formats that hold no turns. */
export function fillGaps(keySeconds: readonly number[]): number[] {
  const seconds: number[] = []
  keySeconds.forEach((key, number) => {
    seconds.push(key)
    const gap = (keySeconds.at(number + 1) ?? key) - key
    const pieces = Math.min(MOST_KEYS, Math.ceil(gap / LONGEST_GAP_SECONDS - 1e-6))
    for (let piece = 1; piece < pieces && seconds.length < MOST_KEYS; piece++)
      seconds.push(key + (gap * piece) / pieces)
  })
  return seconds
}
