import { describe, expect, it } from 'vitest'
import { facesSchema, movedPlacement, movedShape, placementSchema, pointsSchema, shapeEditSchema } from './pick-values'

/** Where a placement's middle lies on its surface, from what it is told: its own right and up are turned. */
function middleOf({ right, up, turnDegrees }: { right: number; up: number; turnDegrees: number }): [number, number] {
  const angle = (turnDegrees * Math.PI) / 180
  return [right * Math.cos(angle) - up * Math.sin(angle), right * Math.sin(angle) + up * Math.cos(angle)]
}
const still = { right: 0, up: 0, width: 1, turnDegrees: 0 }

describe('a picture that is placed by hand', () => {
  it('stays where it is when it is turned, however it was turned before', () => {
    for (const turnDegrees of [0, 30, -170]) {
      const before = { right: 2, up: -1, width: 3, turnDegrees }
      const after = movedPlacement(before, { ...still, turnDegrees: 50 })
      middleOf(after).forEach((value, axis) => expect(value).toBeCloseTo(middleOf(before)[axis], 2))
      expect(after.turnDegrees).toBeCloseTo(((turnDegrees + 50 + 540) % 360) - 180)
    }
  })
  it('moves along its own right and up, and is sized by a factor', () => {
    expect(
      movedPlacement({ right: 1, up: 1, width: 2, turnDegrees: 90 }, { ...still, right: 0.5, up: -0.25, width: 1.5 }),
    ).toEqual({ right: 1.5, up: 0.75, width: 3, turnDegrees: 90 })
  })
  it('is never without width, and reads anything malformed as unmoved', () => {
    expect(movedPlacement({ right: 0, up: 0, width: 0.02, turnDegrees: 0 }, { ...still, width: 0.001 }).width).toBe(
      0.01,
    )
    expect(placementSchema.parse({ right: 'far', width: -2 })).toEqual({ right: 0, up: 0, width: 1, turnDegrees: 0 })
  })
})

describe('a solid that is placed by hand', () => {
  const edit = {
    moved: [1, 2, 3] as [number, number, number],
    turnedDegrees: [0, 170, 0] as [number, number, number],
    sized: [2, 1, 0.5] as [number, number, number],
  }
  it('adds moves and turns up, and multiplies sizes', () => {
    expect(movedShape(edit, { moved: [0.5, 0, -3], turnedDegrees: 20, sized: [2, 1, 1] })).toEqual({
      moved: [1.5, 2, 0],
      turnedDegrees: [0, -170, 0],
      sized: [4, 1, 0.5],
    })
  })
  it('reads anything malformed as unmoved', () => {
    expect(shapeEditSchema.parse({ moved: [1, 2], sized: null })).toEqual({
      moved: [0, 0, 0],
      turnedDegrees: [0, 0, 0],
      sized: [1, 1, 1],
    })
  })
})

describe('picks', () => {
  it('of older crates have no radius, and what is no pick is none', () => {
    expect(facesSchema.parse([{ part: 'a', point: [0, 0, 0], growth: 'flat', angleDegrees: 20 }])[0].radius).toBe(0)
    expect(facesSchema.parse([{ part: 'a', growth: 'sideways' }])).toEqual([])
    expect(pointsSchema.parse('here')).toEqual([])
  })
})
