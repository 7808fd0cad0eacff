import { beforeAll, describe, expect, it } from 'vitest'
import { mergedTriangles, partsBounds } from '../../item/measure.ts'
import { listViewParts } from '../../item/parts.ts'
import { listSolids } from '../../item/annotations/solid/list.ts'
import { walkerOf } from '../../rules/solids/bumped-into.ts'
import { prepareDemo, tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { approachItem } from '../surface/approach.ts'
import { boxMesh } from '../shapes/box-mesh.ts'
import type { TriangleSoup } from '../shapes/convex-hull.ts'
import type { Triple } from '../shapes/placed-shape.ts'
import { findOpenings } from './openings.ts'

const box = (min: Triple, max: Triple): TriangleSoup => boxMesh({ min, max })
const joined = (...soups: TriangleSoup[]): TriangleSoup => {
  const positions = soups.flatMap((soup) => [...soup.positions])
  let first = 0
  const indices = soups.flatMap((soup) => {
    const own = [...soup.indices].map((corner) => corner + first)
    first += soup.positions.length / 3
    return own
  })
  return { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) }
}
const figure = walkerOf(tarnAndTiller)
/** Two piers under a lintel: a doorway of a width and a height. */
const portal = (width: number, height: number): TriangleSoup =>
  joined(
    box([-3, 0, -0.5], [-width / 2, height, 0.5]),
    box([width / 2, 0, -0.5], [3, height, 0.5]),
    box([-3, height, -0.5], [3, height + 1, 0.5]),
  )

describe('ways through', () => {
  it('a doorway is one, as wide and as high as it is, and a mesh of it leaves it open', () => {
    const [opening, ...more] = findOpenings(portal(2.4, 4.2), [portal(2.4, 4.2)], figure)
    expect(more).toEqual([])
    expect(opening.passes).toBe(true)
    expect(Math.abs(opening.width - 2.4)).toBeLessThan(0.4)
    expect(opening.height).toBeCloseTo(4.2, 1)
    expect(Math.abs(opening.middle[0])).toBeLessThan(0.6)
  })
  it('a box over it closes it, piers and lintel as boxes do not', () => {
    const seen = portal(2.4, 4.2)
    expect(findOpenings(seen, [box([-3, 0, -0.5], [3, 5.2, 0.5])], figure).map(({ passes }) => passes)).toEqual([false])
    expect(
      findOpenings(
        seen,
        [box([-3, 0, -0.5], [-1.2, 4.2, 0.5]), box([1.2, 0, -0.5], [3, 4.2, 0.5]), box([-3, 4.2, -0.5], [3, 5.2, 0.5])],
        figure,
      ).map(({ passes }) => passes),
    ).toEqual([true])
  })
  it('what is too narrow or too low for the figure is none, nor is a wall or a niche', () => {
    expect(findOpenings(portal(0.6, 4.2), [], figure)).toEqual([])
    expect(findOpenings(portal(2.4, 3), [], figure)).toEqual([])
    expect(findOpenings(box([-3, 0, -0.5], [3, 5, 0.5]), [], figure)).toEqual([])
    expect(findOpenings(joined(portal(2.4, 4.2), box([-3, 0, 0.4], [3, 5, 0.6])), [], figure)).toEqual([])
  })
  it('a sill that is stepped over does not close it, a higher one does', () => {
    const seen = portal(2.4, 4.8)
    const closed = (sill: number) =>
      findOpenings(seen, [seen, box([-1.2, 0, -0.5], [1.2, sill, 0.5])], figure)[0].passes
    expect([closed(0.5), closed(1.2)]).toEqual([true, false])
  })
  it('two doorways are two ways', () => {
    const second = {
      ...portal(2.4, 4.2),
      positions: portal(2.4, 4.2).positions.map((value, at) => (at % 3 === 0 ? value + 6 : value)),
    }
    const seen = joined(portal(2.4, 4.2), second)
    const found = findOpenings(seen, [portal(2.4, 4.2), box([3, 0, -0.5], [9, 5, 0.5])], figure)
    expect(found.map(({ passes }) => passes).sort()).toEqual([false, true])
  })
})

describe('the Boathouse gate', () => {
  let view: TriangleSoup
  let solids: TriangleSoup
  let hull: TriangleSoup
  beforeAll(async () => {
    const { result } = await prepareDemo('boathouse_gate', 'prop')
    view = mergedTriangles(listViewParts(result.document))
    solids = mergedTriangles(listSolids(result.document))
    hull = boxMesh(partsBounds(listViewParts(result.document)))
  })
  it('has one way through, which its solids leave open and a box closes, without anyone walking', () => {
    expect(findOpenings(view, [solids], figure).map(({ passes }) => passes)).toEqual([true])
    expect(findOpenings(view, [hull], figure).map(({ passes }) => passes)).toEqual([false])
  })
  it('lets a boat and a gull come nearer with the solids that fit than with a box', async () => {
    for (const body of [
      { shape: 'box', size: [2.6, 1.2, 7], heights: [0] },
      { shape: 'ball', size: [0.8, 0.8, 0.8], heights: [0.5, 3, 6] },
    ] as const) {
      const [good, poor] = [await approachItem(view, [solids], body), await approachItem(view, [hull], body)]
      expect(good.standsOff).toBeLessThan(0.35)
      expect(poor.standsOff).toBeGreaterThan(good.standsOff + 0.5)
    }
  })
})
