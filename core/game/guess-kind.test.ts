import { describe, expect, it } from 'vitest'
import { documentOf, unitBox } from '../test-support/meshes.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { swinging } from '../test-support/moving-items.ts'
import { rankKinds } from './guess-kind.ts'
import type { Rulebook } from './schema.ts'

const ids = (...given: Parameters<typeof rankKinds>): string[] => rankKinds(...given).map(({ kind }) => kind.id)
const box = () => documentOf({ box: unitBox() })

describe('what a thing may become, the likeliest first', () => {
  it('is a still thing before what needs places, bones or two models', () => {
    const order = ids(box(), tarnAndTiller)
    expect(order[0]).toBe('prop')
    for (const needy of ['mover', 'bender', 'gear', 'course', 'ground'])
      expect(order.indexOf(needy), needy).toBeGreaterThan(order.indexOf('loose'))
    // What has no mesh, or adds to something of the game, is not guessed.
    expect(order).not.toContain('finish')
    expect(order).not.toContain('addition')
  })

  it('is what moves where clips move its parts', () => {
    const [first] = rankKinds(swinging(), tarnAndTiller)
    expect(first).toMatchObject({ kind: { id: 'mover' }, reason: 'It brings motion of its parts.' })
  })

  it('is what shows a picture where a picture came alone', () => {
    const sheet = documentOf({
      sheet: {
        positions: Float32Array.from([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0]),
        indices: Uint32Array.from([0, 1, 2, 0, 2, 3]),
      },
    })
    expect(ids(sheet, tarnAndTiller, true).slice(0, 2)).toEqual(['sign', 'finish'])
    expect(ids(sheet, tarnAndTiller)[0]).toBe('prop')
  })

  it('goes by what kinds mean, not by what they are called or where they stand', () => {
    const renamed: Rulebook = {
      ...tarnAndTiller,
      kinds: tarnAndTiller.kinds
        .filter(({ id }) => ['prop', 'mover', 'course'].includes(id))
        .map((kind) => ({ ...kind, id: `${kind.id}-x` }))
        .reverse(),
    }
    expect(ids(box(), renamed)[0]).toBe('prop-x')
    expect(ids(swinging(), renamed)[0]).toBe('mover-x')
  })
})
