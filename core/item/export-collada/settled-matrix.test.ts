import { describe, expect, it } from 'vitest'
import { composeMatrix, decomposeMatrix, type Matrix } from '../../maths/matrices.ts'
import { numbers } from '../../test-support/pictures.ts'
import { settledMatrix } from './settled-matrix.ts'

interface Place {
  translation: number[]
  rotation: number[]
  scale: number[]
}

const unit = (rotation: number[]): number[] => rotation.map((part) => part / Math.hypot(...rotation))

/** Turns of every kind: about one axis, hardly turned at all, and any. */
function places(count: number, scaleOf: (next: () => number) => number[]): Place[] {
  const next = numbers(5)
  return Array.from({ length: count }, (_, number) => {
    const half = next() * (number % 3 === 0 ? 0.02 : 1.5)
    const rotation =
      number % 2 === 0
        ? [0, 0, Math.sin(half), Math.cos(half)]
        : unit([next() - 0.5, next() - 0.5, next() - 0.5, next() - 0.5])
    return { translation: [next() * 40, next() - 0.5, -next()], rotation, scale: scaleOf(next) }
  })
}

const settled = ({ translation, rotation, scale }: Place): Matrix => settledMatrix(translation, rotation, scale)

/** What a reader keeps of a matrix: its parts as 32-bit numbers. */
function read(matrix: Matrix): Place {
  const { translation, rotation, scale } = decomposeMatrix(matrix)
  return {
    translation: translation.map(Math.fround),
    rotation: rotation.map(Math.fround),
    scale: scale.map(Math.fround),
  }
}

describe('the matrix of a place in a file', () => {
  it.each([
    ['as it is', () => [1, 1, 1]],
    ['fifty times as large', () => [50, 50, 50]],
    ['a hundredth', () => [0.01, 0.01, 0.01]],
    ['stretched', (next: () => number) => [0.5 + next(), 0.5 + next(), 0.5 + next()]],
  ] as const)('is the same when it was read and is written again: %s', (_what, scaleOf) => {
    for (const place of places(600, (next) => [...scaleOf(next)])) {
      const matrix = settled(place)
      expect(settled(read(matrix))).toEqual(matrix)
    }
  })

  it('is where the place was, to two millionths of its scale', () => {
    for (const scale of [1, 50, 0.01])
      for (const place of places(200, () => [scale, scale, scale])) {
        const exact = composeMatrix(place.translation, place.rotation, place.scale)
        for (const [at, value] of settled(place).entries())
          expect(Math.abs(value - exact[at])).toBeLessThan(at < 12 ? scale * 2e-6 : 4e-6)
      }
  })

  it('takes the scale from the node where it is said that it stays', () => {
    const place = { translation: [0, 0, 0], rotation: unit([0, 0, 0.00764, 1]), scale: [1, 1, 1] }
    const still = { rotation: false, scale: true }
    const matrix = settledMatrix(place.translation, place.rotation, place.scale, still)
    const again = read(matrix)
    expect(settledMatrix(again.translation, again.rotation, [1, 1, 1], still)).toEqual(matrix)
  })

  it('ends for what is no place', () => {
    expect(
      settledMatrix([0, 0, 0], [0, 0, 0, 0], [0, 0, 0])
        .slice(0, 12)
        .every((value) => value === 0),
    ).toBe(true)
    expect(settledMatrix([NaN, 0, 0], [0, 0, 0, 1], [1, 1, 1])).toHaveLength(16)
  })
})
