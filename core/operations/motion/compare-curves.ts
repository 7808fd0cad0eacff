import type { Document } from '@gltf-transform/core'
import type { Rulebook } from '../../game/schema.ts'
import { apart, curveSize, valueAt, type Curve } from '../../maths/curve.ts'
import { bytesOfCurves, sampleClips, type Sampling } from './sample-clips.ts'
import { allowedFor } from './thin-clip.ts'

/** A curve before and after sampling, as it is drawn: how far from where it begins, and how far apart both are. */
export interface ComparedCurve {
  clip: string
  node: string
  path: Curve['path']
  /** Game units, degrees, or parts of its size. */
  unit: 'length' | 'degrees' | 'share'
  seconds: Float32Array
  before: Float32Array
  after: Float32Array
  error: Float32Array
  /** Seconds of the keys that are left, and how far each is from where the curve begins. */
  keys: Float32Array
  keyValues: Float32Array
  allowed: number
  worst: { error: number; at: number }
}

export interface ComparedSampling {
  keysBefore: number
  keysAfter: number
  bytesBefore: number
  bytesAfter: number
  /** The curves that are furthest off, the worst first. */
  curves: ComparedCurve[]
}

const SAMPLES = 240
const MOST_CURVES = 24
const MOST_KEYS_DRAWN = 2000
const units: Record<Curve['path'], ComparedCurve['unit']> = {
  translation: 'length',
  rotation: 'degrees',
  scale: 'share',
}

/**
 * How sampling changes each curve of an item, for drawing while its settings are tried.
 * @example const compared = await compareCurves(document, sampling, rulebook)
 */
export async function compareCurves(
  document: Document,
  sampling: Sampling,
  rulebook: Rulebook,
): Promise<ComparedSampling> {
  const { clips, keysBefore, keysAfter, times } = await sampleClips(document, sampling, rulebook)
  const all = clips.flatMap(({ shaped, made }) =>
    shaped.curves.map((before, at) => ({
      clip: shaped.clip.name,
      node: shaped.clip.curves[at].node.getName(),
      before,
      after: made[at],
    })),
  )
  const worst = [...all].sort((a, b) => share(b) - share(a)).slice(0, MOST_CURVES)
  function share({ after }: (typeof all)[number]): number {
    return after.largestError / (allowedFor(after.curve.path, sampling, times) || 1)
  }
  return {
    keysBefore,
    keysAfter,
    bytesBefore: bytesOfCurves(clips.flatMap(({ shaped }) => shaped.clip.curves.map(({ curve }) => curve))),
    bytesAfter: bytesOfCurves(clips.flatMap(({ made }) => made.map(({ curve }) => curve))),
    curves: worst.map(({ clip, node, before, after }) => ({
      clip,
      node,
      ...drawn(before, after.curve),
      allowed: allowedFor(before.path, sampling, times),
      worst: { error: after.largestError, at: after.worstAt },
    })),
  }
}

function drawn(before: Curve, after: Curve): Omit<ComparedCurve, 'clip' | 'node' | 'allowed' | 'worst'> {
  const { path, times } = before
  const size = curveSize(path)
  const [begin, end] = [times[0], times[times.length - 1]]
  const first = valueAt(before, begin, new Float64Array(size))
  const seconds = Float32Array.from({ length: SAMPLES }, (_, at) => begin + ((end - begin) * at) / (SAMPLES - 1))
  const valuesOf = (curve: Curve, at: number): Float64Array => valueAt(curve, at, new Float64Array(size))
  const fromFirst = (curve: Curve, at: number): number => apart(path, valuesOf(curve, at), 0, first, 0)
  const step = Math.max(1, Math.ceil(after.times.length / MOST_KEYS_DRAWN))
  const keys = after.times.filter((_, key) => key % step === 0)
  return {
    path,
    unit: units[path],
    seconds,
    before: seconds.map((at) => fromFirst(before, at)),
    after: seconds.map((at) => fromFirst(after, at)),
    error: seconds.map((at) => apart(path, valuesOf(before, at), 0, valuesOf(after, at), 0)),
    keys,
    keyValues: keys.map((at) => fromFirst(after, at)),
  }
}
