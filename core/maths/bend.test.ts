import { describe, expect, it } from 'vitest'
import { identityMatrix, multiplyMatrices } from './axes.ts'
import { blend, carriedBy, heldCorners, SLOTS, type BoneMove, type RestBone } from './bend.ts'

/** An arm along X: shoulder at 0, elbow at 2, hand at 4. */
const arm: RestBone[] = [
  { name: 'shoulder', above: -1, at: [0, 0, 0] },
  { name: 'elbow', above: 0, at: [2, 0, 0] },
  { name: 'hand', above: 1, at: [4, 0, 0] },
]
const move = (turnDegrees: BoneMove['turnDegrees'], moved: BoneMove['moved'] = [0, 0, 0]): BoneMove => ({
  turnDegrees,
  moved,
})
const through = (m: readonly number[], [x, y, z]: readonly number[]): number[] =>
  [0, 1, 2].map((row) => Number((m[row] * x + m[row + 4] * y + m[row + 8] * z + m[row + 12]).toFixed(6)) + 0)

describe('bones that are moved', () => {
  it('carry what hangs on them, and leave what they hang on', () => {
    const [shoulder, elbow, hand] = carriedBy(arm, new Map([[1, move([0, 0, 90])]]))
    expect(shoulder).toEqual(identityMatrix())
    expect(through(elbow, [2, 0, 0])).toEqual([2, 0, 0])
    expect(through(hand, [4, 0, 0])).toEqual([2, 2, 0])
  })

  it('add up along a chain: each turns in what the one above it has turned', () => {
    const [, , hand] = carriedBy(
      arm,
      new Map([
        [0, move([0, 0, 90])],
        [1, move([0, 0, 90])],
      ]),
    )
    expect(through(hand, [4, 0, 0])).toEqual([-2, 2, 0])
  })

  it('turn about X, then Y, then Z, and are pulled after that', () => {
    const [way] = carriedBy([arm[0]], new Map([[0, move([90, 0, 90], [0, 0, 5])]]))
    // Y goes to Z about X, and stays there about Z; X goes to Y.
    expect(through(way, [0, 1, 0])).toEqual([0, 0, 6])
    expect(through(way, [1, 0, 0])).toEqual([0, 1, 5])
  })

  it('come to an end where they hang on each other in a circle', () => {
    const circle: RestBone[] = [
      { name: 'a', above: 1, at: [0, 0, 0] },
      { name: 'b', above: 0, at: [1, 0, 0] },
    ]
    expect(carriedBy(circle, new Map([[0, move([0, 0, 10])]])).length).toBe(2)
  })
})

describe('held corners', () => {
  it('keep the strongest, strongest first, out of sets of four, and none that is not there', () => {
    const sets = [
      { bones: [1, 0, 2, 9], weights: [0.1, 0.4, 0, 0.3] },
      { bones: [3, 0, 0, 0], weights: [0.2, 0, 0, 0] },
    ]
    const { boneOf, weightOf } = heldCorners(sets, 1, 4)
    expect([...boneOf.subarray(0, 3)]).toEqual([0, 3, 1])
    expect([...weightOf.subarray(0, 4)].map((weight) => Number(weight.toFixed(3)))).toEqual([0.4, 0.2, 0.1, 0])
    expect(boneOf.length).toBe(SLOTS)
  })

  it('go where their bones take them, by weight; what nothing holds stays', () => {
    const ways = carriedBy(arm, new Map([[2, move([0, 0, 0], [0, 2, 0])]]))
    const held = heldCorners(
      [{ bones: [2, 0, 0, 0, 2, 0, 0, 0, 0, 0, 0, 0], weights: [1, 0, 0, 0, 0.25, 0.75, 0, 0, 0, 0, 0, 0] }],
      3,
      3,
    )
    const into = new Float32Array(9)
    blend([4, 0, 0, 3, 0, 0, 1, 1, 1], held, ways.flat(), true, into)
    expect([...into]).toEqual([4, 2, 0, 3, 0.5, 0, 1, 1, 1])
    // A direction is turned, and not moved.
    blend(
      [0, 1, 0, 0, 1, 0, 0, 1, 0],
      held,
      multiplyMatrices(ways[2], identityMatrix()).concat(ways[1], ways[2]),
      false,
      into,
    )
    expect([...into].slice(0, 3)).toEqual([0, 1, 0])
  })
})
