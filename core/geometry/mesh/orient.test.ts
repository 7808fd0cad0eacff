import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ball, turnedOver, unitBox } from '../../test-support/meshes.ts'
import { kleinSheet, moebiusStrip, sheet, together } from '../../test-support/shapes.ts'
import { boxMesh, enclosedVolume } from '../shapes/box-mesh.ts'
import type { TriangleSoup } from '../shapes/convex-hull.ts'
import { bothMeasures, measureFacing, measureFacingFromEyes, measureVisibility } from '../surface/facing.ts'
import { flipTriangles, orientOutward, windPieces } from './orient.ts'
import { createRayCaster } from '../surface/ray-caster.ts'
import { surfaceArea } from '../surface/sample-surface.ts'

const orient = (soup: TriangleSoup) =>
  orientOutward(soup.positions, soup.indices, createRayCaster(soup.positions, soup.indices))
const flipped = (soup: TriangleSoup): TriangleSoup => ({
  positions: soup.positions,
  indices: flipTriangles(soup.indices, orient(soup).flip),
})
const seen = (soup: TriangleSoup, twoSided = 0) => ({
  ...soup,
  partOfTriangle: new Uint32Array(soup.indices.length / 3),
  twoSided: new Uint8Array(soup.indices.length / 3).fill(twoSided),
})

describe('turning outward', () => {
  it('leaves a closed outward ball alone and turns an inside-out one whole', () => {
    expect(orient(ball(2, 8)).flip.reduce((sum, flip) => sum + flip, 0)).toBe(0)
    const wrong = turnedOver(ball(2, 8))
    expect(orient(wrong).flip.every((flip) => flip === 1)).toBe(true)
    expect(enclosedVolume(flipped(wrong))).toBeGreaterThan(0)
  })

  it('finds the one face of a cube that was turned over', () => {
    const cube = unitBox()
    const wrong = new Uint8Array(12)
    wrong[4] = wrong[5] = 1
    const found = orient({ positions: cube.positions, indices: flipTriangles(cube.indices, wrong) })
    expect([...found.flip]).toEqual([...wrong])
    expect(found.turnedPieces).toBe(1)
  })

  it('mends single triangles that disagree with their neighbours, far from the origin too', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 0, max: 111 }), { maxLength: 40 }),
        fc.integer({ min: -500, max: 500 }),
        (wrong, shift) => {
          const { positions, indices } = ball(1, 8, [shift, 0, shift / 2])
          const flip = new Uint8Array(indices.length / 3)
          for (const triangle of wrong) if (triangle < flip.length) flip[triangle] = 1
          const found = orient({ positions, indices: flipTriangles(indices, flip) })
          return found.flip.every((value, triangle) => value === flip[triangle])
        },
      ),
      { numRuns: 40 },
    )
  })

  it('turns an open box so that its freer side is out', () => {
    const walls = boxMesh({ min: [0, 0, 0], max: [1, 1, 1] })
    const open = { positions: walls.positions, indices: walls.indices.slice(0, 30) }
    expect(orient(open).flip.reduce((sum, flip) => sum + flip, 0)).toBe(0)
    expect(orient(turnedOver(open)).flip.every((flip) => flip === 1)).toBe(true)
  })

  it('judges a shell inside another for itself, whichever of them is wrong', () => {
    for (const [outer, inner] of [
      [false, false],
      [true, false],
      [false, true],
      [true, true],
    ]) {
      const shells = together(
        outer ? turnedOver(ball(2, 10)) : ball(2, 10),
        inner ? turnedOver(ball(1, 8)) : ball(1, 8),
      )
      const { flip, pieces, turnedPieces } = orient(shells)
      expect({ pieces, turnedPieces }).toEqual({ pieces: 2, turnedPieces: Number(outer) + Number(inner) })
      const first = ball(2, 10).indices.length / 3
      expect(flip[0]).toBe(Number(outer))
      expect(flip[first]).toBe(Number(inner))
    }
  })

  it('turns a lining that hugs the inside of an open box to face the room it can be seen from', () => {
    const walls = boxMesh({ min: [0, 0, 0], max: [4, 4, 4] })
    const floor = sheet(2, 2)
    // Facing down, close above the bottom of a box whose top is open: it can only be seen from above.
    const lining = {
      positions: Float32Array.from(
        floor.positions,
        (value, at) => [floor.positions[at] + 1, 0.05, floor.positions[at - 1] + 1][at % 3] || value,
      ),
      indices: floor.indices,
    }
    const open = {
      positions: walls.positions,
      indices: walls.indices.filter((_, index) => Math.floor(index / 6) !== 3),
    }
    const both = together(open, lining)
    const result = flipped(both)
    const at = result.indices.length - floor.indices.length
    const [a, b, c] = [...result.indices.subarray(at, at + 3)].map((corner) => [
      ...result.positions.subarray(corner * 3, corner * 3 + 3),
    ])
    const upward = (b[2] - a[2]) * (c[0] - a[0]) - (b[0] - a[0]) * (c[2] - a[2])
    expect(upward).toBeGreaterThan(0)
  })

  it('casts no more rays for the thousand leaves of a tree than it is given, and some for each', () => {
    const leaf = sheet(3, 3)
    const leaves = Array.from({ length: 1000 }, (_, at) => ({
      positions: leaf.positions.map((value, axis) => (axis % 3 === 2 ? value + at * 0.1 : value)),
      indices: leaf.indices,
    }))
    const tree = together(...leaves)
    const asked = new Set<number>()
    let rays = 0
    const counting = {
      first: (origin: readonly number[]) => {
        rays++
        asked.add(Math.round(origin[2] * 10))
        return null
      },
    }
    orientOutward(tree.positions, tree.indices, counting, 2000)
    expect(rays).toBeLessThanOrEqual(2000 * 12)
    expect(asked.size).toBe(1000)
    rays = 0
    orientOutward(tree.positions, tree.indices, counting, 10)
    expect(rays).toBeLessThanOrEqual(1000 * 12)
  })

  it('does nothing a second time', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 0, max: 300 }), { maxLength: 80 }), (wrong) => {
        const start = together(
          ball(1, 8),
          sheet(6, 3, (x, y) => Math.sin(x) + y / 3),
          boxMesh({ min: [3, 3, 3], max: [4, 5, 6] }),
        )
        const flip = new Uint8Array(start.indices.length / 3)
        for (const triangle of wrong) if (triangle < flip.length) flip[triangle] = 1
        const once = flipped({ positions: start.positions, indices: flipTriangles(start.indices, flip) })
        expect(orient(once).flip.reduce((sum, each) => sum + each, 0)).toBe(0)
      }),
      { numRuns: 25 },
    )
  })

  it('refuses a Möbius strip and a Klein bottle: they have no outside', () => {
    for (const oneSided of [moebiusStrip(), kleinSheet()]) {
      const { flip, withoutOutside, piecesWithoutOutside } = orient(oneSided)
      expect(piecesWithoutOutside).toBe(1)
      expect(withoutOutside.every((each) => each === 1)).toBe(true)
      expect(flip.every((each) => each === 0)).toBe(true)
    }
    expect(windPieces(kleinSheet().positions, kleinSheet().indices)[0]).toMatchObject({ closed: true, twoSides: false })
  })

  it('still turns what stands beside a strip without an outside', () => {
    const { flip, piecesWithoutOutside } = orient(together(moebiusStrip(), turnedOver(ball(1, 8, [6, 0, 0]))))
    expect(piecesWithoutOutside).toBe(1)
    expect(flip.reduce((sum, each) => sum + each, 0)).toBe(ball(1, 8).indices.length / 3)
  })
})

describe('what one sees from outside', () => {
  it('measures how much of it is backs, unless backs are meant to be seen', () => {
    const right = ball(1, 10)
    expect(measureFacing(seen(right)).inwardShare).toBe(0)
    const wrong = turnedOver(right)
    expect(measureFacing(seen(wrong)).inwardShare).toBe(1)
    expect(measureFacing(seen(wrong, 1)).inwardShare).toBe(0)
  })

  it('names places where a back shows, on the surface itself', () => {
    const { spots } = measureFacing(seen(turnedOver(ball(2, 20))))
    expect(spots.length).toBeGreaterThan(5)
    for (const { point } of spots) expect(Math.hypot(...point)).toBeCloseTo(2, 1)
  })

  it('looks from the eyes of a figure too, which see more of what is open at the side', () => {
    const walls = boxMesh({ min: [0, 0, 0], max: [4, 4, 4] })
    const hut = { positions: walls.positions, indices: walls.indices.filter((_, index) => Math.floor(index / 6) !== 5) }
    const far = measureFacing(seen(hut))
    const near = bothMeasures(far, measureFacingFromEyes(seen(hut), 2))
    expect(near.rays).toBeGreaterThan(far.rays)
    expect(near.inwardShare).toBeGreaterThan(far.inwardShare)
    expect(near.spots.length).toBeGreaterThan(0)
  })

  it('counts a part inside another as unseen and a free one as fully seen', () => {
    const both = together(ball(2, 16), ball(1, 12))
    const first = ball(2, 16).indices.length / 3
    const partOfTriangle = Uint32Array.from({ length: both.indices.length / 3 }, (_, triangle) =>
      triangle < first ? 0 : 1,
    )
    const areas = [
      surfaceArea(ball(2, 16).positions, ball(2, 16).indices),
      surfaceArea(ball(1, 12).positions, ball(1, 12).indices),
    ]
    const [outer, inner] = measureVisibility({ ...both, partOfTriangle }, areas)
    expect(outer).toBeGreaterThan(0.9)
    expect(inner).toBe(0)
  })
})
