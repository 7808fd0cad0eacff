import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { boxMesh } from '../shapes/box-mesh.ts'
import { cellFor, fillColumns, toPlan } from './columns.ts'
import { bodyFits, discOffsets, findStanding, neighbours } from './standing.ts'

/** A box in plan: across, along, up. */
const block = (min: [number, number, number], max: [number, number, number]) => boxMesh({ min, max })
const field = { low: [0, 0] as [number, number], high: [8, 8] as [number, number] }
const walker = { width: 1, height: 3, step: 0.6 }
const at = (x: number, y: number): number => y * 8 + x

describe('columns', () => {
  it('are filled where a surface crosses them and nowhere else', () => {
    const { filled, across } = fillColumns([block([2, 3, 0], [4, 5, 2])], field, 1)
    expect(across).toBe(8)
    expect([...filled[at(2, 3)]]).toEqual([0, 2])
    expect([...filled[at(0, 0)]]).toEqual([])
    expect(filled.filter((spans) => spans.length > 0).length).toBeLessThanOrEqual(16)
  })
  it('know the room between floors', () => {
    const { filled } = fillColumns([block([0, 0, 0], [8, 8, 0.2]), block([0, 0, 4], [8, 8, 4.2])], field, 1)
    expect([...filled[at(4, 4)]].map((value) => Math.round(value * 10) / 10)).toEqual([0, 0, 0.2, 0.2, 4, 4, 4.2, 4.2])
  })
  it('keep every height of every triangle, whatever the mesh', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.double({ min: 0.01, max: 7.99, noNaN: true }),
            fc.double({ min: 0.01, max: 7.99, noNaN: true }),
            fc.double({ min: -5, max: 5, noNaN: true }),
          ),
          { minLength: 3, maxLength: 9 },
        ),
        (corners) => {
          const usable = corners.slice(0, corners.length - (corners.length % 3))
          const { filled } = fillColumns(
            [{ positions: Float32Array.from(usable.flat()), indices: Uint32Array.from(usable.keys()) }],
            field,
            1,
          )
          for (const [x, y, z] of usable) {
            const spans = filled[at(Math.floor(x), Math.floor(y))]
            const holds = Array.from(
              { length: spans.length / 2 },
              (_, pair) => spans[pair * 2] - 1e-3 <= z && z <= spans[pair * 2 + 1] + 1e-3,
            )
            expect(holds).toContain(true)
          }
        },
      ),
      { numRuns: 80 },
    )
  })
  it('get wider where there would be too many', () => {
    expect(cellFor(field, 0.5)).toBe(0.5)
    expect(cellFor({ low: [0, 0], high: [1e4, 1e4] }, 0.5)).toBeGreaterThan(10)
  })
  it('stand with height last', () => {
    expect([...toPlan(Float32Array.from([1, 2, 3]))]).toEqual([1, 3, 2])
  })
})

describe('standing', () => {
  const table = fillColumns([block([3.1, 3.1, 0], [4.9, 4.9, 0.5])], field, 1)
  it('is on the ground and on what is there, where there is room above', () => {
    const map = findStanding(table, 0, walker)
    expect(map.byColumn.get(at(0, 0))?.map((place) => map.places[place].floor)).toEqual([0])
    expect(map.byColumn.get(at(3, 3))?.map((place) => map.places[place].floor)).toEqual([0.5])
    const low = findStanding(fillColumns([block([0, 0, 2], [8, 8, 2.2])], field, 1), 0, walker)
    expect(low.byColumn.get(at(4, 4))?.map((place) => Math.round(low.places[place].floor * 10) / 10)).toEqual([2.2])
  })
  it('leads a step up and no further', () => {
    const map = findStanding(table, 0, walker)
    const beside = map.byColumn.get(at(2, 3))?.[0] ?? -1
    const reached = neighbours(table, map, beside, walker).map((place) => map.places[place].floor)
    expect(reached).toContain(0.5)
    expect(
      neighbours(table, map, beside, { ...walker, step: 0.3 }).map((place) => map.places[place].floor),
    ).not.toContain(0.5)
  })
  it('wants room for the whole body', () => {
    const post = fillColumns([block([4.2, 4.2, 0], [4.8, 4.8, 3])], field, 1)
    expect(bodyFits(post, at(4, 4), 0, walker, discOffsets(post, 0.5))).toBe(false)
    expect(bodyFits(post, at(6, 4), 0, walker, discOffsets(post, 0.5))).toBe(true)
    expect(bodyFits(post, at(6, 4), 0, walker, discOffsets(post, 3))).toBe(false)
    // What hangs above the head, or is no higher than a step, is not in the way.
    expect(bodyFits(table, at(3, 3), 0, walker, discOffsets(table, 0.5))).toBe(true)
  })
})
