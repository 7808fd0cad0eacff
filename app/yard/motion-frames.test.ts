import { describe, expect, it } from 'vitest'
import { framesAt, matrixAt } from './motion-frames'

const motion = { seconds: 2, frames: 5 }

describe('frames of a motion', () => {
  it.each([
    [0, 0, 0],
    [0.25, 0, 0.5],
    [0.5, 1, 0],
    [1.75, 3, 0.5],
    [2, 3, 1],
    [-1, 0, 0],
    [9, 3, 1],
  ])('at %d s are %d and the next, %d of the way', (seconds, frame, share) => {
    const [found, along] = framesAt(motion, seconds)
    expect(found).toBe(frame)
    expect(along).toBeCloseTo(share, 9)
  })
})

describe('where a thing is at a time', () => {
  // It goes 4 along X in each frame.
  const matrices = Float32Array.from({ length: 5 * 16 }, (_, at) =>
    at % 16 === 12 ? Math.floor(at / 16) * 4 : at % 16 === 15 ? 1 : 0,
  )
  it.each([
    [0, 0],
    [0.25, 2],
    [0.5, 4],
    [2, 16],
    [7, 16],
  ])('at %d s is %d along', (seconds, along) => {
    const found = matrixAt(motion, matrices, seconds, new Array<number>(16))
    expect(found[12]).toBeCloseTo(along, 6)
    expect(found[15]).toBe(1)
  })
})
