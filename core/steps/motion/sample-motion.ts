import type { Accessor, Document } from '@gltf-transform/core'
import { z } from 'zod'
import { closeLoop } from '../../geometry/motion/close-loop.ts'
import { thinKeys } from '../../geometry/motion/thin-keys.ts'
import { dropUnusedAccessors } from '../../item/primitive-arrays.ts'
import type { Curve } from '../../maths/curve.ts'
import { measureClips, type ClipCurve, type MeasuredClip } from '../../operations/motion/clips.ts'
import type { StepContext } from '../../operations/context.ts'
import { formatCount, formatLength, plural } from '../../support/wording.ts'
import { defineStep } from '../step.ts'

const parameters = z.object({
  keysPerSecond: z.number().positive().max(1000),
  /** How far a place may lie from where it was, in game units. */
  place: z.number().nonnegative().max(1000),
  /** How far a turn may lie from what it was. */
  angleDegrees: z.number().nonnegative().max(45),
  startAtZero: z.boolean(),
  closeLoops: z.boolean(),
  /** What is longer is played faster; 0 leaves it as long as it is. */
  longestSeconds: z.number().nonnegative().max(3600),
})
type Parameters = z.infer<typeof parameters>

/** How far a size may lie from what it was, as parts of one. */
const SIZE = 0.002
/** Tries to come under the number of keys, each with twice the error of the one before. */
const MOST_TRIES = 8

/** Puts keys on the game's rate, and leaves out those that the others give. */
export const sampleMotion = defineStep<Parameters>({
  id: 'sample-motion',
  version: 1,
  stage: 'motion',
  title: 'Sample motion',
  purpose:
    'Puts the keys of clips on the rate that the game reads, leaves out those that the others give within the error, starts clips at 0 and closes loops.',
  parameters,
  fields: ({ rulebook: { motion, space } }) => [
    {
      type: 'number',
      key: 'keysPerSecond',
      label: 'At most',
      unit: 'keys a second',
      least: 1,
      most: motion.keysPerSecond,
      step: 1,
      slider: true,
    },
    {
      type: 'number',
      key: 'place',
      label: 'Places off by',
      unit: space.unit.plural,
      least: 0,
      most: 1,
      step: 0.001,
      slider: true,
    },
    {
      type: 'number',
      key: 'angleDegrees',
      label: 'Turns off by',
      unit: '°',
      least: 0,
      most: 10,
      step: 0.05,
      slider: true,
    },
    { type: 'toggle', key: 'startAtZero', label: 'Start at 0' },
    { type: 'toggle', key: 'closeLoops', label: 'Close loops' },
    {
      type: 'number',
      key: 'longestSeconds',
      label: 'Play what is longer within',
      unit: 's (0: as long as it is)',
      least: 0,
      most: motion.longestSeconds,
      step: 0.5,
    },
  ],
  defaults: ({ rulebook: { motion, space } }) => ({
    keysPerSecond: motion.keysPerSecond,
    place: Math.max(0.001, space.smallestDrawn / 2),
    angleDegrees: 0.2,
    startAtZero: motion.startsAtZero,
    closeLoops: motion.loopsClose,
    longestSeconds: motion.longestSeconds,
  }),
  propose(context) {
    if (!context.kind.motionAsked) return []
    const reasons = whyNeeded(context)
    if (reasons.length === 0) return []
    return [{ parameters: this.defaults(context) as Parameters, reason: `${reasons.join('; ')}.` }]
  },
  async run({ document, parameters: chosen, rulebook, progress }) {
    const { motion, space } = rulebook
    const clips = measureClips(document, space.smallestDrawn)
    const before = clips.reduce((sum, { keys }) => sum + keys, 0)
    if (before === 0) return { headline: 'none', details: ['Nothing moves.'], changed: false }
    const bytesBefore = bytesOf(clips)
    const details: string[] = []
    const shaped = clips.map((clip) => ({ clip, curves: clip.curves.map((each) => shapedCurve(each, clip, chosen)) }))
    let made = shaped.map(({ curves }) => curves.map((curve) => thinned(curve, chosen, 1)))
    let times = 1
    const count = (): number => made.flat().reduce((sum, { curve }) => sum + curve.times.length, 0)
    for (let tries = 0; count() > motion.mostKeys && tries < MOST_TRIES; tries++) {
      times *= 2
      await progress(tries / MOST_TRIES, `${formatCount(count())} keys, with ${times} times the error`)
      made = shaped.map(({ curves }) => curves.map((curve) => thinned(curve, chosen, times)))
    }
    if (times > 1)
      details.push(
        `To come under ${formatCount(motion.mostKeys)} keys the error was let grow to ${times} times as much.`,
      )
    for (const [number, { clip, curves }] of shaped.entries()) {
      const own = made[number]
      own.forEach(({ curve }, at) => writeCurve(document, clip.curves[at], curve))
      details.push(...toldOf(clip, curves, own, chosen, times, space.unit.plural))
    }
    dropUnusedAccessors(document)
    const after = measureClips(document)
    const keys = after.reduce((sum, clip) => sum + clip.keys, 0)
    return {
      headline: `${formatCount(keys)} keys`,
      details: [
        `${formatCount(before)} keys became ${formatCount(keys)}, ${kibibytes(bytesBefore)} became ${kibibytes(bytesOf(after))}.`,
        ...details,
      ],
      changed: true,
    }
  },
})

function whyNeeded({ document, rulebook: { motion, space } }: StepContext): string[] {
  const clips = measureClips(document, space.smallestDrawn)
  const dense = clips.filter(({ keysPerSecond }) => keysPerSecond > motion.keysPerSecond * 1.001)
  const long = clips.filter(({ from, to }) => to - from > motion.longestSeconds * 1.001)
  const late = clips.filter(({ from }) => motion.startsAtZero && from > 1e-3 && from !== Infinity)
  const open = clips.filter(({ loopGap }) => motion.loopsClose && loopGap)
  const keys = clips.reduce((sum, clip) => sum + clip.keys, 0)
  return [
    ...dense.map(
      ({ name, keysPerSecond }) =>
        `${name} has ${Math.round(keysPerSecond)} keys a second, ${motion.keysPerSecond} are read`,
    ),
    ...long.map(
      ({ name, from, to }) => `${name} lasts ${(to - from).toFixed(1)} s, ${motion.longestSeconds} s are read`,
    ),
    ...late.map(({ name, from }) => `${name} begins at ${from.toFixed(2)} s`),
    ...open.map(({ name }) => `the loop ${name} is not closed`),
    ...(keys > motion.mostKeys ? [`${formatCount(keys)} keys in all, ${formatCount(motion.mostKeys)} are read`] : []),
  ].slice(0, 6)
}

/** A curve as it is wanted before keys are left out: from zero, fast enough, closed. */
function shapedCurve({ curve }: ClipCurve, { from, to }: MeasuredClip, chosen: Parameters): Curve {
  const start = chosen.startAtZero ? from : 0
  const length = to - from
  const faster = chosen.longestSeconds > 0 && length > chosen.longestSeconds ? chosen.longestSeconds / length : 1
  const moved = { ...curve, times: curve.times.map((seconds) => (seconds - start) * faster) }
  // Ways in and out of a key are by the second.
  if (faster !== 1 && curve.interpolation === 'CUBICSPLINE') {
    const size = curve.path === 'rotation' ? 4 : 3
    moved.values = curve.values.map((value, at) => (Math.floor(at / size) % 3 === 1 ? value : value / faster))
  }
  return chosen.closeLoops ? closeLoop(moved) : moved
}

const allowedFor = (path: Curve['path'], chosen: Parameters, times: number): number =>
  (path === 'translation' ? chosen.place : path === 'rotation' ? chosen.angleDegrees : SIZE) * times

const thinned = (curve: Curve, chosen: Parameters, times: number) =>
  thinKeys(curve, { keysPerSecond: chosen.keysPerSecond, allowed: allowedFor(curve.path, chosen, times) })

function writeCurve(document: Document, { channel }: ClipCurve, { times, values, path, interpolation }: Curve): void {
  const buffer = document.getRoot().listBuffers()[0] ?? document.createBuffer()
  const accessor = (type: 'SCALAR' | 'VEC3' | 'VEC4', array: Float32Array): Accessor =>
    document.createAccessor().setType(type).setArray(array.slice()).setBuffer(buffer)
  const sampler = channel.getSampler()
  // A sampler may serve several channels: each gets its own.
  const own = document
    .createAnimationSampler()
    .setInput(accessor('SCALAR', times))
    .setOutput(accessor(path === 'rotation' ? 'VEC4' : 'VEC3', values))
    .setInterpolation(interpolation)
  const clip = document
    .getRoot()
    .listAnimations()
    .find((each) => each.listChannels().includes(channel))
  clip?.addSampler(own)
  channel.setSampler(own)
  if (sampler && clip && !clip.listChannels().some((each) => each.getSampler() === sampler)) {
    clip.removeSampler(sampler)
    sampler.dispose()
  }
}

const bytesOf = (clips: readonly MeasuredClip[]): number =>
  clips.reduce(
    (sum, { curves }) =>
      sum + curves.reduce((all, { curve }) => all + curve.times.byteLength + curve.values.byteLength, 0),
    0,
  )

const kibibytes = (bytes: number): string => `${(bytes / 1024).toFixed(1)} KiB`

/** What was done to a clip, and where it could not be followed. */
function toldOf(
  { name, from, to, loopGap, curves }: MeasuredClip,
  shaped: readonly Curve[],
  made: readonly ReturnType<typeof thinKeys>[],
  chosen: Parameters,
  times: number,
  unit: string,
): string[] {
  const told: string[] = []
  const inWords = (path: Curve['path'], error: number): string =>
    path === 'rotation'
      ? `${error.toFixed(2)}°`
      : path === 'translation'
        ? `${formatLength(error)} ${unit}`
        : `${(error * 100).toFixed(1)} % of its size`
  for (const path of ['translation', 'rotation', 'scale'] as const) {
    const of = made.map((each, at) => ({ ...each, at })).filter(({ curve }) => curve.path === path)
    const worst = of.sort((a, b) => b.largestError - a.largestError)[0]
    if (!worst || worst.largestError === 0) continue
    const tooFast = worst.largestError > allowedFor(path, chosen, times) * 1.01
    const node = curves[worst.at].node.getName()
    told.push(
      tooFast
        ? `${node} is too fast in ${name} for ${chosen.keysPerSecond} keys a second: at ${worst.worstAt.toFixed(2)} s it is ${inWords(path, worst.largestError)} off.`
        : `In ${name} ${node} is off by ${inWords(path, worst.largestError)} at most.`,
    )
  }
  if (chosen.startAtZero && from > 1e-3) told.push(`${name} begins at 0 instead of ${from.toFixed(2)} s.`)
  const [last] = shaped.map((curve) => curve.times[curve.times.length - 1]).sort((a, b) => b - a)
  if (to - from > last + 1e-3) told.push(`${name} plays in ${last.toFixed(1)} s what took ${(to - from).toFixed(1)} s.`)
  if (chosen.closeLoops && loopGap)
    told.push(
      `The last quarter of ${name} leads ${loopGap.node.getName()} back to where it begins, ${inWords(loopGap.path, loopGap.off)} away.`,
    )
  return told.length > 0 ? told : [`${name}: ${plural(curves.length, 'curve')} as before.`]
}
