import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ball, turnedOver, unitBox } from '../../test-support/meshes.ts'
import { dentedTube, sheet, together } from '../../test-support/shapes.ts'
import { boxMesh, enclosedVolume } from '../shapes/box-mesh.ts'
import { bumpinessDegrees } from './bumpiness.ts'
import { closeHoles } from '../mesh/close-holes.ts'
import { meetEdges } from '../mesh/edges.ts'
import { countQuads, evenTriangulation } from '../mesh/even-triangulation.ts'
import { findHiddenFaces } from './hidden-faces.ts'
import { findMeshFaults } from '../mesh/mesh-faults.ts'
import { outlineChange } from './outline-change.ts'
import { connectedPieces, growPick } from '../mesh/pieces.ts'
import { sampleSurface, surfaceArea } from './sample-surface.ts'
import { closedShape, shadowShape, standsOutOf } from './shadow-shape.ts'
import { surfaceDifference } from './surface-distance.ts'
import { thinFeatures } from '../mesh/thin-features.ts'
import { placeMesh } from '../mesh/triangle-mesh.ts'

describe('even triangulation', () => {
  const options = { distanceLimit: 0.15, featureAngleDegrees: 60, rounds: 10 }

  it('makes a dented tube less bumpy, keeps its count, and moves nothing further than allowed', () => {
    const tube = dentedTube(28, 20, 0.06)
    const made = evenTriangulation(tube.positions, tube.indices, options)
    expect(made.bumpinessAfter).toBeLessThan(made.bumpinessBefore * 0.6)
    expect(made.indices.length).toBe(tube.indices.length)
    expect(made.furthestMove).toBeGreaterThan(0)
    expect(made.furthestMove).toBeLessThanOrEqual(options.distanceLimit + 1e-6)
    expect(made.quads).toBeGreaterThan(countQuads(placeMesh(tube.positions, tube.indices)))
    expect(findMeshFaults(made.positions, made.indices).slivers.length).toBe(0)
  })

  it('keeps the surface whole and facing as it did, for any dents', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 6, max: 20 }),
        fc.integer({ min: 3, max: 14 }),
        fc.double({ min: 0, max: 0.3, noNaN: true }),
        fc.double({ min: 0, max: 0.5, noNaN: true }),
        (sides, rings, dent, distanceLimit) => {
          const tube = dentedTube(sides, rings, dent)
          const made = evenTriangulation(tube.positions, tube.indices, { ...options, distanceLimit })
          expect(made.indices.length).toBe(tube.indices.length)
          const before = meetEdges(tube.indices)
          const after = meetEdges(made.indices)
          expect([after.borderEdges, after.nonManifoldEdges]).toEqual([before.borderEdges, 0])
          expect(after.sameWay.every((each) => each === 0)).toBe(true)
          expect(made.positions.every(Number.isFinite)).toBe(true)
        },
      ),
      { numRuns: 40 },
    )
  })

  it('only flips when nothing may move, and then keeps every point', () => {
    const tube = dentedTube(24, 12, 0.05)
    const made = evenTriangulation(tube.positions, tube.indices, { ...options, distanceLimit: 0 })
    expect(made.positions).toEqual(tube.positions)
    expect(made.flips).toBeGreaterThan(0)
  })

  it('leaves the edges of a box sharp and its corners where they are', () => {
    const box = unitBox()
    const made = evenTriangulation(box.positions, box.indices, options)
    expect(made.positions).toEqual(box.positions)
    expect(enclosedVolume({ positions: made.positions, indices: made.indices })).toBeCloseTo(1)
  })

  it('does not flip across a texture seam', () => {
    const flat = sheet(1, 1)
    // The two halves use corners of their own along the diagonal.
    const positions = Float32Array.from(
      [...flat.indices].flatMap((corner) => [...flat.positions.subarray(corner * 3, corner * 3 + 3)]),
    )
    const stretched = positions.map((value, at) => (at % 3 === 0 ? value * 4 + positions[at + 1] * 3.4 : value))
    const indices = Uint32Array.from([0, 1, 2, 3, 4, 5])
    expect([...evenTriangulation(stretched, indices, options).indices]).toEqual([...indices])
  })

  it('calls a plane, a ball and a box smooth, and a dented tube not', () => {
    for (const smooth of [sheet(8, 8), ball(2, 24), unitBox()])
      expect(bumpinessDegrees(smooth.positions, smooth.indices, 45)).toBeLessThan(2)
    const dented = dentedTube(28, 20, 0.08)
    expect(bumpinessDegrees(dented.positions, dented.indices, 60)).toBeGreaterThan(5)
    expect(bumpinessDegrees(dentedTube(28, 20, 0.02).positions, dentedTube(28, 20, 0.02).indices, 60)).toBeLessThan(
      bumpinessDegrees(dented.positions, dented.indices, 60),
    )
  })
})

describe('faults of a mesh', () => {
  it('finds doubles, triangles without area, slivers and unused corners, each once', () => {
    const flat = sheet(2, 2)
    const positions = Float32Array.from([...flat.positions, 5, 5, 5, 0.5, 0.001, 0])
    const sliver = [0, 1, 10]
    const indices = Uint32Array.from([...flat.indices, ...flat.indices.slice(0, 3), 0, 0, 1, ...sliver])
    const faults = findMeshFaults(positions, indices)
    expect([...faults.doubles]).toEqual([8])
    expect([...faults.withoutArea]).toEqual([9])
    expect([...faults.slivers]).toEqual([10])
    expect(faults.unusedCorners).toBe(1)
  })

  it('takes back faces for faces of their own', () => {
    const both = together(sheet(2, 2), turnedOver(sheet(2, 2)))
    expect(findMeshFaults(both.positions, both.indices).doubles.length).toBe(0)
  })

  it('finds the ring of a hole and the edge where three faces meet', () => {
    const grid = sheet(4, 4)
    const holed = { positions: grid.positions, indices: grid.indices.filter((_, index) => Math.floor(index / 6) !== 5) }
    expect(
      findMeshFaults(holed.positions, holed.indices)
        .openLoops.map((loop) => loop.length)
        .sort((a, b) => a - b),
    ).toEqual([4, 16])
    const fin = {
      positions: Float32Array.from([...grid.positions, 1.5, 1, 2]),
      indices: Uint32Array.from([...grid.indices, 6, 7, 25]),
    }
    expect(findMeshFaults(fin.positions, fin.indices).nonManifoldEdges.length).toBe(1)
    expect(findMeshFaults(unitBox().positions, unitBox().indices)).toMatchObject({
      openLoops: [],
      nonManifoldEdges: new Uint32Array(0),
    })
  })

  it('closes holes so that the body is whole and outward, and leaves larger ones', () => {
    const box = unitBox()
    for (const missing of [0, 1, 2, 3, 4, 5]) {
      const open = {
        positions: box.positions,
        indices: box.indices.filter((_, index) => Math.floor(index / 6) !== missing),
      }
      const { indices, closed, left } = closeHoles(open.positions, open.indices, 4)
      expect([closed, left]).toEqual([1, 0])
      const whole = Uint32Array.from([...open.indices, ...indices])
      expect(meetEdges(whole)).toMatchObject({ borderEdges: 0, nonManifoldEdges: 0 })
      expect(enclosedVolume({ positions: box.positions, indices: whole })).toBeCloseTo(1)
    }
    const tube = dentedTube(20, 4, 0)
    expect(closeHoles(tube.positions, tube.indices, 12)).toMatchObject({ closed: 0, left: 2 })
  })

  it('tells pieces apart and grows a pick as far as asked', () => {
    const two = together(unitBox(), ball(1, 8, [5, 0, 0]))
    expect(connectedPieces(two.positions, two.indices).count).toBe(2)
    const size = (growth: Parameters<typeof growPick>[3], angle = 20): number =>
      growPick(two.positions, two.indices, 0, growth, angle).reduce((sum, each) => sum + each, 0)
    expect([size('face'), size('flat'), size('flat', 95), size('piece'), size('surface')]).toEqual([
      1,
      2,
      12,
      12,
      two.indices.length / 3,
    ])
  })
})

describe('what cannot be seen', () => {
  it('is all of a ball inside a ball, and nothing of two balls side by side', async () => {
    const inside = together(ball(2, 16), ball(1, 10))
    const hidden = await findHiddenFaces(inside, { seenFromAtMost: 0 })
    const outer = ball(2, 16).indices.length / 3
    expect(hidden.subarray(0, outer).every((each) => each === 0)).toBe(true)
    expect(hidden.subarray(outer).every((each) => each === 1)).toBe(true)
    const apart = together(ball(1, 10), ball(1, 10, [4, 0, 0]))
    expect((await findHiddenFaces(apart, { seenFromAtMost: 0 })).every((each) => each === 0)).toBe(true)
  })

  it('shows through glass, and goes deeper into a niche when asked', async () => {
    const inside = together(ball(2, 16), ball(1, 10))
    const seeThrough = Uint8Array.from({ length: inside.indices.length / 3 }, (_, triangle) =>
      triangle < ball(2, 16).indices.length / 3 ? 1 : 0,
    )
    expect((await findHiddenFaces(inside, { seenFromAtMost: 0, seeThrough })).every((each) => each === 0)).toBe(true)
    const walls = boxMesh({ min: [0, 0, 0], max: [1, 3, 1] })
    const well = together(
      { positions: walls.positions, indices: walls.indices.filter((_, index) => Math.floor(index / 6) !== 3) },
      {
        ...sheet(1, 1),
        positions: Float32Array.from([0.05, 0.1, 0.05, 0.95, 0.1, 0.05, 0.05, 0.1, 0.95, 0.95, 0.1, 0.95]),
      },
    )
    const count = async (seenFromAtMost: number): Promise<number> =>
      (await findHiddenFaces(well, { seenFromAtMost })).reduce((sum, each) => sum + each, 0)
    expect(await count(0)).toBe(0)
    expect(await count(0.05)).toBeGreaterThanOrEqual(2)
  })
})

describe('measures of shape', () => {
  it('finds a leaning wire by its own thickness, and the thinnest first', () => {
    const rod = boxMesh({ min: [-5, -0.004, -0.004], max: [5, 0.004, 0.004] })
    const turn = (x: number, y: number): [number, number] => [x * 0.6 - y * 0.8, x * 0.8 + y * 0.6]
    const leaning = {
      positions: Float32Array.from(
        Array.from({ length: rod.positions.length / 3 }, (_, corner) => [
          ...turn(rod.positions[corner * 3], rod.positions[corner * 3 + 1]),
          rod.positions[corner * 3 + 2] + 9,
        ]).flat(),
      ),
      indices: rod.indices,
    }
    const plate = boxMesh({ min: [0, 0, 0], max: [3, 2, 0.001] })
    const features = thinFeatures(together(plate, leaning).positions, together(plate, leaning).indices)
    expect(features[0].width).toBeCloseTo(0.008, 3)
    expect(features[0].centre[2]).toBeCloseTo(9, 3)
    expect(features[1].width).toBeCloseTo(2, 1)
  })

  it('spreads samples by area', () => {
    const two = together(sheet(1, 1), {
      ...sheet(1, 1),
      positions: sheet(1, 1).positions.map((value, at) => (at % 3 === 2 ? 5 : value * 3)),
    })
    const { triangles, points } = sampleSurface(two.positions, two.indices, 1000)
    expect(triangles.filter((triangle) => triangle >= 2).length).toBeCloseTo(900, -1)
    expect(points.every(Number.isFinite)).toBe(true)
    expect(surfaceArea(two.positions, two.indices)).toBeCloseTo(10)
  })

  it('tells how much an outline changed, from each side for itself', () => {
    const same = outlineChange(ball(1, 40), ball(1, 40))
    expect(same).toEqual(new Array(8).fill(0))
    for (const share of outlineChange(ball(1, 40), ball(0.9, 40))) expect(share).toBeCloseTo(0.19, 1)
    const oneSide = outlineChange(unitBox(), boxMesh({ min: [0, 0, 0], max: [2, 1, 1] }))
    expect(Math.max(...oneSide)).toBeGreaterThan(Math.min(...oneSide) * 1.5)
  })
})

describe('a shadow shape', () => {
  it('is closed and inside, for a ball and for an open tube', () => {
    for (const view of [ball(2, 30), dentedTube(32, 20, 0.02)]) {
      const rough = view === undefined ? view : coarse(view)
      const shape = shadowShape(closedShape(rough), view)
      expect(findMeshFaults(shape.positions, shape.indices).openLoops).toEqual([])
      expect(shape.standsOut).toBeLessThan(0.05)
      expect(standsOutOf(shape, view)).toBeLessThan(0.06)
    }
  })
  it('pulls in what stood out', () => {
    const view = ball(2, 30)
    const swollen = ball(2.4, 10)
    expect(standsOutOf(swollen, view)).toBeGreaterThan(0.3)
    const shape = shadowShape(closedShape(swollen), view)
    expect(standsOutOf(shape, view)).toBeLessThan(0.05)
    expect(surfaceDifference(shape, view).mean).toBeLessThan(0.2)
  })
})

/** The same shape with every other ring and side left out. */
function coarse(view: { positions: Float32Array; indices: Uint32Array }): {
  positions: Float32Array
  indices: Uint32Array
} {
  return view.indices.length === ball(2, 30).indices.length ? ball(2, 10) : dentedTube(16, 20, 0)
}
