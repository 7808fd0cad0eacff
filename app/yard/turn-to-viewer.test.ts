import { Vector3 } from 'three'
import { describe, expect, it } from 'vitest'
import { turnToViewer } from './turn-to-viewer'

const front = (turn: ReturnType<typeof turnToViewer>): number[] =>
  new Vector3(0, 0, 1).transformDirection(turn).toArray()

describe('what is turned to who looks', () => {
  it.each([[[5, 3, 0]], [[-2, 9, -4]], [[0, 1, -7]]])('stays upright and shows its front to an eye at %j', (eye) => {
    const turn = turnToViewer('upright', [0, 4, 0], eye)
    const level = Math.hypot(eye[0], eye[2])
    expect(front(turn)[0]).toBeCloseTo(eye[0] / level, 6)
    expect(front(turn)[2]).toBeCloseTo(eye[2] / level, 6)
    expect(new Vector3(0, 5, 0).applyMatrix4(turn).toArray()).toEqual([0, 5, 0])
  })
  it('looks straight at the eye where it may turn freely, its middle staying where it is', () => {
    const [middle, eye] = [
      [0, 4, 0],
      [3, 8, -2],
    ]
    const turn = turnToViewer('freely', middle, eye)
    const ahead = new Vector3(3, 4, -2).normalize().toArray()
    front(turn).forEach((value, axis) => expect(value).toBeCloseTo(ahead[axis], 6))
    new Vector3(...(middle as [number, number, number]))
      .applyMatrix4(turn)
      .toArray()
      .forEach((value, axis) => expect(value).toBeCloseTo(middle[axis], 6))
    // It is not rolled: what was level stays level.
    expect(new Vector3(1, 0, 0).transformDirection(turn).y).toBeCloseTo(0, 6)
  })
  it('is turned somehow, and by no turn that is none, from right above and from its own middle', () => {
    for (const eye of [
      [0, 9, 0],
      [0, 4, 0],
    ])
      expect(Math.abs(turnToViewer('freely', [0, 4, 0], eye).determinant() - 1)).toBeLessThan(1e-6)
  })
})
