import { describe, expect, it } from 'vitest'
import { ball, turnedOver } from '../../test-support/meshes.ts'
import { boxMesh } from '../shapes/box-mesh.ts'
import type { TriangleSoup } from '../shapes/convex-hull.ts'
import { outsideViews } from './outside-views.ts'
import { shadingDifference, type LitSurface } from './shading-difference.ts'
import { closedStraightWay } from '../walk/straight-ways.ts'

/** Several soups run together, each a part. */
function together(...soups: TriangleSoup[]) {
  const positions = Float32Array.from(soups.flatMap((soup) => [...soup.positions]))
  const indices: number[] = []
  const partOfTriangle: number[] = []
  let corner = 0
  soups.forEach((soup, part) => {
    for (const index of soup.indices) indices.push(index + corner)
    for (let triangle = 0; triangle < soup.indices.length / 3; triangle++) partOfTriangle.push(part)
    corner += soup.positions.length / 3
  })
  return {
    positions,
    indices: Uint32Array.from(indices),
    partOfTriangle: Uint32Array.from(partOfTriangle),
    twoSided: new Uint8Array(partOfTriangle.length),
  }
}

const box = (min: [number, number, number], max: [number, number, number]): TriangleSoup => boxMesh({ min, max })

describe('six views from outside', () => {
  it('see no back of a closed thing, and nothing but backs of one that is inside out', () => {
    expect(outsideViews(together(ball(1, 12))).share).toBe(0)
    expect(outsideViews(together(turnedOver(ball(1, 12)))).share).toBe(1)
  })

  it('count each side as often as it is seen, and name the part', () => {
    // A cube without its top: one view of six looks at the inside.
    const cube = box([0, 0, 0], [1, 1, 1])
    const top = (at: number): boolean =>
      [0, 1, 2].every((corner) => cube.positions[cube.indices[at + corner] * 3 + 1] === 1)
    const open = { ...cube, indices: cube.indices.filter((_, at) => !top(at - (at % 3))) }
    expect(outsideViews(together(open)).share).toBeCloseTo(1 / 6, 2)
    expect([...outsideViews(together(box([3, 0, 0], [4, 1, 1]), open)).backsOfPart.keys()]).toEqual([1])
  })

  it('do not mind backs behind fronts, nor what is drawn from both sides', () => {
    expect(outsideViews(together(box([0, 0, 0], [4, 4, 4]), turnedOver(box([1, 1, 1], [2, 2, 2])))).share).toBe(0)
    const both = together(turnedOver(ball(1, 8)))
    expect(outsideViews({ ...both, twoSided: both.twoSided.fill(1) }).share).toBe(0)
  })
})

describe('a way straight through', () => {
  const walker = { width: 0.9, height: 3.4, step: 0.6 }
  const gate = together(
    box([-4, 0, -0.5], [-3, 5, 0.5]),
    box([3, 0, -0.5], [4, 5, 0.5]),
    box([-4, 5, -0.5], [4, 6, 0.5]),
  )
  it('is closed by a box round the gate, and where it is closed is told', () => {
    const place = closedStraightWay(gate, box([-4, 0, -0.5], [4, 6, 0.5]), walker)
    expect(place?.[0]).toBeGreaterThan(-3)
    expect(place?.[0]).toBeLessThan(3)
  })

  it('stays open between solids of the posts alone, and what lies beside the gate closes nothing', () => {
    expect(
      closedStraightWay(gate, together(box([-4, 0, -0.5], [-3, 5, 0.5]), box([3, 0, -0.5], [4, 5, 0.5])), walker),
    ).toBeNull()
    expect(closedStraightWay(gate, box([8, 0, -0.5], [12, 6, 0.5]), walker)).toBeNull()
  })

  it('is none where a figure would have its head in a thin board, however far from where it is felt', () => {
    const desk = (top: number) =>
      together(
        box([-4, 0, -0.5], [-3, top, 0.5]),
        box([3, 0, -0.5], [4, top, 0.5]),
        box([-4, top, -0.5], [4, top + 0.02, 0.5]),
      )
    const round = box([-4, 0, -0.5], [4, 6, 0.5])
    for (const top of [0.7, 1.37, 2.2, 3.3]) expect(closedStraightWay(desk(top), round, walker)).toBeNull()
    expect(closedStraightWay(desk(3.45), round, walker)).not.toBeNull()
    // What is no higher than a step is walked over.
    expect(closedStraightWay(together(gate, box([-4, 0, -0.5], [4, 0.5, 0.5])), round, walker)).not.toBeNull()
  })
})

describe('how light falls', () => {
  const lit = (soup: TriangleSoup, normalAt: (x: number, y: number, z: number) => number[]): LitSurface => {
    const corners = Array.from({ length: soup.positions.length / 3 }, (_, corner) =>
      soup.positions.subarray(corner * 3, corner * 3 + 3),
    )
    return { ...soup, normals: Float32Array.from(corners.flatMap(([x, y, z]) => normalAt(x, y, z))) }
  }
  const outward = (x: number, y: number, z: number): number[] => [x, y, z]
  it('is the same on a ball and on a coarser one with the same roundness', () => {
    expect(shadingDifference(lit(ball(1, 24), outward), lit(ball(1, 10), outward), 15).share).toBeLessThan(0.02)
  })

  it('differs where normals were turned, by as much of the surface as was turned', () => {
    const turnedAbove = (x: number, y: number, z: number): number[] => (y > 0 ? [z, y, -x] : [x, y, z])
    const { share, area } = shadingDifference(lit(ball(1, 24), outward), lit(ball(1, 24), turnedAbove), 15)
    expect(share).toBeGreaterThan(0.4)
    expect(share).toBeLessThan(0.55)
    expect(area).toBeCloseTo(4 * Math.PI, 0)
  })
})
