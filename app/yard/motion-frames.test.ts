import { describe, expect, it } from 'vitest'
import { framesAt } from './motion-frames'

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
