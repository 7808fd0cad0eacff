import { describe, expect, it } from 'vitest'
import { composeMatrix, decomposeMatrix, invertMatrix, transformedNormals } from './matrices.ts'
import { numbers } from '../test-support/pictures.ts'

const turned = composeMatrix([3, -2, 1], [0.1, 0.7, -0.2, Math.sqrt(1 - 0.54)], [2, 2, 2])

/** Directions that are one long, but for what six digits leave. */
function roundedDirections(count: number): Float32Array {
  const next = numbers(11)
  return Float32Array.from(
    Array.from({ length: count }, () => {
      const way = [next() - 0.5, next() - 0.5, next() - 0.5]
      const length = Math.hypot(...way)
      return way.map((value) => Math.round((value / length) * 1e6) / 1e6)
    }).flat(),
  )
}

describe('normals under a matrix', () => {
  it('come back to the same six digits, turned there and back', () => {
    const directions = roundedDirections(500)
    const there = transformedNormals(directions, turned)
    const back = transformedNormals(there, invertMatrix(turned) ?? [])
    for (const [at, value] of back.entries()) expect(Math.round(value * 1e6)).toBe(Math.round(directions[at] * 1e6))
  })

  it('are one long, whatever length they came with', () => {
    const moved = transformedNormals(Float32Array.from([0, 3, 0, 0, 0, 0.2]), turned)
    for (const at of [0, 3]) expect(Math.hypot(...moved.subarray(at, at + 3))).toBeCloseTo(1, 6)
  })

  it('stay away from the side that they pointed away from where the matrix mirrors', () => {
    const mirrored = composeMatrix([0, 0, 0], [0, 0, 0, 1], [-1, 1, 1])
    expect(
      Array.from(transformedNormals(Float32Array.from([1, 0, 0, 0, 1, 0]), mirrored), (value) => value + 0),
    ).toEqual([-1, 0, 0, 0, 1, 0])
  })
})

describe('a matrix that is taken apart and put together', () => {
  it('does not drift, however often it is done', () => {
    const next = numbers(3)
    for (let number = 0; number < 200; number++) {
      const raw = [next() - 0.5, next() - 0.5, next() - 0.5, next() - 0.5]
      const first = composeMatrix(
        [0, 0, 0],
        raw.map((part) => part / Math.hypot(...raw)),
        [1, 1, 1],
      )
      let matrix = first
      for (let round = 0; round < 60; round++) {
        const { translation, rotation, scale } = decomposeMatrix(matrix.map(Math.fround))
        matrix = composeMatrix(translation, rotation, scale)
      }
      for (const [at, value] of matrix.entries()) expect(value).toBeCloseTo(first[at], 4)
    }
  })

  it('has a turn that is one long, though its columns were rounded', () => {
    const rounded = composeMatrix([0, 0, 0], [0, 0.6, 0, 0.8], [1, 1, 1]).map((value) => Math.round(value * 100) / 100)
    expect(Math.hypot(...decomposeMatrix(rounded).rotation)).toBeCloseTo(1, 12)
  })
})
