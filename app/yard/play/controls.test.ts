import { describe, expect, it } from 'vitest'
import { actionKeys, actionTitles, padActions, walkAlong, type PadState } from './controls'

const pad = (...pressed: number[]): PadState => ({ forward: 0, right: 0, turn: 0, pressed: new Set(pressed) })

describe('walking by the way one looks', () => {
  it('goes along the ground however far one looks up or down, and right is right', () => {
    for (const tilt of [-0.9, 0, 0.9]) {
      const walk = walkAlong([0, tilt, -1], [0, 1, 0], 1, 0)
      walk.forEach((value, axis) => expect(value).toBeCloseTo([0, 0, -1][axis]))
      walkAlong([0, tilt, -1], [0, 1, 0], 0, 1).forEach((value, axis) => expect(value).toBeCloseTo([1, 0, 0][axis]))
    }
  })
  it('works where Z is up', () => {
    walkAlong([1, 0, -0.3], [0, 0, 1], 1, 0).forEach((value, axis) => expect(value).toBeCloseTo([1, 0, 0][axis]))
    walkAlong([1, 0, 0], [0, 0, 1], 0, 1).forEach((value, axis) => expect(value).toBeCloseTo([0, -1, 0][axis]))
  })
})

describe('acting', () => {
  it('a button acts when it is pressed and not while it is held', () => {
    expect(padActions(pad(7), null)).toEqual(['ball'])
    expect(padActions(pad(7), pad(7))).toEqual([])
    expect(padActions(pad(7, 2, 15), pad(7))).toEqual(['hit'])
  })
  it('every action has a key and a button of its own', () => {
    expect(new Set(Object.values(actionKeys)).size).toBe(actionTitles.length)
    expect(Object.values(actionKeys).sort()).toEqual(actionTitles.map(({ action }) => action).sort())
  })
})
