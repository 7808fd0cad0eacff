import type { Document } from '@gltf-transform/core'
import { z } from 'zod'
import type { ThinnedKeys } from '../../geometry/motion/thin-keys.ts'
import type { Rulebook } from '../../game/schema.ts'
import { measureClips, type MeasuredClip } from './clips.ts'
import { loopOf, shapedCurve, type Loop } from './shape-clip.ts'
import { countKeys, thinClip, type Shaped } from './thin-clip.ts'

export const samplingSchema = z.object({
  keysPerSecond: z.number().positive().max(1000),
  /** How far a place may lie from where it was, in game units. */
  place: z.number().nonnegative().max(1000),
  /** How far a turn may lie from what it was. */
  angleDegrees: z.number().nonnegative().max(45),
  /** Whether curves that keep to the game's limits lose keys as well. */
  thin: z.enum(['what-has-to', 'all']),
  startAtZero: z.boolean(),
  /** What is done with a clip that does not end where it begins. */
  loops: z.enum(['as-fits', 'led-back', 'there-and-back', 'left']),
  /** What is longer is played faster; 0 leaves it as long as it is. */
  longestSeconds: z.number().nonnegative().max(3600),
})
export type Sampling = z.infer<typeof samplingSchema>

/** Clips with the curves that they get: as they are wanted before keys are left out, and after. */
export interface SampledMotion {
  clips: { shaped: Shaped; made: ThinnedKeys[]; loop: Loop }[]
  keysBefore: number
  keysAfter: number
  /** By how much the error was let grow to come under the game's number of keys. */
  times: number
}

/** Tries to come under the number of keys, each with twice the error of the one before. */
const MOST_TRIES = 8

/**
 * What the clips of an item become on the game's rate; the item stays as it is.
 * @param onTry told before each try with a larger error
 *
 * @example const { keysBefore, keysAfter } = await sampleClips(document, sampling, rulebook)
 */
export async function sampleClips(
  document: Document,
  chosen: Sampling,
  rulebook: Rulebook,
  onTry: (share: number, keys: number, times: number) => Promise<void> = async () => undefined,
): Promise<SampledMotion> {
  const { motion } = rulebook
  const clips = measureClips(document, rulebook)
  const loops = clips.map((clip) => loopOf(clip, chosen, motion.longestSeconds))
  const shaped: Shaped[] = clips.map((clip, number) => ({
    clip,
    curves: clip.curves.map((each) => shapedCurve(each, clip, chosen, loops[number])),
  }))
  const all =
    chosen.thin === 'all' || shaped.reduce((sum, each) => sum + countKeys(each, each.curves), 0) > motion.mostKeys
  const thinBy = (error: number): ThinnedKeys[][] => shaped.map((each) => thinClip(each, chosen, error, all))
  const count = (made: readonly ThinnedKeys[][]): number =>
    made.reduce(
      (sum, own, at) =>
        sum +
        countKeys(
          shaped[at],
          own.map(({ curve }) => curve),
        ),
      0,
    )
  let made = thinBy(1)
  let times = 1
  for (let tries = 0; count(made) > motion.mostKeys && tries < MOST_TRIES; tries++) {
    times *= 2
    await onTry(tries / MOST_TRIES, count(made), times)
    made = thinBy(times)
  }
  return {
    clips: shaped.map((each, number) => ({ shaped: each, made: made[number], loop: loops[number] })),
    keysBefore: clips.reduce((sum, { keys }) => sum + keys, 0),
    keysAfter: count(made),
    times,
  }
}

/**
 * Bytes that the curves of some clips take.
 * @example bytesOfCurves([{ times: new Float32Array(2), values: new Float32Array(8) }]) // 40
 */
export const bytesOfCurves = (curves: readonly { times: Float32Array; values: Float32Array }[]): number =>
  curves.reduce((sum, { times, values }) => sum + times.byteLength + values.byteLength, 0)

/**
 * All curves of some clips.
 * @example const bytes = bytesOfCurves(curvesOf(measureClips(document, rulebook)))
 */
export const curvesOf = (clips: readonly MeasuredClip[]): MeasuredClip['curves'][number]['curve'][] =>
  clips.flatMap(({ curves }) => curves.map(({ curve }) => curve))
