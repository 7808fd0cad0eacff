import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { axesTurn } from '../document/axes.ts'
import { ball, documentOf, turnedOver, unitBox } from '../test-support/meshes.ts'
import { boxMesh, enclosedVolume } from './box-mesh.ts'
import { changeBasis } from './change-basis.ts'
import { convexHull } from './convex-hull.ts'
import { meetEdges } from './edges.ts'
import { measureFacing } from './facing.ts'
import { evenNormals } from './normals.ts'
import { flipTriangles, orientOutward } from './orient.ts'
import { groupPositions } from './position-groups.ts'
import { createRayCaster } from './ray-caster.ts'
import { compactCorners, reduceTriangles, shareBudget, surfaceArea } from './reduce.ts'
import { makeTangents } from './tangents.ts'
import { triangulatePolygons } from './triangulate.ts'
import { dropCollapsed, weldCorners } from './weld.ts'

describe('triangulation', () => {
  const area = (positions: number[], sizes: number[]): { area: number; triangles: number; facing: number } => {
    const points = Float32Array.from(positions)
    const starts = Uint32Array.from([0, ...sizes.map((_, index) => sizes.slice(0, index + 1).reduce((sum, size) => sum + size, 0))])
    const indices = triangulatePolygons(points, starts)
    let facing = 0
    for (let at = 0; at < indices.length; at += 3) {
      const [a, b, c] = [indices[at] * 3, indices[at + 1] * 3, indices[at + 2] * 3]
      facing += Math.sign((points[b] - points[a]) * (points[c + 1] - points[a + 1]) - (points[b + 1] - points[a + 1]) * (points[c] - points[a]))
    }
    return { area: surfaceArea(points, indices), triangles: indices.length / 3, facing }
  }
  it('covers a concave polygon exactly, all one way round', () => {
    // An L of three unit squares.
    const result = area([0, 0, 0, 2, 0, 0, 2, 1, 0, 1, 1, 0, 1, 2, 0, 0, 2, 0], [6])
    expect(result).toEqual({ area: 3, triangles: 4, facing: 4 })
  })
  it('cuts a concave quad inside and a convex one along its shorter diagonal', () => {
    expect(area([0, 0, 0, 2, 2, 0, 4, 0, 0, 2, 4, 0], [4])).toMatchObject({ area: 4, triangles: 2, facing: 2 })
    const kite = Float32Array.from([0, 0, 0, 5, -1, 0, 10, 0, 0, 5, 1, 0])
    expect([...triangulatePolygons(kite, Uint32Array.from([0, 4]))]).toEqual([0, 1, 3, 1, 2, 3])
  })
  it('keeps the winding of a polygon seen from behind', () => {
    expect(area([0, 2, 0, 1, 2, 0, 1, 1, 0, 2, 1, 0, 2, 0, 0, 0, 0, 0], [6])).toMatchObject({ area: 3, facing: -4 })
  })
})

describe('welding', () => {
  it('joins equal places and keeps corners apart that differ in UV', () => {
    const positions = Float32Array.from([0, 0, 0, 1, 0, 0, 0, 0, 0, 0, 0, 0])
    const uvs = Float32Array.from([0, 0, 0, 0, 0, 0, 0.5, 0])
    const weld = weldCorners(positions, [{ array: uvs, size: 2 }], { position: 0, attribute: 1e-4 })
    expect([...weld.newCorner]).toEqual([0, 1, 0, 2])
  })
  it('joins within the distance, across cell borders too, and not beyond it', () => {
    const positions = Float32Array.from([0.0999, 0, 0, 0.1001, 0, 0, 0.2, 0, 0])
    expect([...groupPositions(positions, 0.01).groupOfCorner]).toEqual([0, 0, 1])
    expect(groupPositions(positions, 0.0001).cornerOfGroup.length).toBe(3)
  })
  it('takes minus zero for zero', () => {
    expect(groupPositions(Float32Array.from([0, 0, 0, -0, 0, -0])).cornerOfGroup.length).toBe(1)
  })
  it('drops triangles that collapse', () => {
    expect([...dropCollapsed(Uint32Array.from([0, 1, 2, 0, 2, 2]), [0, 1, 2])]).toEqual([0, 1, 2])
  })
})

describe('turning outward', () => {
  const orient = (soup: { positions: Float32Array; indices: Uint32Array }) => orientOutward(soup.positions, soup.indices, createRayCaster(soup.positions, soup.indices))
  it('leaves a closed outward ball alone and turns an inside-out one whole', () => {
    expect(orient(ball(2, 8)).flip.reduce((sum, flip) => sum + flip, 0)).toBe(0)
    const wrong = turnedOver(ball(2, 8))
    expect(orient(wrong).flip.every((flip) => flip === 1)).toBe(true)
    expect(enclosedVolume({ positions: wrong.positions, indices: flipTriangles(wrong.indices, orient(wrong).flip) })).toBeGreaterThan(0)
  })
  it('mends single triangles that disagree with their neighbours, far from the origin too', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 0, max: 111 }), { maxLength: 40 }), fc.integer({ min: -500, max: 500 }), (wrong, shift) => {
        const { positions, indices } = ball(1, 8, [shift, 0, shift / 2])
        const flip = new Uint8Array(indices.length / 3)
        for (const triangle of wrong) if (triangle < flip.length) flip[triangle] = 1
        const found = orient({ positions, indices: flipTriangles(indices, flip) })
        return found.flip.every((value, triangle) => value === flip[triangle])
      }),
      { numRuns: 40 },
    )
  })
  it('turns an open sheet so that its freer side is out', () => {
    // A lid just under the top of an open-bottomed box: from outside only its lower side is ever seen.
    const walls = boxMesh({ min: [0, 0, 0], max: [1, 1, 1] })
    const open = { positions: walls.positions, indices: walls.indices.slice(0, 30) }
    expect(orient(open).flip.reduce((sum, flip) => sum + flip, 0)).toBe(0)
    expect(orient(turnedOver(open)).flip.every((flip) => flip === 1)).toBe(true)
  })
  it('measures how much of what one sees is backs', () => {
    const right = ball(1, 10)
    const sides = (count: number) => [new Uint32Array(count), new Uint8Array(count)] as const
    expect(measureFacing(right.positions, right.indices, ...sides(right.indices.length / 3)).inwardShare).toBe(0)
    const wrong = turnedOver(right)
    expect(measureFacing(wrong.positions, wrong.indices, ...sides(wrong.indices.length / 3)).inwardShare).toBe(1)
    expect(measureFacing(wrong.positions, wrong.indices, new Uint32Array(wrong.indices.length / 3), new Uint8Array(wrong.indices.length / 3).fill(1)).inwardShare).toBe(0)
  })
})

describe('normals and tangents', () => {
  it('keeps a box hard and a ball smooth', () => {
    const box = evenNormals(unitBox().positions, unitBox().indices, 38)
    expect(box.oldCorner.length).toBe(24)
    const round = ball(1, 16)
    const smooth = evenNormals(round.positions, round.indices, 60)
    for (let corner = 0; corner < smooth.oldCorner.length; corner++) {
      const at = smooth.oldCorner[corner] * 3
      const along = [0, 1, 2].reduce((sum, axis) => sum + smooth.normals[corner * 3 + axis] * round.positions[at + axis], 0)
      expect(along).toBeGreaterThan(0.99)
    }
  })
  it('makes unit tangents along +U', async () => {
    const positions = Float32Array.from([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0])
    const normals = Float32Array.from([0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1])
    const uvs = Float32Array.from([0, 1, 1, 1, 1, 0, 0, 0])
    const { tangents } = await makeTangents(positions, normals, uvs, Uint32Array.from([0, 1, 2, 0, 2, 3]))
    // V runs down in glTF: with U along +X and V down, the bitangent N × T points along -V, so w is 1.
    for (let at = 0; at < tangents.length; at += 4) expect([...tangents.subarray(at, at + 4)].map((value) => Math.round(value * 1000) / 1000 + 0)).toEqual([1, 0, 0, 1])
  })
})

describe('reducing', () => {
  it('lands at or under the count, keeps the size, and never erases', async () => {
    const { positions, indices } = ball(3, 40)
    for (const targetTriangles of [2000, 400, 60, 8, 1]) {
      const reduced = await reduceTriangles({ positions, indices, normals: null, uvs: null, targetTriangles, holdSeams: true, holdBorders: true })
      expect(reduced.indices.length).toBeGreaterThan(0)
      if (targetTriangles >= 60) {
        expect(reduced.indices.length / 3).toBeLessThanOrEqual(targetTriangles)
        expect(enclosedVolume({ positions, indices: reduced.indices })).toBeGreaterThan(60)
      }
    }
  })
  it('holds an open border where it is', async () => {
    const grid = 20
    const positions = Float32Array.from(Array.from({ length: (grid + 1) ** 2 }, (_, at) => [at % (grid + 1), Math.floor(at / (grid + 1)), 0]).flat())
    const indices = Uint32Array.from(Array.from({ length: grid * grid }, (_, at) => {
      const a = (at % grid) + Math.floor(at / grid) * (grid + 1)
      return [a, a + 1, a + grid + 2, a, a + grid + 2, a + grid + 1]
    }).flat())
    const reduced = await reduceTriangles({ positions, indices, normals: null, uvs: null, targetTriangles: 10, holdSeams: true, holdBorders: true })
    expect(meetEdges(reduced.indices).borderEdges).toBe(grid * 4)
    expect(surfaceArea(positions, reduced.indices)).toBeCloseTo(grid * grid)
  })
  it('shares a budget without exceeding it or what a mesh has', () => {
    fc.assert(
      fc.property(fc.array(fc.record({ triangles: fc.integer({ min: 1, max: 50_000 }), area: fc.double({ min: 0.01, max: 1000, noNaN: true }) }), { minLength: 1, maxLength: 12 }), fc.integer({ min: 100, max: 60_000 }), (meshes, budget) => {
        const shares = shareBudget(meshes, budget)
        expect(shares.reduce((sum, share) => sum + share, 0)).toBeLessThanOrEqual(budget + meshes.length)
        shares.forEach((share, index) => { expect(share).toBeGreaterThanOrEqual(1); expect(share).toBeLessThanOrEqual(meshes[index].triangles) })
      }),
    )
  })
  it('drops corners that nothing uses', () => {
    expect([...compactCorners(Uint32Array.from([5, 2, 9]), 10).oldCorner]).toEqual([5, 2, 9])
  })
})

describe('hulls', () => {
  it('has no more corners than asked and stays inside the full hull', () => {
    const { positions } = ball(2, 12)
    const full = convexHull(positions, 1000)
    const few = convexHull(positions, 32)
    if (!full || !few) throw new Error('no hull')
    expect(few.positions.length / 3).toBeLessThanOrEqual(32)
    expect(enclosedVolume(few)).toBeGreaterThan(enclosedVolume(full) * 0.75)
    expect(enclosedVolume(few)).toBeLessThanOrEqual(enclosedVolume(full) * 1.0001)
  })
  it('is none for points in a plane', () => {
    expect(convexHull(Float32Array.from([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0]), 32)).toBeNull()
  })
})

describe('changing axes and unit', () => {
  it('turns Z up to Y up with the front along, and keeps handedness', () => {
    const document = documentOf({ box: boxMesh({ min: [0, -2, 0], max: [1, 0, 5] }) })
    changeBasis(document, axesTurn('+z', '-y', '+y', '+z'), 2)
    const position = document.getRoot().listMeshes()[0].listPrimitives()[0].getAttribute('POSITION')
    expect(position?.getMin([])).toEqual([0, 0, 0])
    expect(position?.getMax([])).toEqual([2, 10, 4])
    const primitive = document.getRoot().listMeshes()[0].listPrimitives()[0]
    expect(enclosedVolume({ positions: primitive.getAttribute('POSITION')?.getArray() as Float32Array, indices: Uint32Array.from(primitive.getIndices()?.getArray() ?? []) })).toBeCloseTo(80)
  })
})
