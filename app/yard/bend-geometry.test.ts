import { describe, expect, it } from 'vitest'
import { heldCorners, SLOTS } from '../../core/maths/bend'
import { bendSurface, heldShares, matricesOf, waysOf } from './bend-geometry'

const identity = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]
/** A mesh that stands 10 to the right, held by the second of two bones. */
const bend = {
  bones: [
    { name: 'post', above: -1, at: [0, 0, 0] as [number, number, number] },
    { name: 'rib', above: -1, at: [10, 0, 0] as [number, number, number] },
  ],
  held: [{ part: 'cloth', bones: [1], rest: Float32Array.from([...identity.slice(0, 12), 10, 0, 0, 1]), surfaces: [] }],
  carried: [],
}
const meshMatrix = [...identity.slice(0, 12), 10, 0, 0, 1]

describe('a mesh in the yard', () => {
  it('lies as it lay while all bones are at rest, and turns about its bone where it stands', () => {
    const corners = heldCorners([{ bones: [0, 0, 0, 0], weights: [1, 0, 0, 0] }], 1, 1)
    const rest = { positions: Float32Array.from([1, 0, 0]), normals: Float32Array.from([1, 0, 0]) }
    const bent = (moves: Parameters<typeof waysOf>[1]): number[] => {
      const into = { positions: new Float32Array(3), normals: new Float32Array(3) }
      bendSurface(rest, corners, matricesOf(bend.held[0], waysOf(bend, moves), meshMatrix), into)
      return [...into.positions, ...into.normals].map((value) => Math.round(value * 1e5) / 1e5 + 0)
    }
    expect(bent(new Map())).toEqual([1, 0, 0, 1, 0, 0])
    expect(bent(new Map([['rib', { turnDegrees: [0, 0, 90], moved: [0, 0, 0] }]]))).toEqual([0, 1, 0, 0, 1, 0])
    expect(bent(new Map([['rib', { turnDegrees: [0, 0, 0], moved: [0, 3, 0] }]]))).toEqual([1, 3, 0, 1, 0, 0])
    // A bone that does not hold it, and one that is not there, leave it alone.
    expect(bent(new Map([['post', { turnDegrees: [0, 0, 90], moved: [0, 0, 0] }]]))).toEqual([1, 0, 0, 1, 0, 0])
    expect(bent(new Map([['mast', { turnDegrees: [0, 0, 90], moved: [0, 0, 0] }]]))).toEqual([1, 0, 0, 1, 0, 0])
  })

  it('shows how much a bone holds, and marks corners that none holds or whose weights are not 1', () => {
    const sets = [
      {
        bones: [0, 1, 0, 0, 1, 0, 0, 0, 0, 0, 0, 0, 0, 1, 0, 0],
        weights: [0.25, 0.75, 0, 0, 1, 0, 0, 0, 0, 0, 0, 0, 0.25, 0.25, 0, 0],
      },
    ]
    const corners = heldCorners(sets, 4, 2)
    expect([...heldShares(corners, 1, SLOTS)]).toEqual([0.75, 1, 2, 2.25])
    expect([...heldShares(corners, -1, SLOTS)]).toEqual([0, 0, 2, 2])
  })
})
