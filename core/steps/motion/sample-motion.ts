import type { ThinnedKeys } from '../../geometry/motion/thin-keys.ts'
import { dropUnusedAccessors } from '../../item/primitive-arrays.ts'
import type { Curve } from '../../maths/curve.ts'
import { faultsOf, measureClips, type ClipFaults, type MeasuredClip } from '../../operations/motion/clips.ts'
import { allowedFor, writeCurve } from '../../operations/motion/thin-clip.ts'
import {
  bytesOfCurves,
  curvesOf,
  sampleClips,
  samplingSchema,
  type Sampling,
} from '../../operations/motion/sample-clips.ts'
import type { Loop } from '../../operations/motion/shape-clip.ts'
import type { StepContext } from '../../operations/context.ts'
import { formatCount, formatLength, plural } from '../../support/wording.ts'
import { defineStep } from '../step.ts'

/** Puts keys on the game's rate, and leaves out those that the others give. */
export const sampleMotion = defineStep<Sampling>({
  id: 'sample-motion',
  version: 2,
  stage: 'motion',
  title: 'Sample motion',
  purpose:
    'Puts the keys of clips on the rate that the game reads, leaves out those that the others give within the ' +
    'error, starts clips at 0 and closes loops.',
  parameters: samplingSchema,
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
    {
      type: 'choice',
      key: 'loops',
      label: 'Open loops',
      options: [
        { value: 'as-fits', label: 'as it fits' },
        { value: 'led-back', label: 'led back at the end' },
        { value: 'there-and-back', label: 'there and back' },
        { value: 'left', label: 'left open' },
      ],
    },
    {
      type: 'choice',
      key: 'thin',
      label: 'Leave out keys',
      options: [
        { value: 'what-has-to', label: 'where too many' },
        { value: 'all', label: 'wherever it may' },
      ],
    },
    {
      type: 'number',
      key: 'longestSeconds',
      label: 'Fit into',
      unit: 's; 0 keeps it',
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
    thin: 'what-has-to',
    loops: motion.loopsClose ? 'as-fits' : 'left',
    longestSeconds: motion.longestSeconds,
  }),
  propose(context) {
    if (!context.kind.motionAsked) return []
    const reasons = whyNeeded(context)
    if (reasons.length === 0) return []
    return [{ parameters: this.defaults(context) as Sampling, reason: `${reasons.join('; ')}.` }]
  },
  async run({ document, parameters: chosen, rulebook, progress }) {
    const { motion, space } = rulebook
    const { clips, keysBefore, times } = await sampleClips(document, chosen, rulebook, (share, keys, grown) =>
      progress(share, `${formatCount(keys)} keys, with ${grown} times the error`),
    )
    if (keysBefore === 0) return { headline: 'none', details: ['Nothing moves.'], changed: false }
    const bytesBefore = bytesOfCurves(curvesOf(clips.map(({ shaped }) => shaped.clip)))
    const details: string[] = []
    if (times > 1)
      details.push(
        `To come under ${formatCount(motion.mostKeys)} keys the error was let grow to ${times} times as much.`,
      )
    for (const { shaped, made, loop } of clips) {
      const { clip, curves } = shaped
      made.forEach(({ curve }, at) => writeCurve(document, clip, clip.curves[at], curve))
      details.push(...toldOf(clip, curves, made, { chosen, times, unit: space.unit.plural, loop }))
    }
    dropUnusedAccessors(document)
    const after = measureClips(document, rulebook)
    const keys = after.reduce((sum, clip) => sum + clip.keys, 0)
    return {
      headline: `${formatCount(keys)} keys`,
      details: [
        `${formatCount(keysBefore)} keys became ${formatCount(keys)}, ${kibibytes(bytesBefore)} became ` +
          `${kibibytes(bytesOfCurves(curvesOf(after)))}.`,
        ...details,
      ],
      changed: true,
    }
  },
})

function whyNeeded({ document, rulebook }: StepContext): string[] {
  const { motion } = rulebook
  const clips = measureClips(document, rulebook)
  const having = (fault: keyof ClipFaults): MeasuredClip[] => clips.filter((clip) => faultsOf(clip, motion)[fault])
  const keys = clips.reduce((sum, clip) => sum + clip.keys, 0)
  return [
    ...having('dense').map(
      ({ name, keysPerSecond }) =>
        `${name} has ${Math.round(keysPerSecond)} keys a second, ${motion.keysPerSecond} are read`,
    ),
    ...having('long').map(
      ({ name, from, to }) => `${name} lasts ${(to - from).toFixed(1)} s, ${motion.longestSeconds} s are read`,
    ),
    ...having('late').map(({ name, from }) => `${name} begins at ${from.toFixed(2)} s`),
    ...having('open').map(({ name }) => `the loop ${name} is not closed`),
    ...(keys > motion.mostKeys ? [`${formatCount(keys)} keys in all, ${formatCount(motion.mostKeys)} are read`] : []),
  ].slice(0, 6)
}

const kibibytes = (bytes: number): string => `${(bytes / 1024).toFixed(1)} KiB`

/** What was done to a clip, and where it could not be followed. */
function toldOf(
  { name, from, to, loopGap, curves }: MeasuredClip,
  shaped: readonly Curve[],
  made: readonly ThinnedKeys[],
  { chosen, times, unit, loop }: { chosen: Sampling; times: number; unit: string; loop: Loop },
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
        ? `${node} is too fast in ${name} for ${chosen.keysPerSecond} keys a second: at ` +
            `${worst.worstAt.toFixed(2)} s it is ${inWords(path, worst.largestError)} off.`
        : `In ${name} ${node} is off by ${inWords(path, worst.largestError)} at most.`,
    )
  }
  if (chosen.startAtZero && from > 1e-3) told.push(`${name} begins at 0 instead of ${from.toFixed(2)} s.`)
  const [last] = shaped.map((curve) => curve.times[curve.times.length - 1]).sort((a, b) => b - a)
  const length = loop === 'there-and-back' ? 2 * (to - from) : to - from
  if (length > last + 1e-3) told.push(`${name} plays in ${last.toFixed(1)} s what took ${length.toFixed(1)} s.`)
  const off = loopGap ? inWords(loopGap.path, loopGap.off) : ''
  if (loop === 'led-back')
    told.push(`The last quarter of ${name} leads ${loopGap?.node.getName()} back to where it begins, ${off} away.`)
  if (loop === 'there-and-back')
    told.push(
      `${name} goes back the way it came, since ${loopGap?.node.getName()} ends ${off} from where it begins; it ` +
        `lasts ${last.toFixed(1)} s.`,
    )
  return told.length > 0 ? told : [`${name}: ${plural(curves.length, 'curve')} as before.`]
}
