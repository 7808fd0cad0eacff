import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { axesTurn, axisNames, axisVector, customaryForward, isIdentity, multiplyMatrices } from './axes.ts'
import { apart, curveSize, valueAt, type Curve } from './curve.ts'
import {
  chainMatrices,
  composeMatrix,
  decomposeMatrix,
  determinantOf,
  invertMatrix,
  keepNear,
  rotationMatrix,
  scalingMatrix,
  transformedNormals,
  transformedPoints,
  translationMatrix,
} from './matrices.ts'
import { multiplyTurns, nearTurn, unitTurn } from './turns.ts'
import { cross, dot, lengthOf } from './vectors.ts'
import { wrapped } from './wrapped.ts'

const number = fc.double({ min: -50, max: 50, noNaN: true })
const triple = fc.tuple(number, number, number)
const turn = fc
  .tuple(number, number, number, number)
  .filter((values) => Math.hypot(...values) > 1)
  .map((values) => unitTurn(values))
const size = fc.tuple(...[0, 1, 2].map(() => fc.double({ min: 0.1, max: 20, noNaN: true })))
const closeTo = (a: ArrayLike<number>, b: ArrayLike<number>, digits = 6): void => {
  expect(a.length).toBe(b.length)
  for (let at = 0; at < a.length; at++) expect(a[at]).toBeCloseTo(b[at], digits)
}
const of = (matrix: readonly number[], point: readonly number[]): number[] => [
  ...transformedPoints(Float32Array.from(point), matrix),
]

describe('matrices', () => {
  it('are taken apart into what they were made of, but for the sign of a turn', () => {
    fc.assert(
      fc.property(triple, turn, size, (translation, rotation, scale) => {
        const apartAgain = decomposeMatrix(composeMatrix(translation, rotation, scale))
        closeTo(apartAgain.translation, translation)
        closeTo(apartAgain.scale, scale, 5)
        closeTo(nearTurn(apartAgain.rotation, rotation), rotation, 5)
      }),
    )
  })

  it('are undone by their inverse', () => {
    fc.assert(
      fc.property(triple, turn, size, (translation, rotation, scale) => {
        const matrix = composeMatrix(translation, rotation, scale)
        const back = invertMatrix(matrix)
        expect(back).not.toBeNull()
        closeTo(multiplyMatrices(matrix, back ?? []), [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1], 5)
      }),
    )
  })

  it('that flatten space, or are broken, have no inverse', () => {
    expect(invertMatrix(scalingMatrix(1, 0, 1))).toBeNull()
    expect(invertMatrix(scalingMatrix(NaN, 1, 1))).toBeNull()
  })

  it('chained do the last one first', () => {
    expect(of(chainMatrices(translationMatrix(1, 0, 0), scalingMatrix(2, 2, 2)), [3, 0, 0])).toEqual([7, 0, 0])
    expect(of(chainMatrices(scalingMatrix(2, 2, 2), translationMatrix(1, 0, 0)), [3, 0, 0])).toEqual([8, 0, 0])
    expect(isIdentity(chainMatrices())).toBe(true)
  })

  it('that turn keep lengths and the way round; a mirror turns it over', () => {
    fc.assert(
      fc.property(triple, number, (axis, angle) => {
        const matrix = rotationMatrix(axis[0], axis[1], axis[2], angle)
        expect(determinantOf(matrix)).toBeCloseTo(1, 6)
        expect(lengthOf(of(matrix, [3, 4, 12]))).toBeCloseTo(13, 3)
      }),
    )
    expect(determinantOf(rotationMatrix(0, 5e-324, 5e-324, 1))).toBe(1)
    expect(determinantOf(scalingMatrix(2, 2, -2))).toBe(-8)
    closeTo(of(rotationMatrix(0, 0, 1, Math.PI / 2), [1, 0, 0]), [0, 1, 0])
  })

  it('keep normals square to their surface, whatever they do to it', () => {
    fc.assert(
      fc.property(turn, size, fc.boolean(), triple, triple, (rotation, scale, mirrors, a, b) => {
        fc.pre(lengthOf(cross(a, b)) > 10)
        const matrix = composeMatrix([0, 0, 0], rotation, [mirrors ? -scale[0] : scale[0], scale[1], scale[2]])
        const normal = cross(a, b).map((value) => value / lengthOf(cross(a, b)))
        const [movedA, movedB] = [of(matrix, a), of(matrix, b)]
        const moved = transformedNormals(Float32Array.from(normal), matrix)
        expect(lengthOf([...moved])).toBeCloseTo(1, 4)
        for (const along of [movedA, movedB]) expect(dot([...moved], along) / (lengthOf(along) || 1)).toBeCloseTo(0, 3)
      }),
    )
  })
})

describe('turns', () => {
  it('one after the other are as their matrices are', () => {
    fc.assert(
      fc.property(turn, turn, triple, (a, b, point) => {
        const matrixOf = (rotation: readonly number[]) => composeMatrix([0, 0, 0], rotation, [1, 1, 1])
        const both = of(matrixOf(multiplyTurns(a, b)), point)
        closeTo(both, of(matrixOf(a), of(matrixOf(b), point)), 3)
      }),
    )
  })

  it('of no length stay as they are', () => {
    expect(unitTurn([0, 0, 0, 0])).toEqual([0, 0, 0, 0])
  })

  it('keep to one side from key to key, so that motion takes the short way', () => {
    const keys = keepNear(Float32Array.of(0, 0, 0, 1, 0, 0, 0, -1, 0, 0.6, 0, -0.8))
    closeTo(keys, [0, 0, 0, 1, 0, 0, 0, 1, 0, -0.6, 0, 0.8])
  })
})

describe('axes', () => {
  it('of any pair are turned into any other, right-handed as they were', () => {
    const pairs = axisNames.flatMap((up) =>
      axisNames.filter((forward) => forward[1] !== up[1]).map((forward) => [up, forward] as const),
    )
    expect(pairs).toHaveLength(24)
    for (const [up, forward] of pairs)
      for (const [toUp, toForward] of pairs) {
        const matrix = axesTurn(up, forward, toUp, toForward)
        expect(of(matrix, axisVector(up)).map((value) => value + 0)).toEqual(axisVector(toUp).map((value) => value + 0))
        expect(of(matrix, axisVector(forward)).map((value) => value + 0)).toEqual(
          axisVector(toForward).map((value) => value + 0),
        )
        expect(determinantOf(matrix)).toBe(1)
      }
  })

  it('have a customary forward beside each up', () => {
    for (const up of axisNames) expect(customaryForward(up)[1]).not.toBe(up[1])
  })
})

describe('places on a line that begins again', () => {
  it('are always on it', () => {
    fc.assert(
      fc.property(fc.integer({ min: -1e6, max: 1e6 }), fc.integer({ min: 1, max: 999 }), (at, length) => {
        const place = wrapped(at, length)
        expect(place >= 0 && place < length).toBe(true)
        expect((at - place) % length === 0).toBe(true)
      }),
    )
  })
})

describe('curves', () => {
  const curve = (more: Partial<Curve> = {}): Curve => ({
    path: 'translation',
    times: Float32Array.of(1, 2, 4),
    values: Float32Array.of(0, 0, 0, 2, 0, 0, 2, 4, 0),
    interpolation: 'LINEAR',
    ...more,
  })
  const at = (of: Curve, seconds: number): number[] =>
    valueAt(of, seconds, new Array<number>(curveSize(of.path)).fill(0))

  it('stand still before their first key and after their last', () => {
    expect(at(curve(), -5)).toEqual([0, 0, 0])
    expect(at(curve(), 99)).toEqual([2, 4, 0])
  })

  it('go straight from key to key, or jump', () => {
    expect(at(curve(), 1.5)).toEqual([1, 0, 0])
    expect(at(curve(), 3)).toEqual([2, 2, 0])
    expect(at(curve({ interpolation: 'STEP' }), 3.99)).toEqual([2, 0, 0])
    expect(at(curve({ interpolation: 'STEP' }), 4)).toEqual([2, 4, 0])
  })

  it('turn the short way, at an even pace', () => {
    const half = Math.SQRT1_2
    const turning = curve({
      path: 'rotation',
      times: Float32Array.of(0, 1),
      // A quarter turn, its second key written with the other signs.
      values: Float32Array.of(0, 0, 0, 1, 0, -half, 0, -half),
    })
    const angle = (seconds: number): number => apart('rotation', at(turning, seconds), 0, [0, 0, 0, 1], 0)
    expect(angle(1)).toBeCloseTo(90, 3)
    expect(angle(0.5)).toBeCloseTo(45, 3)
    expect(angle(0.25)).toBeCloseTo(22.5, 3)
  })

  it('of cubic keys pass through them with their slopes', () => {
    const cubic = curve({
      interpolation: 'CUBICSPLINE',
      times: Float32Array.of(0, 2),
      // way in, value, way out: it sets off at 3 a second and comes to rest.
      values: Float32Array.of(0, 0, 0, 0, 0, 0, 3, 0, 0, 0, 0, 0, 4, 0, 0, 0, 0, 0),
    })
    expect(at(cubic, 0)).toEqual([0, 0, 0])
    expect(at(cubic, 2)).toEqual([4, 0, 0])
    const slope = (seconds: number): number => (at(cubic, seconds + 1e-3)[0] - at(cubic, seconds)[0]) / 1e-3
    expect(slope(0)).toBeCloseTo(3, 1)
    expect(slope(1.998)).toBeCloseTo(0, 1)
  })

  it('of one key are that key, and keys at one time make no gap', () => {
    expect(at(curve({ times: Float32Array.of(1), values: Float32Array.of(7, 8, 9) }), 0.5)).toEqual([7, 8, 9])
    const doubled = curve({ times: Float32Array.of(1, 1, 2), values: Float32Array.of(0, 0, 0, 5, 0, 0, 6, 0, 0) })
    expect(at(doubled, 1.5)[0]).toBeCloseTo(5.5)
    expect(at(doubled, 1).every(Number.isFinite)).toBe(true)
  })

  it('lie apart by length, by angle and by the largest difference of sizes', () => {
    expect(apart('translation', [0, 0, 0], 0, [3, 4, 0], 0)).toBe(5)
    expect(apart('scale', [1, 1, 1], 0, [1, 3, 2], 0)).toBe(2)
    expect(apart('rotation', [0, 0, 0, 1], 0, [0, 0, 0, -1], 0)).toBe(0)
    expect(apart('rotation', [0, 0, 0, 1], 0, [0, 1, 0, 0], 0)).toBeCloseTo(180)
    // An angle far smaller than a cosine could tell.
    expect(apart('rotation', [0, 0, 0, 1], 0, [1e-7, 0, 0, 1], 0)).toBeCloseTo((2e-7 * 180) / Math.PI, 9)
  })
})
