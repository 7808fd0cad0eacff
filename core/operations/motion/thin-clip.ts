import type { Accessor, Document } from '@gltf-transform/core'
import { thinKeys, type ThinnedKeys } from '../../geometry/motion/thin-keys.ts'
import type { Curve } from '../../maths/curve.ts'
import { keysOf, ROUNDING, type ClipCurve, type MeasuredClip } from './clips.ts'

/** The game's rate, and how far places (game units) and turns (degrees) may lie from what they were. */
export interface AllowedErrors {
  keysPerSecond: number
  place: number
  angleDegrees: number
}

/** How far a size may lie from what it was, as parts of one. */
const SIZE = 0.002

/** A clip and its curves as they are wanted before keys are left out. */
export interface Shaped {
  clip: MeasuredClip
  curves: Curve[]
}

/** The curves of each thing that a clip moves, by their places in the list. */
const byThing = ({ clip }: Shaped): number[][] =>
  [...new Set(clip.curves.map(({ node }) => node))].map((node) =>
    clip.curves.flatMap((each, at) => (each.node === node ? [at] : [])),
  )

/**
 * Keys that a clip would have with other curves.
 * @example const keys = countKeys(shaped, curves)
 */
export const countKeys = (shaped: Shaped, curves: readonly Curve[]): number =>
  byThing(shaped).reduce((sum, own) => sum + keysOf(own.map((at) => curves[at])).length, 0)

/** Whether keys are as far apart as the game reads them, but for rounding. */
const areSlowEnough = (times: readonly number[], keysPerSecond: number): boolean =>
  times.every((seconds, key) => key === 0 || (seconds - times[key - 1]) * keysPerSecond * ROUNDING >= 1)

/**
 * All curves of a clip with their keys at the same times; what keeps to the game's rate stays as it is.
 * @example const thinned = thinClip(shaped, parameters, 1, false)
 */
export function thinClip(shaped: Shaped, chosen: AllowedErrors, error: number, all: boolean): ThinnedKeys[] {
  const { curves } = shaped
  const span: [number, number] = [
    Math.min(...curves.map(({ times }) => times[0])),
    Math.max(...curves.map(({ times }) => times[times.length - 1])),
  ]
  const made: ThinnedKeys[] = []
  for (const own of byThing(shaped)) {
    const fits = !all && areSlowEnough(keysOf(own.map((at) => curves[at])), chosen.keysPerSecond)
    for (const at of own)
      made[at] = fits
        ? { curve: curves[at], largestError: 0, worstAt: 0 }
        : thinKeys(curves[at], {
            keysPerSecond: chosen.keysPerSecond,
            allowed: allowedFor(curves[at].path, chosen, error),
            span,
          })
  }
  return made
}

/**
 * The error that is allowed of a curve, so many times as much as was chosen.
 * @example const most = allowedFor(curve.path, parameters, 1)
 */
export const allowedFor = (path: Curve['path'], chosen: AllowedErrors, times: number): number =>
  (path === 'translation' ? chosen.place : path === 'rotation' ? chosen.angleDegrees : SIZE) * times

/**
 * Puts a curve in the place of another; a sampler that serves several channels is left to the others.
 * @example writeCurve(document, clip, each, thinned)
 */
export function writeCurve(
  document: Document,
  { clip }: MeasuredClip,
  { channel }: ClipCurve,
  { times, values, path, interpolation }: Curve,
): void {
  const buffer = document.getRoot().listBuffers()[0] ?? document.createBuffer()
  const accessor = (type: 'SCALAR' | 'VEC3' | 'VEC4', array: Float32Array): Accessor =>
    document.createAccessor().setType(type).setArray(array.slice()).setBuffer(buffer)
  const sampler = channel.getSampler()
  const own = document
    .createAnimationSampler()
    .setInput(accessor('SCALAR', times))
    .setOutput(accessor(path === 'rotation' ? 'VEC4' : 'VEC3', values))
    .setInterpolation(interpolation)
  clip.addSampler(own)
  channel.setSampler(own)
  if (sampler && !clip.listChannels().some((each) => each.getSampler() === sampler)) {
    clip.removeSampler(sampler)
    sampler.dispose()
  }
}
