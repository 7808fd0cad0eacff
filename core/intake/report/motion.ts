import type { Animation } from '@gltf-transform/core'
import type { OddityCheck } from './oddity.ts'

/** What a clip is like in time. */
export interface ClipFacts {
  name: string
  seconds: number
  keys: number
  keysPerSecond: number
  startsAt: number
  /** Whether every track ends where it began. */
  closes: boolean
}

/**
 * What a clip is like in time, over all its tracks.
 * @example const { seconds } = clipFacts(clip)
 */
export function clipFacts(animation: Animation): ClipFacts {
  const samplers = animation.listSamplers()
  const ends = samplers.map((sampler) => {
    const input = sampler.getInput()
    const count = input?.getCount() ?? 0
    const time = (key: number): number => input?.getElement(key, [])[0] ?? 0
    const output = sampler.getOutput()
    const value = (key: number): number[] =>
      output && output.getCount() > key && key >= 0 ? output.getElement(key, []) : []
    const [first, last] = [value(0), value((output?.getCount() ?? 0) - 1)]
    const size = Math.max(1, ...first.map(Math.abs))
    return {
      count,
      from: time(0),
      to: time(count - 1),
      closes: first.every((number, axis) => Math.abs(number - last[axis]) < size * 1e-3),
    }
  })
  const seconds = Math.max(0, ...ends.map((each) => each.to))
  return {
    name: animation.getName(),
    seconds,
    keys: ends.reduce((sum, each) => sum + each.count, 0),
    keysPerSecond: Math.max(
      0,
      ...ends.map((each) => (each.to > each.from ? (each.count - 1) / (each.to - each.from) : 0)),
    ),
    startsAt:
      Math.min(...ends.map((each) => each.from), Infinity) === Infinity
        ? 0
        : Math.min(...ends.map((each) => each.from)),
    closes: ends.every((each) => each.closes),
  }
}

const DENSE = 30

/**
 * Motion that jumps where it begins again, starts late, or has more keys than anyone can see.
 * @example const oddities = checkMotion(context)
 */
export const checkMotion: OddityCheck = ({ document }) =>
  document
    .getRoot()
    .listAnimations()
    .map(clipFacts)
    .flatMap((clip) => {
      const odd = []
      const name = clip.name || 'the motion'
      if (!clip.closes)
        odd.push({
          id: 'loop-open',
          where: name,
          message: `${name} does not end where it began: it jumps when it repeats`,
          mend: null,
        })
      if (clip.keysPerSecond > DENSE * 1.01)
        odd.push({
          id: 'keys-dense',
          where: name,
          message: `${name} has ${Math.round(clip.keysPerSecond)} keys a second`,
          mend: null,
        })
      if (clip.startsAt > 1e-3)
        odd.push({
          id: 'starts-late',
          where: name,
          message: `${name} begins at ${Number(clip.startsAt.toFixed(2))} s, not at 0`,
          mend: null,
        })
      return odd
    })
