import { describe, expect, it } from 'vitest'
import { apart, curveSize, valueAt, type Curve } from '../../maths/curve.ts'
import { closeLoop } from './close-loop.ts'
import { thereAndBack } from './there-and-back.ts'
import { thinKeys } from './thin-keys.ts'

const curve = (
  path: Curve['path'],
  times: readonly number[],
  values: readonly (readonly number[])[],
  over = {},
): Curve => ({
  path,
  times: Float32Array.from(times),
  values: Float32Array.from(values.flat()),
  interpolation: 'LINEAR',
  ...over,
})
const turnAbout = (degrees: number): number[] => {
  const half = (degrees * Math.PI) / 360
  return [0, Math.sin(half), 0, Math.cos(half)]
}
const evenly = (count: number, seconds: number): number[] =>
  Array.from({ length: count }, (_, key) => (key * seconds) / (count - 1))

/** The largest distance between two curves at very many times, none of them chosen by the one that thins. */
function distance(a: Curve, b: Curve): number {
  const size = curveSize(a.path)
  const last = a.times[a.times.length - 1]
  let most = 0
  for (let look = 0; look <= 4999; look++) {
    const seconds = (last * look) / 4999
    most = Math.max(
      most,
      apart(a.path, valueAt(a, seconds, new Float64Array(size)), 0, valueAt(b, seconds, new Float64Array(size)), 0),
    )
  }
  return most
}
const closest = ({ times }: Curve): number =>
  times.reduce((least, seconds, key) => (key === 0 ? least : Math.min(least, seconds - times[key - 1])), Infinity)

const swing = curve(
  'rotation',
  evenly(97, 2),
  evenly(97, 2).map((seconds) => turnAbout(40 * Math.sin(seconds * Math.PI))),
)
const bounce = curve(
  'translation',
  evenly(240, 4),
  evenly(240, 4).map((seconds) => [Math.sin(seconds * 3), Math.abs(Math.cos(seconds * 2)), seconds / 4]),
)
const curved = curve(
  'translation',
  [0, 1, 2.5],
  [
    [0, 0, 0],
    [0, 0, 0],
    [4, 0, 0],
    [-3, 1, 0],
    [1, 2, 0],
    [0, 5, 0],
    [0, 0, 2],
    [3, 0, 1],
    [0, 0, 0],
  ],
  { interpolation: 'CUBICSPLINE' },
)

describe('keys that are thinned', () => {
  it.each([
    ['a swing', swing, 0.1],
    ['a swing', swing, 1],
    ['a bounce', bounce, 0.05],
    ['a bounce', bounce, 0.2],
    ['a curve with ways in and out', curved, 0.02],
  ])('leave %s within the error at any time: %#', (_, before, allowed) => {
    const { curve: after, largestError } = thinKeys(before, { keysPerSecond: 30, allowed })
    expect(largestError).toBeLessThanOrEqual(allowed)
    // What is told is what it is, but for what lies between two looks.
    expect(distance(before, after)).toBeLessThanOrEqual(largestError * 1.05 + 1e-5)
    expect(after.times.length).toBeLessThan(Math.max(before.times.length, 76))
    expect(closest(after)).toBeGreaterThan(1 / 30.05)
    expect([after.times[0], after.times.at(-1)]).toEqual([before.times[0], before.times.at(-1)])
  })

  it('are two for a straight way, and fewer the more error there may be', () => {
    const straight = curve(
      'translation',
      evenly(100, 3),
      evenly(100, 3).map((seconds) => [seconds, -seconds, 0]),
    )
    expect(thinKeys(straight, { keysPerSecond: 30, allowed: 0.001 }).curve.times.length).toBe(2)
    const counts = [0.02, 0.2, 2].map((allowed) => thinKeys(swing, { keysPerSecond: 30, allowed }).curve.times.length)
    expect(counts[0]).toBeGreaterThan(counts[1])
    expect(counts[1]).toBeGreaterThan(counts[2])
  })

  it('lie no further round from each other than a third of a turn, so that rounding sends nobody the other way', () => {
    const degrees = evenly(360, 12).map((seconds) => seconds * 30)
    const wheel = curve('rotation', evenly(360, 12), degrees.map(turnAbout))
    const { curve: after } = thinKeys(wheel, { keysPerSecond: 30, allowed: 0.2 })
    expect(after.times.length).toBeLessThan(10)
    for (let key = 1; key < after.times.length; key++)
      expect(after.times[key] - after.times[key - 1]).toBeLessThanOrEqual(120 / 30 + 0.05)
    expect(distance(wheel, after)).toBeLessThan(0.21)
  })

  it('tell where a motion is too fast for the rate', () => {
    const flick = curve('rotation', [0, 1, 1.02, 1.04, 2], [0, 0, 60, 0, 0].map(turnAbout))
    const { largestError, worstAt } = thinKeys(flick, { keysPerSecond: 10, allowed: 0.1 })
    expect(largestError).toBeGreaterThan(30)
    expect(worstAt).toBeCloseTo(1.02, 1)
  })

  it('stay jumps where a thing jumps, at the nearest time of the rate', () => {
    const jumps = curve(
      'translation',
      [0, 0.33, 0.34, 1],
      [
        [0, 0, 0],
        [1, 0, 0],
        [2, 0, 0],
        [2, 0, 0],
      ],
      { interpolation: 'STEP' },
    )
    const { curve: after } = thinKeys(jumps, { keysPerSecond: 10, allowed: 0.1 })
    expect(after.interpolation).toBe('STEP')
    expect([...after.times].map((seconds) => Number(seconds.toFixed(2)))).toEqual([0, 0.3, 1])
    expect([...after.values].filter((_, at) => at % 3 === 0)).toEqual([0, 2, 2])
  })

  it('are a single key as before, and no key is made of none', () => {
    const still = curve('scale', [0.5], [[1, 1, 1]])
    expect(thinKeys(still, { keysPerSecond: 30, allowed: 0.1 })).toEqual({
      curve: still,
      largestError: 0,
      worstAt: 0.5,
    })
  })
})

describe('a loop that is closed', () => {
  const open = curve(
    'translation',
    evenly(41, 2),
    evenly(41, 2).map((seconds) => [seconds, 0, 1]),
  )
  const ajar = curve(
    'rotation',
    evenly(41, 2),
    evenly(41, 2).map((seconds) => turnAbout(20 * seconds)),
  )

  it.each([
    ['places', open],
    ['turns', ajar],
  ])('ends where it begins: %s', (_, before) => {
    const after = closeLoop(before)
    const size = curveSize(before.path)
    const ends = [0, 2].map((seconds) => valueAt(after, seconds, new Float64Array(size)))
    expect(apart(before.path, ends[0], 0, ends[1], 0)).toBeLessThan(1e-3)
    // Three quarters are as they were.
    for (let key = 0; key <= 30; key++)
      expect(apart(before.path, after.values, key * size, before.values, key * size)).toBeLessThan(1e-5)
  })

  it('is the same where it was closed', () => {
    expect(distance(swing, closeLoop(swing))).toBeLessThan(0.01)
  })
})

describe('there and back', () => {
  const ways: [string, Curve, number][] = [
    ['straight', bounce, 4],
    ['turning', swing, 2],
    ['by ways in and out', curved, 2.5],
    ['standing still until its clip ends', bounce, 5],
  ]

  it.each(ways)('is as before on the way out and the same the other way round: %s', (_, before, end) => {
    const after = thereAndBack(before, end)
    const size = curveSize(before.path)
    expect(after.times.at(-1)).toBeCloseTo(2 * end - before.times[0], 5)
    expect([...after.times]).toEqual([...after.times].sort((a, b) => a - b))
    const at = (curve: Curve, seconds: number) => valueAt(curve, seconds, new Float64Array(size))
    for (let look = 0; look <= 40; look++) {
      const seconds = (end * look) / 40
      expect(apart(before.path, at(before, seconds), 0, at(after, seconds), 0)).toBeLessThan(1e-4)
      expect(apart(before.path, at(after, seconds), 0, at(after, 2 * end - seconds), 0)).toBeLessThan(2e-3)
    }
  })

  it('holds the turn once', () => {
    const after = thereAndBack(
      curve(
        'translation',
        [0, 1],
        [
          [0, 0, 0],
          [1, 0, 0],
        ],
      ),
      1,
    )
    expect([...after.times]).toEqual([0, 1, 2])
    expect([...after.values]).toEqual([0, 0, 0, 1, 0, 0, 0, 0, 0])
  })
})
