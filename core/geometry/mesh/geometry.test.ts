import { describe, expect, it } from 'vitest'
import { ball, unitBox } from '../../test-support/meshes.ts'
import { enclosedVolume } from '../shapes/box-mesh.ts'
import { convexHull } from '../shapes/convex-hull.ts'
import { evenNormals } from '../surface/normals.ts'
import { groupPositions } from './position-groups.ts'
import { makeTangents } from '../surface/tangents.ts'
import { dropCollapsed, weldCorners } from './weld.ts'

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

describe('normals and tangents', () => {
  it('keeps an edge hard that was hard in the source, however flat it is', () => {
    const round = ball(1, 12)
    const smooth = evenNormals(round.positions, round.indices, 60)
    const positions = Float32Array.from(
      [...smooth.oldCorner].flatMap((corner) => [...round.positions.subarray(corner * 3, corner * 3 + 3)]),
    )
    expect(evenNormals(positions, smooth.indices, 60, smooth.normals).oldCorner.length).toBe(smooth.oldCorner.length)
    const faceted = evenNormals(round.positions, round.indices, 0)
    const apart = Float32Array.from(
      [...faceted.oldCorner].flatMap((corner) => [...round.positions.subarray(corner * 3, corner * 3 + 3)]),
    )
    const kept = evenNormals(apart, faceted.indices, 60, faceted.normals)
    expect(kept.oldCorner.length).toBe(faceted.oldCorner.length)
    expect(evenNormals(apart, faceted.indices, 60).normals.length).toBe(kept.normals.length)
    // Without the given normals each place gets one direction for all its corners; with them each face keeps its own.
    const directionsAt = (normals: Float32Array) =>
      new Set(
        Array.from({ length: normals.length / 3 }, (_, corner) =>
          [...normals.subarray(corner * 3, corner * 3 + 3)].map((value) => value.toFixed(2)).join(' '),
        ),
      ).size
    expect(directionsAt(kept.normals)).toBeGreaterThan(
      directionsAt(evenNormals(apart, faceted.indices, 60).normals) * 0.9,
    )
  })
  it('keeps a box hard and a ball smooth', () => {
    const box = evenNormals(unitBox().positions, unitBox().indices, 38)
    expect(box.oldCorner.length).toBe(24)
    const round = ball(1, 16)
    const smooth = evenNormals(round.positions, round.indices, 60)
    for (let corner = 0; corner < smooth.oldCorner.length; corner++) {
      const at = smooth.oldCorner[corner] * 3
      const along = [0, 1, 2].reduce(
        (sum, axis) => sum + smooth.normals[corner * 3 + axis] * round.positions[at + axis],
        0,
      )
      expect(along).toBeGreaterThan(0.99)
    }
  })
  it('makes unit tangents along +U', async () => {
    const positions = Float32Array.from([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0])
    const normals = Float32Array.from([0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1])
    const uvs = Float32Array.from([0, 1, 1, 1, 1, 0, 0, 0])
    const { tangents } = await makeTangents(positions, normals, uvs, Uint32Array.from([0, 1, 2, 0, 2, 3]))
    // V runs down in glTF: with U along +X and V down, the bitangent N × T points along -V, so w is 1.
    for (let at = 0; at < tangents.length; at += 4)
      expect([...tangents.subarray(at, at + 4)].map((value) => Math.round(value * 1000) / 1000 + 0)).toEqual([
        1, 0, 0, 1,
      ])
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
