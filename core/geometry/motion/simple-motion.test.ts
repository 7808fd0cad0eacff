import { describe, expect, it } from 'vitest'
import { apart, valueAt, type Curve } from '../../maths/curve.ts'
import { cutCurve } from './cut-curve.ts'
import { simpleCurve, simpleWays, type SimpleMotion } from './simple-motion.ts'

const rest = { translation: [1, 2, 3], rotation: [0, Math.SQRT1_2, 0, Math.SQRT1_2] }
const plain: SimpleMotion = {
  way: 'there-and-back',
  axis: [0, 2, 0],
  distance: 5,
  angleDegrees: 40,
  seconds: 4,
  easing: 'even',
  begins: 0,
}
const at = (curve: Curve, seconds: number): number[] =>
  valueAt(curve, seconds, [0, 0, 0, 0].slice(0, curve.path === 'rotation' ? 4 : 3))
const turned = (curve: Curve, seconds: number): number => apart('rotation', at(curve, seconds), 0, rest.rotation, 0)

describe('a simple motion', () => {
  it.each(simpleWays.flatMap((way) => (['even', 'soft'] as const).map((easing) => [way, easing] as const)))(
    '%s, %s, ends where it begins and begins at rest',
    (way, easing) => {
      const curve = simpleCurve({ ...plain, way, easing }, rest, 30)
      const ends = [at(curve, 0), at(curve, 4)]
      expect(apart(curve.path, ends[0], 0, ends[1], 0)).toBe(0)
      expect(
        apart(curve.path, ends[0], 0, curve.path === 'rotation' ? rest.rotation : rest.translation, 0),
      ).toBeLessThan(1e-5)
      expect(curve.times).toHaveLength(121)
    },
  )
  it('goes as far along its line as is said, however long the line is given', () => {
    const curve = simpleCurve(plain, rest, 30)
    expect(at(curve, 2)).toEqual([1, 7, 3])
    expect(at(curve, 1)[1]).toBeCloseTo(4.5, 5)
    expect(at(simpleCurve({ ...plain, easing: 'soft' }, rest, 30), 0.5)[1]).toBeLessThan(2 + 5 * 0.2)
  })
  it('swings to both sides, opens to one, and turns once round', () => {
    const swing = simpleCurve({ ...plain, way: 'swing', easing: 'soft' }, rest, 30)
    expect([1, 2, 3].map((seconds) => Math.round(turned(swing, seconds)))).toEqual([40, 0, 40])
    expect(apart('rotation', at(swing, 1), 0, at(swing, 3), 0)).toBeCloseTo(80, 3)
    const open = simpleCurve({ ...plain, way: 'open-and-close', easing: 'soft' }, rest, 30)
    expect([1, 2, 3].map((seconds) => Math.round(turned(open, seconds)))).toEqual([20, 40, 20])
    const round = simpleCurve({ ...plain, way: 'turn' }, rest, 30)
    expect([1, 2, 3].map((seconds) => Math.round(turned(round, seconds)))).toEqual([90, 180, 90])
  })
  it('begins at any share of its round', () => {
    const curve = simpleCurve({ ...plain, begins: 0.5 }, rest, 30)
    expect(at(curve, 0)).toEqual([1, 7, 3])
    expect(at(curve, 2)).toEqual([1, 2, 3])
  })
})

describe('a cut curve', () => {
  it('is at any time where the whole was, also where no key stood', () => {
    const whole = simpleCurve({ ...plain, easing: 'soft' }, rest, 10)
    const piece = cutCurve(whole, 0.77, 2.93, 30)
    expect(piece.times[0]).toBe(0)
    expect(piece.times.at(-1)).toBeCloseTo(2.16, 5)
    for (let seconds = 0; seconds <= 2.16; seconds += 0.05)
      expect(apart('translation', at(piece, seconds), 0, at(whole, seconds + 0.77), 0)).toBeLessThan(1e-5)
  })
  it('puts a bow straight within little', () => {
    const bow: Curve = {
      path: 'translation',
      times: Float32Array.from([0, 2]),
      values: Float32Array.from([0, 0, 0, 0, 0, 0, 0, 6, 0, 0, -6, 0, 4, 0, 0, 0, 0, 0]),
      interpolation: 'CUBICSPLINE',
    }
    const piece = cutCurve(bow, 0.5, 1.5, 30)
    expect(piece.interpolation).toBe('LINEAR')
    for (let seconds = 0; seconds <= 1; seconds += 0.1)
      expect(apart('translation', at(piece, seconds), 0, at(bow, seconds + 0.5), 0)).toBeLessThan(0.01)
  })
})
