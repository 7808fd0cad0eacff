import { describe, expect, it } from 'vitest'
import { enterWorkingSpace, leaveWorkingSpace } from '../pack/space-door.ts'
import { packItems } from '../pack/pack-crate.ts'
import { mergedTriangles, partsBounds } from '../item/measure.ts'
import { listViewParts } from '../item/parts.ts'
import { axisNames } from '../maths/axes.ts'
import { boxMesh, enclosedVolume } from '../geometry/shapes/box-mesh.ts'
import { ball, documentOf } from '../test-support/meshes.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { loadPack } from '../trial/load-pack.ts'
import { kindOf } from './load.ts'
import { rulebookSchema, type Rulebook } from './schema.ts'
import { axesInWords, axisLetter, gameAxes, isWorkingSpace, workingToGame } from './space.ts'
import { transformedPoints } from '../maths/matrices.ts'

/** Every way to name up and forward, for both hands. */
const spaces = axisNames.flatMap((up) =>
  axisNames
    .filter((forward) => forward[1] !== up[1])
    .flatMap((forward) => (['right', 'left'] as const).map((handedness) => ({ up, forward, handedness }))),
)
const gameIn = (space: (typeof spaces)[number]): Rulebook =>
  rulebookSchema.parse({ ...tarnAndTiller, space: { ...tarnAndTiller.space, ...space } })

/** A box that is different along every axis, and a ball at its left. */
const item = () => documentOf({ box: boxMesh({ min: [-1, 0, -3], max: [1, 5, 4] }), ball: ball(1, 6, [2, 1, 0.5]) })

describe('the door between the working space and a game’s', () => {
  it('has 48 forms, one of which changes nothing', () => {
    expect(spaces).toHaveLength(48)
    expect(spaces.filter((space) => isWorkingSpace(gameIn(space).space))).toEqual([
      { up: '+y', forward: '+z', handedness: 'right' },
    ])
  })

  it.each(spaces)(
    'puts up and forward where $up, $forward, $handedness-handed has them',
    ({ up, forward, handedness }) => {
      const matrix = workingToGame(gameIn({ up, forward, handedness }).space)
      const named = (axis: string): number[] =>
        [0, 1, 2].map((each) => ('xyz'[each] === axis[1] ? (axis[0] === '-' ? -1 : 1) : 0))
      expect(matrix.slice(4, 7)).toEqual(named(up))
      expect(matrix.slice(8, 11)).toEqual(named(forward))
      const [a, b, c] = [matrix.slice(0, 3), matrix.slice(4, 7), matrix.slice(8, 11)]
      const volume =
        a[0] * (b[1] * c[2] - b[2] * c[1]) - a[1] * (b[0] * c[2] - b[2] * c[0]) + a[2] * (b[0] * c[1] - b[1] * c[0])
      expect(volume).toBe(handedness === 'left' ? -1 : 1)
    },
  )

  it.each(spaces)('writes a place in the numbers that the game’s files have: $up, $forward, $handedness', (space) => {
    const { space: own } = gameIn(space)
    const place = [2, -3, 5]
    const packed = transformedPoints(Float32Array.from(place), workingToGame(own))
    const axes = gameAxes(own)
    expect(axes.map(({ letter }) => letter)).toEqual(['X', 'Y', 'Z'])
    expect(axes.map(({ working, sign }) => sign * place[working])).toEqual([...packed])
  })

  it.each(spaces)(
    'out and in again is nothing, faces outward all the way: $up, $forward, $handedness',
    async (space) => {
      const [document, same] = [item(), item()]
      leaveWorkingSpace(document, gameIn(space))
      const out = mergedTriangles(listViewParts(document))
      expect(enclosedVolume(out)).toBeCloseTo(70 + enclosedVolume(ball(1, 6)), 3)
      enterWorkingSpace(document, gameIn(space))
      expect(partsBounds(listViewParts(document))).toEqual(partsBounds(listViewParts(same)))
      const back = mergedTriangles(listViewParts(document))
      expect(enclosedVolume(back)).toBeGreaterThan(70)
    },
  )

  it.each(spaces.filter((_, index) => index % 5 === 0))(
    'is undone by the loader’s own reading: $up, $forward, $handedness',
    async (space) => {
      const game = gameIn(space)
      const pack = await packItems([{ name: 'thing', kind: kindOf(game, 'prop'), document: item() }], game, 'x')
      const plain = await packItems(
        [{ name: 'thing', kind: kindOf(tarnAndTiller, 'prop'), document: item() }],
        tarnAndTiller,
        'x',
      )
      const verdicts = [loadPack(pack.bytes, game), loadPack(plain.bytes, tarnAndTiller)].map(({ log }) =>
        log.map(({ code, message }) => `${code} ${message}`),
      )
      expect(verdicts[0]).toEqual(verdicts[1])
    },
  )

  it('is told in the game’s own words', () => {
    const { space } = gameIn({ up: '+z', forward: '+x', handedness: 'left' })
    expect(axesInWords(space)).toBe('+Z up, +X forward, left-handed')
    expect((['x', 'y', 'z'] as const).map((axis) => axisLetter(space, axis))).toEqual(['Y', 'Z', 'X'])
  })

  it('is refused when up and forward are one axis', () => {
    const space = { ...tarnAndTiller.space, up: '+z', forward: '-z' }
    expect(() => rulebookSchema.parse({ ...tarnAndTiller, space })).toThrow(/same axis/)
  })
})
