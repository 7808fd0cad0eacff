import fc from 'fast-check'
import { MeshoptSimplifier } from 'meshoptimizer/simplifier'
import { describe, expect, it } from 'vitest'
import { ball, unitBox } from '../../test-support/meshes.ts'
import { dentedTube, sheet, together } from '../../test-support/shapes.ts'
import type { CornerAttributes } from './corner-attributes.ts'
import type { TriangleSoup } from '../shapes/convex-hull.ts'
import { meetEdges } from './edges.ts'
import { compactCorners, reduceTriangles, type ReduceRequest } from './reduce.ts'
import { surfaceArea } from '../surface/sample-surface.ts'
import { createSurfaceFinder, surfaceDifference } from '../surface/surface-distance.ts'

const none: CornerAttributes = new Map()
const uvsOf = (array: Float32Array): CornerAttributes =>
  new Map([['TEXCOORD_0', { array, size: 2, weight: 1, keep: 'as it is' }]])
const reduce = (soup: TriangleSoup, targetTriangles: number, change: Partial<ReduceRequest> = {}) =>
  reduceTriangles({ ...soup, attributes: none, targetTriangles, holdSeams: true, holdBorders: true, ...change })

/** A sheet of two texture islands side by side: corners on the middle column are doubled, with UVs of their own. */
function twoIslands(size: number): TriangleSoup & { uvs: Float32Array } {
  const left = sheet(size, size * 2, (x, y) => Math.sin(x / 3) * Math.cos(y / 4))
  const right = sheet(size, size * 2, (x, y) => Math.sin((x + size) / 3) * Math.cos(y / 4))
  const moved = {
    positions: right.positions.map((value, at) => (at % 3 === 0 ? value + size : value)),
    indices: right.indices,
  }
  const corners = left.positions.length / 3
  const uvs = new Float32Array(corners * 4)
  for (let corner = 0; corner < corners; corner++) {
    const [u, v] = [left.positions[corner * 3] / size, left.positions[corner * 3 + 1] / (size * 2)]
    uvs.set([u * 0.45, v], corner * 2)
    uvs.set([0.55 + u * 0.45, v], (corners + corner) * 2)
  }
  return { ...together(left, moved), uvs }
}

describe('reducing', () => {
  it('never goes over the count, within one per cent below it where the shape allows, and never erases', async () => {
    const round = ball(3, 60)
    for (const target of [6000, 2000, 777, 100, 12, 5, 1]) {
      const { indices } = await reduce(round, target)
      expect(indices.length / 3).toBeLessThanOrEqual(target)
      expect(indices.length / 3).toBeGreaterThanOrEqual(Math.max(1, target >= 100 ? target * 0.99 : 1))
    }
  })

  it('keeps any of these properties for any mesh and count', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 4, max: 18 }),
        fc.double({ min: 0, max: 0.6, noNaN: true }),
        fc.integer({ min: 1, max: 900 }),
        fc.boolean(),
        fc.boolean(),
        async (rings, dent, target, holdSeams, holdBorders) => {
          const start = together(dentedTube(rings * 2, rings, dent), ball(1, rings, [5, 0, 0]), sheet(rings, 3))
          const result = await reduce(start, target, { holdSeams, holdBorders })
          expect(result.indices.length).toBeGreaterThan(0)
          expect(result.indices.length / 3).toBeLessThanOrEqual(
            Math.max(target, start.indices.length / 3 <= target ? start.indices.length / 3 : 0),
          )
          expect(result.positions.every(Number.isFinite)).toBe(true)
          expect(result.indices.every((corner) => corner < start.positions.length / 3)).toBe(true)
        },
      ),
      { numRuns: 60 },
    )
  })

  it('does not stumble where the pieces leave no room between too many and too few', async () => {
    const start = together(dentedTube(36, 18, 0), ball(1, 18, [5, 0, 0]), sheet(18, 3))
    const { indices } = await reduce(start, 10, { holdSeams: true, holdBorders: false })
    expect(indices.length / 3).toBeLessThanOrEqual(10)
    expect(indices.length).toBeGreaterThan(0)
  })

  it('keeps texture islands apart and each corner’s texture where it was on the surface', async () => {
    const start = twoIslands(24)
    const { indices, positions, attributes } = await reduce(start, 500, {
      attributes: uvsOf(start.uvs),
      holdBorders: false,
    })
    const uvs = attributes.get('TEXCOORD_0')?.array ?? new Float32Array(0)
    const finder = createSurfaceFinder(start)
    let worst = 0
    for (let at = 0; at < indices.length; at += 3) {
      const islands = [0, 1, 2].map((corner) => (uvs[indices[at + corner] * 2] < 0.5 ? 'left' : 'right'))
      expect(new Set(islands).size).toBe(1)
    }
    for (const corner of new Set(indices)) {
      const [x, y, z] = positions.subarray(corner * 3, corner * 3 + 3)
      const nearest = finder.nearest(x, y, z)
      if (!nearest) throw new Error('no surface')
      const left = uvs[corner * 2] < 0.5
      const wanted = [
        left ? (nearest.point[0] / 24) * 0.45 : 0.55 + ((nearest.point[0] - 24) / 24) * 0.45,
        nearest.point[1] / 48,
      ]
      worst = Math.max(worst, Math.hypot(uvs[corner * 2] - wanted[0], uvs[corner * 2 + 1] - wanted[1]))
    }
    // Two thousandths of the map are two pixels of a 1024 map.
    expect(worst).toBeLessThan(0.002)
  })

  it('leaves no gap along a texture seam', async () => {
    const start = twoIslands(16)
    const { indices, positions } = await reduce(start, 200, { attributes: uvsOf(start.uvs), holdBorders: false })
    const placeOf = new Map<string, number>()
    const place = (corner: number): number => {
      const key = [...positions.subarray(corner * 3, corner * 3 + 3)].join(' ')
      placeOf.set(key, placeOf.get(key) ?? placeOf.size)
      return placeOf.get(key) as number
    }
    const { borderEdges } = meetEdges(Uint32Array.from(indices, place))
    const outline = new Set(
      [...indices].filter(
        (corner) =>
          [0, 32].includes(Math.round(positions[corner * 3] * 1000) / 1000) ||
          [0, 32].includes(Math.round(positions[corner * 3 + 1] * 1000) / 1000),
      ),
    )
    expect(borderEdges).toBeLessThanOrEqual(outline.size + 2)
  })

  it('holds an open border where it is while the count allows, and says when it has to let go', async () => {
    const flat = sheet(20, 20)
    const held = await reduce(flat, 100)
    expect(meetEdges(held.indices).borderEdges).toBe(80)
    expect(surfaceArea(held.positions, held.indices)).toBeCloseTo(400)
    expect(held.letGo).toEqual([])
    const freed = await reduce(flat, 10)
    expect(freed.indices.length / 3).toBeLessThanOrEqual(10)
    expect(freed.letGo).toEqual(['borders'])
  })

  it('keeps the seam between two materials closed whatever else is let go', async () => {
    const start = together(sheet(12, 12), {
      ...sheet(12, 12),
      positions: sheet(12, 12).positions.map((value, at) => (at % 3 === 0 ? value + 12 : value)),
    })
    const protectedCorners = Uint8Array.from({ length: start.positions.length / 3 }, (_, corner) =>
      start.positions[corner * 3] === 12 ? 1 : 0,
    )
    const { indices } = await reduce(start, 30, { protectedCorners, holdSeams: false, holdBorders: false })
    const half = start.positions.length / 6
    for (let at = 0; at < indices.length; at += 3)
      expect(new Set([0, 1, 2].map((corner) => indices[at + corner] < half)).size).toBe(1)
  })

  it('stops before the surface moves further than allowed', async () => {
    const round = ball(3, 40)
    for (const largestShift of [0.3, 0.05, 0.01]) {
      const { indices, positions } = await reduce(round, 1, { largestShift })
      expect(indices.length).toBeLessThan(round.indices.length)
      expect(surfaceDifference(round, { positions, indices }, 4000).worst).toBeLessThanOrEqual(largestShift * 1.6)
    }
  })

  it('brings normals back to unit length and weights to a sum of one', async () => {
    const round = ball(2, 30)
    const weights = Float32Array.from({ length: (round.positions.length / 3) * 2 }, (_, at) =>
      at % 2 === 0
        ? (round.positions[Math.floor(at / 2) * 3 + 1] + 2) / 4
        : (2 - round.positions[Math.floor(at / 2) * 3 + 1]) / 4,
    )
    const { indices, attributes } = await reduce(round, 200, {
      attributes: new Map([
        [
          'NORMAL',
          { array: round.positions.map((value) => value / 2), size: 3, weight: 0.5, keep: 'unit length' as const },
        ],
        ['WEIGHTS_0', { array: weights, size: 2, weight: 1, keep: 'sum of one' as const }],
      ]),
    })
    const [normals, bones] = [attributes.get('NORMAL')?.array ?? [], attributes.get('WEIGHTS_0')?.array ?? []]
    for (const corner of new Set(indices)) {
      expect(Math.hypot(normals[corner * 3], normals[corner * 3 + 1], normals[corner * 3 + 2])).toBeCloseTo(1, 4)
      expect(bones[corner * 2] + bones[corner * 2 + 1]).toBeCloseTo(1, 4)
    }
  })

  it('is never further from the source than the bare library at the same count', async () => {
    await MeshoptSimplifier.ready
    const shapes = {
      ball: ball(1, 60),
      tube: dentedTube(60, 60, 0.05),
      waves: sheet(80, 80, (x, y) => Math.sin(x / 5) * Math.cos(y / 7) * 3),
    }
    for (const [name, shape] of Object.entries(shapes)) {
      const [bare] = MeshoptSimplifier.simplify(
        shape.indices,
        shape.positions,
        3,
        Math.floor(shape.indices.length / 30) * 3,
        1,
        ['LockBorder'],
      )
      const ours = await reduce(shape, bare.length / 3)
      const theirs = surfaceDifference(shape, { positions: shape.positions, indices: bare }, 6000)
      const own = surfaceDifference(shape, ours, 6000)
      expect(own.mean, name).toBeLessThanOrEqual(theirs.mean * 1.001)
      expect(own.worst, name).toBeLessThanOrEqual(theirs.worst * 1.02)
    }
  })

  it('drops corners that nothing uses', () => {
    expect([...compactCorners(Uint32Array.from([5, 2, 9]), 10).oldCorner]).toEqual([5, 2, 9])
  })
})

describe('distance between surfaces', () => {
  it('is the gap between two balls, and nothing for the same one', () => {
    const apart = surfaceDifference(ball(1, 40), ball(1.1, 40))
    expect(apart.worst).toBeCloseTo(0.1, 2)
    expect(apart.mean).toBeCloseTo(0.1, 2)
    expect(surfaceDifference(ball(1, 20), ball(1, 20)).worst).toBeLessThan(1e-6)
  })
  it('finds the one place where something is missing', () => {
    const cube = unitBox()
    const open = { positions: cube.positions, indices: cube.indices.slice(6) }
    const { worst, worstAt } = surfaceDifference(cube, open)
    expect(worst).toBeGreaterThan(0.4)
    expect(worstAt[0]).toBeCloseTo(0, 5)
  })
})
