import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ball } from '../../test-support/meshes.ts'
import { sheet, together } from '../../test-support/shapes.ts'
import { joinAttributes, type CornerAttribute } from './corner-attributes.ts'
import { reductionLadder } from './reduction-ladder.ts'
import { surfaceDifference } from '../surface/surface-distance.ts'

const attribute = (array: number[], size: number, keep: CornerAttribute['keep'] = 'as it is'): CornerAttribute => ({
  array: Float32Array.from(array),
  size,
  weight: 1,
  keep,
})

describe('attributes side by side', () => {
  it('come apart again as they went in', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 20 }),
        fc.integer({ min: 1, max: 4 }),
        fc.integer({ min: 1, max: 4 }),
        (corners, first, second) => {
          const attributes = new Map([
            [
              'a',
              attribute(
                Array.from({ length: corners * first }, (_, at) => at / 7),
                first,
              ),
            ],
            [
              'b',
              attribute(
                Array.from({ length: corners * second }, (_, at) => -at),
                second,
              ),
            ],
          ])
          const joined = joinAttributes(attributes, corners)
          expect(joined.stride).toBe(first + second)
          expect(joined.weights).toHaveLength(joined.stride)
          const split = joined.split(joined.array)
          for (const [name, each] of attributes) expect(split.get(name)?.array).toEqual(each.array)
        },
      ),
    )
  })

  it('leave as it was what the library has no room for', () => {
    const wide = attribute(new Array(30).fill(0.5), 30)
    const joined = joinAttributes(
      new Map([
        ['wide', wide],
        ['uv', attribute([1, 2], 2)],
        ['more', attribute([3, 4], 2)],
      ]),
      1,
    )
    expect(joined.stride).toBe(32)
    expect(joined.split(new Float32Array(32)).get('more')?.array).toEqual(Float32Array.from([3, 4]))
  })

  it('bring directions back to unit length and shares to a sum of one, and never to NaN', () => {
    const joined = joinAttributes(
      new Map([
        ['n', attribute([0, 1, 0], 3, 'unit length')],
        ['w', attribute([0.5, 0.5], 2, 'sum of one')],
      ]),
      1,
    )
    const moved = joined.split(Float32Array.from([3, 4, 0, 0.6, 0.2]))
    expect([...(moved.get('n')?.array ?? [])].map((value) => Number(value.toFixed(3)))).toEqual([0.6, 0.8, 0])
    expect([...(moved.get('w')?.array ?? [])].map((value) => Number(value.toFixed(3)))).toEqual([0.75, 0.25])
    const gone = joined.split(new Float32Array(5))
    expect([...(gone.get('n')?.array ?? []), ...(gone.get('w')?.array ?? [])]).toEqual([0, 1, 0, 0.5, 0.5])
  })
})

describe('levels for dragging', () => {
  const none = new Map<string, CornerAttribute>()
  const meshes = () => [
    { ...ball(2, 60), attributes: none, scale: 1 },
    { ...sheet(40, 40), attributes: none, scale: 0.1 },
  ]

  it('go down step by step from all triangles, each with at least one triangle a mesh', async () => {
    const levels = await reductionLadder(meshes(), 4, async () => undefined)
    expect(levels[0].triangles).toBe((ball(2, 60).indices.length + sheet(40, 40).indices.length) / 3)
    expect(levels.length).toBeGreaterThan(12)
    for (let at = 1; at < levels.length; at++) {
      expect(levels[at].triangles).toBeLessThan(levels[at - 1].triangles)
      expect(levels[at].shift).toBeGreaterThan(levels[at - 1].shift)
      expect(levels[at].indices.every((indices) => indices.length >= 3)).toBe(true)
    }
    expect(levels.at(-1)?.triangles).toBeLessThan(levels[0].triangles / 15)
  })

  it('move about as far as they say: each is made from the one before, so their errors add up', async () => {
    const levels = await reductionLadder(meshes(), 4, async () => undefined)
    for (const level of levels.filter((_, at) => at % 6 === 3)) {
      const { worst } = surfaceDifference(
        ball(2, 60),
        { positions: ball(2, 60).positions, indices: level.indices[0] },
        3000,
      )
      expect(worst).toBeLessThanOrEqual(level.shift * 2.5 + 1e-4)
    }
  })

  it('leave a mesh without triangles as it is', async () => {
    const empty = { positions: new Float32Array(0), indices: new Uint32Array(0), attributes: none, scale: 1 }
    const levels = await reductionLadder([empty, ...meshes()], 4, async () => undefined)
    expect(levels.length).toBeGreaterThan(12)
    expect(levels.every(({ indices }) => indices[0].length === 0)).toBe(true)
  })

  it('can be stopped between two of them', async () => {
    let asked = 0
    await expect(
      reductionLadder([{ ...together(ball(1, 20), sheet(5, 5)), attributes: none, scale: 1 }], 2, async () => {
        if (++asked === 4) throw new Error('stopped')
      }),
    ).rejects.toThrow('stopped')
    expect(asked).toBe(4)
  })
})
