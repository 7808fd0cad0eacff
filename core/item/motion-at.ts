import type { Animation, AnimationChannel, Node } from '@gltf-transform/core'
import { curveSize, valueAt, type Curve, type CurvePath } from '../maths/curve.ts'
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
    jumps: own.every(({ interpolation }) => interpolation === 'STEP'),
    at(seconds) {
      const rest: Record<CurvePath, number[]> = {
        translation: node.getTranslation(),
        rotation: node.getRotation(),
        scale: node.getScale(),
      }
      for (const curve of own) rest[curve.path] = valueAt(curve, seconds, [0, 0, 0, 0].slice(0, curveSize(curve.path)))
      return rest
    },
  }))
}

/**
 * A channel’s curve; null where it has none, or moves the weights of shapes.
 * @example const curves = clip.listChannels().map(curveOf)
 */
export function curveOf(channel: AnimationChannel): Curve | null {
  const sampler = channel.getSampler()
  const path = channel.getTargetPath()
  const [input, output] = [sampler?.getInput(), sampler?.getOutput()]
  if (!sampler || !input || !output || (path !== 'translation' && path !== 'rotation' && path !== 'scale')) return null
  const times = accessorToFloats(input)
  if (times.length === 0) return null
  return { path, times, values: accessorToFloats(output), interpolation: sampler.getInterpolation() }
}

/** Formats round numbers: a place is left when one is off by more than this, against itself or 1. */
const SAME_PLACE = 1e-5

/**
 * Whether shifts, turns or scales of a node, key after key, ever leave the one that it rests at by more than rounding.
 * @param values as many a key as the rest has; turns on its near side
 *
 * @example leavesRest(places.flatMap(({ scale }) => scale), node.getScale())
 */
export function leavesRest(values: ArrayLike<number>, rest: readonly number[]): boolean {
  for (let at = 0; at < values.length; at++) {
    const still = rest[at % rest.length]
    if (Math.abs(values[at] - still) > SAME_PLACE * Math.max(1, Math.abs(still))) return true
  }
  return false
}

/**
 * Between keys further apart, what reads a file goes straight from one number to the next: a turn would not stay one.
 */
const LONGEST_GAP_SECONDS = 1 / 30
/** Formats round times: a gap that is hardly longer is none. */
const FILLED_WITHIN = 0.02
const MOST_KEYS = 20_000

/**
 * Times of keys with long gaps filled, for formats that hold no turns.
 * @example const seconds = fillGaps([0, 2])
 */
export function fillGaps(keySeconds: readonly number[]): number[] {
  const seconds: number[] = []
  keySeconds.forEach((key, number) => {
    seconds.push(key)
    const gap = (keySeconds.at(number + 1) ?? key) - key
    const pieces = Math.min(MOST_KEYS, Math.ceil(gap / LONGEST_GAP_SECONDS - FILLED_WITHIN))
    for (let piece = 1; piece < pieces && seconds.length < MOST_KEYS; piece++)
      seconds.push(key + (gap * piece) / pieces)
  })
  return seconds
}
