import { describe, expect, it } from 'vitest'
import type { Bounds } from '../../item/measure.ts'
import { groupBoxes } from './group-boxes.ts'

const cube = (x: number, y = 0, z = 0, side = 1): Bounds => ({ min: [x, y, z], max: [x + side, y + side, z + side] })
const still = (bounds: Bounds) => ({ bounds, body: 0 })
/** Every box is in one group, and none in two. */
const together = (groups: number[][]): number[] => groups.flat().sort((a, b) => a - b)

describe('boxes that share a solid', () => {
  it('are those that lie together, the largest group first', () => {
    const groups = groupBoxes([cube(0), cube(40), cube(1.1), cube(41.2), cube(2.2)].map(still), 2, 1)
    expect(groups).toEqual([
      [0, 2, 4],
      [1, 3],
    ])
  })

  it('are as many as there may be, however many boxes there are', () => {
    const boxes = Array.from({ length: 1000 }, (_, at) => still(cube((at % 10) * 3, Math.floor(at / 100) * 3, at % 7)))
    const groups = groupBoxes(boxes, 48, 1)
    expect(groups).toHaveLength(48)
    expect(together(groups)).toEqual(boxes.map((_, at) => at))
  })

  it('are joined although there are few enough where they fill their common box', () => {
    const drawer = [cube(0, 0, 0, 10), cube(4, 4, 9.5, 1), cube(6, 4, 9.5, 1)].map(still)
    expect(groupBoxes(drawer, 48, 0.9)).toEqual([[0, 1, 2]])
    expect(groupBoxes([cube(0), cube(20)].map(still), 48, 0.9)).toEqual([[0], [1]])
  })

  it('never hold what moves and what does not', () => {
    const groups = groupBoxes(
      [still(cube(0)), { bounds: cube(0.5), body: 1 }, still(cube(1)), { bounds: cube(0.2), body: 1 }],
      1,
      0.9,
    )
    expect(groups).toEqual([
      [0, 2],
      [1, 3],
    ])
  })

  it('may be flat, or points', () => {
    const sheet: Bounds = { min: [0, 0, 0], max: [8, 0, 8] }
    const point: Bounds = { min: [3, 0, 3], max: [3, 0, 3] }
    expect(together(groupBoxes([sheet, point, cube(90)].map(still), 2, 1))).toEqual([0, 1, 2])
    expect(groupBoxes([sheet, point, cube(90)].map(still), 2, 1)).toContainEqual([0, 1])
  })
})
