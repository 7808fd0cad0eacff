import type { Animation, AnimationChannel, Document, Node } from '@gltf-transform/core'
import { carriedBy } from '../../game/formats.ts'
import type { Rulebook } from '../../game/schema.ts'
import { curveOf, fillGaps } from '../../item/motion-at.ts'
import { apart, curveSize, valueAt, type Curve } from '../../maths/curve.ts'

/** One thing that a clip moves. */
export interface ClipCurve {
  channel: AnimationChannel
  node: Node
  curve: Curve
}

/** A clip with what a game's limits are measured on. */
export interface MeasuredClip {
  clip: Animation
  name: string
  curves: ClipCurve[]
  /** Keys of all that it moves: what moves a thing at one time is one key of it. */
  keys: number
  /** Seconds of its first key, and of its last. */
  from: number
  to: number
  /** The most keys that stand in a second anywhere, by the smallest gap between two of one thing. */
  keysPerSecond: number
  /** The curve that ends furthest from where it begins, in game units, degrees or parts of one. */
  loopGap: { node: Node; path: Curve['path']; off: number } | null
}

/**
 * Where a loop counts as closed, by what is moved: game units, degrees, parts of one.
 * @example const isClosed = gap <= closedWithin('rotation', 0.001)
 */
export const closedWithin = (path: Curve['path'], smallestDrawn: number): number =>
  path === 'translation' ? Math.max(1e-4, smallestDrawn) : path === 'rotation' ? 0.5 : 0.005

/**
 * The clips of an item with their keys, seconds and loops.
 *
 * @example const keys = measureClips(document, rulebook).reduce((sum, clip) => sum + clip.keys, 0)
 */
export function measureClips(document: Document, rulebook: Pick<Rulebook, 'space' | 'files'>): MeasuredClip[] {
  const { smallestDrawn } = rulebook.space
  const written = carriedBy(rulebook.files.mesh.writer).turnsOverTime ? keysOf : filledKeysOf
  return document
    .getRoot()
    .listAnimations()
    .map((clip) => {
      const curves = clip.listChannels().flatMap((channel): ClipCurve[] => {
        const node = channel.getTargetNode()
        const curve = curveOf(channel)
        return node && curve ? [{ channel, node, curve }] : []
      })
      const times = curves.map(({ curve }) => curve.times)
      const things = [...new Set(curves.map(({ node }) => node))].map((node) =>
        written(curves.filter((each) => each.node === node).map(({ curve }) => curve)),
      )
      return {
        clip,
        name: clip.getName() || 'clip',
        curves,
        keys: things.reduce((sum, { length }) => sum + length, 0),
        from: Math.min(...times.map((each) => each[0]), Infinity),
        to: Math.max(...times.map((each) => each[each.length - 1]), 0),
        keysPerSecond: Math.max(0, ...things.map(fastest)),
        loopGap: widestGap(curves, smallestDrawn),
      }
    })
}

/**
 * Times of the keys of one thing, each once.
 * @example const seconds = keysOf(curves)
 */
export const keysOf = (curves: readonly Curve[]): number[] =>
  [...new Set(curves.flatMap(({ times }) => [...times]))].sort((a, b) => a - b)

/** As they are written where a format holds matrices and not turns. */
const filledKeysOf = (curves: readonly Curve[]): number[] =>
  curves.every(({ interpolation }) => interpolation === 'STEP') ? keysOf(curves) : fillGaps(keysOf(curves))

function fastest(times: readonly number[]): number {
  let least = Infinity
  for (let key = 1; key < times.length; key++) least = Math.min(least, times[key] - times[key - 1])
  return least === Infinity ? 0 : 1 / Math.max(1e-6, least)
}

/** The curve that most needs closing; null where all end where they begin. */
function widestGap(curves: readonly ClipCurve[], smallestDrawn: number): MeasuredClip['loopGap'] {
  let widest: MeasuredClip['loopGap'] = null
  let most = 1
  for (const { node, curve } of curves) {
    const size = curveSize(curve.path)
    const ends = new Float64Array(size * 2)
    valueAt(curve, curve.times[0], ends, 0)
    valueAt(curve, curve.times[curve.times.length - 1], ends, size)
    const off = apart(curve.path, ends, 0, ends, size)
    const times = off / closedWithin(curve.path, smallestDrawn)
    if (times <= most) continue
    most = times
    widest = { node, path: curve.path, off }
  }
  return widest
}

/** Rounding of times to 32 bits is no key too many. */
export const ROUNDING = 1.001

/** What of a clip the game does not take as it is. */
export interface ClipFaults {
  dense: boolean
  long: boolean
  late: boolean
  open: boolean
}

/**
 * A clip against the limits of its game.
 * @example const faults = measureClips(document, rulebook).map((clip) => faultsOf(clip, rulebook.motion))
 */
export const faultsOf = (
  { keysPerSecond, from, to, loopGap }: MeasuredClip,
  motion: Rulebook['motion'],
): ClipFaults => ({
  dense: keysPerSecond > motion.keysPerSecond * ROUNDING,
  long: to - Math.min(from, to) > motion.longestSeconds * ROUNDING,
  late: motion.startsAtZero && from > 1e-3 && from !== Infinity,
  open: motion.loopsClose && loopGap !== null,
})
