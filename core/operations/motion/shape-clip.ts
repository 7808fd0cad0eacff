import { closeLoop } from '../../geometry/motion/close-loop.ts'
import { thereAndBack } from '../../geometry/motion/there-and-back.ts'
import { apart, curveSize, valueAt, type Curve } from '../../maths/curve.ts'
import type { ClipCurve, MeasuredClip } from './clips.ts'

/** How a clip is laid out before keys are left out. */
export interface ClipShape {
  startAtZero: boolean
  /** What is longer is played faster; 0 leaves it as long as it is. */
  longestSeconds: number
  /** What is done with a clip that does not end where it begins. */
  loops: 'as-fits' | 'led-back' | 'there-and-back' | 'left'
}

/**
 * A curve as it is wanted before keys are left out: from zero, fast enough, closed.
 * @example const curves = clip.curves.map((each) => shapedCurve(each, clip, chosen, loopOf(clip, chosen, longest)))
 */
export function shapedCurve({ curve }: ClipCurve, { from, to }: MeasuredClip, chosen: ClipShape, loop: Loop): Curve {
  const start = chosen.startAtZero ? from : 0
  const length = to - from
  const faster = chosen.longestSeconds > 0 && length > chosen.longestSeconds ? chosen.longestSeconds / length : 1
  const moved = { ...curve, times: curve.times.map((seconds) => (seconds - start) * faster) }
  // Ways in and out of a key are by the second.
  if (faster !== 1 && curve.interpolation === 'CUBICSPLINE') {
    const size = curveSize(curve.path)
    moved.values = curve.values.map((value, at) => (Math.floor(at / size) % 3 === 1 ? value : value / faster))
  }
  if (loop === 'there-and-back') return thereAndBack(moved, (to - start) * faster)
  return loop === 'led-back' ? closeLoop(moved) : moved
}

export type Loop = Exclude<ClipShape['loops'], 'as-fits'>

/** What is nearer to its beginning than this share of its way is led back. */
const NEAR = 0.4

/**
 * What is done with a clip that does not come round: the way back needs as much time again.
 * @example const loop = loopOf(clip, { ...chosen, loops: true }, rulebook.motion.longestSeconds)
 */
export function loopOf({ curves, loopGap, from, to }: MeasuredClip, { loops }: ClipShape, longest: number): Loop {
  if (!loopGap || loops === 'left') return 'left'
  if (loops !== 'as-fits') return loops
  const widest = curves.find(({ node, curve }) => node === loopGap.node && curve.path === loopGap.path)
  const near = widest !== undefined && loopGap.off <= reachOf(widest.curve) * NEAR
  return near || (to - from) * 2 > longest ? 'led-back' : 'there-and-back'
}

/** How far a curve goes from where it begins. */
function reachOf(curve: Curve): number {
  const size = curveSize(curve.path)
  const [first, now] = [new Float64Array(size), new Float64Array(size)]
  valueAt(curve, curve.times[0], first)
  return curve.times.reduce(
    (most, seconds) => Math.max(most, apart(curve.path, first, 0, valueAt(curve, seconds, now), 0)),
    0,
  )
}
