import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ball } from '../../test-support/meshes.ts'
import { boxMesh } from '../shapes/box-mesh.ts'
import { flipEdges } from './flip-edges.ts'
import { relaxPlaces } from './relax.ts'
import { splitCorners } from './split-corners.ts'
import { placeMesh, smallestAngleOf, type PlaceMesh } from './triangle-mesh.ts'

const NO_TWIN = 0xffffffff
const volumeOf = (places: Float32Array, triangles: Uint32Array): number => {
  let volume = 0
  for (let at = 0; at < triangles.length; at += 3) {
    const [a, b, c] = [0, 1, 2].map((corner) => {
      const place = triangles[at + corner] * 3
      return [places[place], places[place + 1], places[place + 2]]
    })
    volume +=
      (a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0])) / 6
  }
  return volume
}

/** A flat strip of so many squares, each cut along the diagonal that a bit chooses. */
function strip(cuts: readonly boolean[], width: number): { positions: Float32Array; indices: Uint32Array } {
  const positions = new Float32Array((cuts.length + 1) * 6)
  for (let column = 0; column <= cuts.length; column++) {
    positions.set([column * width, 0, 0], column * 6)
    positions.set([column * width, 1, 0], column * 6 + 3)
  }
  const indices = cuts.flatMap((rising, at) => {
    const [a, b, c, d] = [at * 2, at * 2 + 2, at * 2 + 3, at * 2 + 1]
    return rising ? [a, b, c, a, c, d] : [a, b, d, b, c, d]
  })
  return { positions, indices: Uint32Array.from(indices) }
}

/** Every pair of half-edges that lie on each other knows of the other, and runs back. */
function expectTwins({ placeOfIndex, twin }: PlaceMesh): void {
  for (let edge = 0; edge < twin.length; edge++) {
    if (twin[edge] === NO_TWIN) continue
    expect(twin[twin[edge]]).toBe(edge)
    const next = (of: number): number => (of % 3 === 2 ? of - 2 : of + 1)
    expect(placeOfIndex[twin[edge]]).toBe(placeOfIndex[next(edge)])
    expect(placeOfIndex[next(twin[edge])]).toBe(placeOfIndex[edge])
  }
}

const areaOf = ({ places, placeOfIndex }: PlaceMesh): number => {
  let area = 0
  for (let at = 0; at < placeOfIndex.length; at += 3) {
    const [a, b, c] = [placeOfIndex[at] * 3, placeOfIndex[at + 1] * 3, placeOfIndex[at + 2] * 3]
    area +=
      ((places[b] - places[a]) * (places[c + 1] - places[a + 1]) -
        (places[c] - places[a]) * (places[b + 1] - places[a + 1])) /
      2
  }
  return area
}

describe('flipping edges', () => {
  it('cuts a long kite the short way, and leaves it so', () => {
    const positions = new Float32Array([-3, 0, 0, 3, 0, 0, 0, 0.5, 0, 0, -0.5, 0])
    const indices = Uint32Array.of(0, 1, 2, 1, 0, 3)
    const mesh = placeMesh(positions, indices)
    expect(flipEdges(mesh, { featureAngleDegrees: 30, indices })).toBe(1)
    // Both triangles now have the two near corners.
    for (const at of [0, 3]) expect([...indices.subarray(at, at + 3)]).toEqual(expect.arrayContaining([2, 3]))
    expect(flipEdges(mesh, { featureAngleDegrees: 30, indices })).toBe(0)
  })

  it('leaves the edges of a box: they are its shape', () => {
    const { positions, indices } = boxMesh({ min: [0, 0, 0], max: [1, 1, 1] })
    const flipped = indices.slice()
    const mesh = placeMesh(positions, flipped)
    flipEdges(mesh, { featureAngleDegrees: 30, indices: flipped })
    expect(volumeOf(mesh.places, mesh.placeOfIndex)).toBeCloseTo(1)
  })

  it('leaves a seam, whose sides have corners of their own', () => {
    const positions = new Float32Array([-3, 0, 0, 3, 0, 0, 0, 0.5, 0, 0, -0.5, 0, -3, 0, 0, 3, 0, 0])
    const indices = Uint32Array.of(0, 1, 2, 5, 4, 3)
    expect(flipEdges(placeMesh(positions, indices), { featureAngleDegrees: 30, indices })).toBe(0)
  })

  it('keeps area, way round and neighbours of any flat strip, and no triangle gets thinner than the thinnest was', () => {
    fc.assert(
      fc.property(
        fc.array(fc.boolean(), { minLength: 1, maxLength: 12 }),
        fc.double({ min: 0.2, max: 5, noNaN: true }),
        (cuts, width) => {
          const { positions, indices } = strip(cuts, width)
          const mesh = placeMesh(positions, indices)
          const before = areaOf(mesh)
          const smallest = (): number => {
            let least = 180
            for (let at = 0; at < indices.length; at += 3)
              least = Math.min(
                least,
                smallestAngleOf(
                  mesh.places,
                  mesh.placeOfIndex[at],
                  mesh.placeOfIndex[at + 1],
                  mesh.placeOfIndex[at + 2],
                ),
              )
            return least
          }
          const thinnest = smallest()
          flipEdges(mesh, { featureAngleDegrees: 30, indices })
          expect(areaOf(mesh)).toBeCloseTo(before, 4)
          expectTwins(mesh)
          expect(smallest()).toBeGreaterThanOrEqual(Math.min(thinnest, 10) - 1e-4)
          // Corners and places tell the same triangles.
          expect([...indices].map((corner) => mesh.placeOfCorner[corner])).toEqual([...mesh.placeOfIndex])
        },
      ),
      { numRuns: 60 },
    )
  })
})

describe('relaxing places', () => {
  const dented = (): { mesh: PlaceMesh; place: number } => {
    const { positions, indices } = ball(1, 16)
    const mesh = placeMesh(positions, indices)
    // One place on the side is pushed in.
    const place = mesh.places.findIndex((value, at) => at % 3 === 0 && value > 0.99) / 3
    mesh.places[place * 3] -= 0.1
    return { mesh, place }
  }
  const options = { distanceLimit: 1, featureAngleDegrees: 60, rounds: 10 }
  const moved = (before: Float32Array, after: Float32Array, place: number): number =>
    Math.hypot(...[0, 1, 2].map((axis) => after[place * 3 + axis] - before[place * 3 + axis]))

  it('takes a dent out and keeps the volume', () => {
    const { mesh, place } = dented()
    const relaxed = relaxPlaces(mesh, options)
    expect(relaxed[place * 3]).toBeGreaterThan(mesh.places[place * 3] + 0.03)
    const before = volumeOf(mesh.places, mesh.placeOfIndex)
    expect(volumeOf(relaxed, mesh.placeOfIndex) / before).toBeGreaterThan(0.97)
    expect(volumeOf(relaxed, mesh.placeOfIndex) / before).toBeLessThan(1.03)
  })

  it('moves nothing further than it may, and nothing that is held', () => {
    const { mesh, place } = dented()
    const fixed = new Uint8Array(mesh.places.length / 3)
    fixed[place] = 1
    const relaxed = relaxPlaces(mesh, { ...options, distanceLimit: 0.01, fixed })
    for (let each = 0; each < fixed.length; each++)
      expect(moved(mesh.places, relaxed, each)).toBeLessThanOrEqual(each === place ? 0 : 0.01 + 1e-6)
  })

  it('keeps corners and edges of a box where they are', () => {
    const { positions, indices } = boxMesh({ min: [0, 0, 0], max: [1, 1, 1] })
    const mesh = placeMesh(positions, indices)
    expect([...relaxPlaces(mesh, { ...options, featureAngleDegrees: 30 })]).toEqual([...mesh.places])
  })

  it('keeps the border of a sheet', () => {
    const { positions, indices } = strip([true, false, true], 1)
    const mesh = placeMesh(positions, indices)
    expect([...relaxPlaces(mesh, options)]).toEqual([...mesh.places])
  })

  it('leaves the mesh that it was given', () => {
    const { mesh } = dented()
    const before = mesh.places.slice()
    relaxPlaces(mesh, options)
    expect(mesh.places).toEqual(before)
  })
})

describe('splitting corners', () => {
  it('keeps one corner where its triangles agree, and makes two where they do not', () => {
    const indices = Uint32Array.of(0, 1, 2, 0, 2, 3)
    const values = new Float32Array([1, 2, 3, 1, 9, 4])
    const split = splitCorners(indices, values, 1, 1000)
    expect([...split.indices]).toEqual([0, 1, 2, 0, 3, 4])
    expect([...split.oldCorner]).toEqual([0, 1, 2, 2, 3])
    expect([...split.values]).toEqual([1, 2, 3, 9, 4])
  })

  it('takes values for one that agree to a step', () => {
    const near = new Float32Array([0.5, 0.50001])
    expect(splitCorners(Uint32Array.of(7, 7), near, 1, 100).oldCorner).toHaveLength(1)
    expect(splitCorners(Uint32Array.of(7, 7), near, 1, 1_000_000).oldCorner).toHaveLength(2)
  })

  it('gives every triangle corner its value and its corner back, with as few as can be', () => {
    const corners = fc.array(fc.tuple(fc.nat(5), fc.integer({ min: -3, max: 3 }), fc.integer({ min: -3, max: 3 })), {
      maxLength: 60,
    })
    fc.assert(
      fc.property(corners, (made) => {
        const indices = Uint32Array.from(made, ([corner]) => corner)
        const values = Float32Array.from(made.flatMap(([, x, y]) => [x, y]))
        const split = splitCorners(indices, values, 2, 16)
        for (let index = 0; index < indices.length; index++) {
          const corner = split.indices[index]
          expect(split.oldCorner[corner]).toBe(indices[index])
          expect([split.values[corner * 2], split.values[corner * 2 + 1]]).toEqual([
            values[index * 2],
            values[index * 2 + 1],
          ])
        }
        expect(split.oldCorner).toHaveLength(new Set(made.map((each) => each.join())).size)
      }),
    )
  })
})
