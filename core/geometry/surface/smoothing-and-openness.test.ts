import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { boxMesh } from '../shapes/box-mesh.ts'
import { neighboursOf } from '../skin/neighbours.ts'
import { groupPositions } from '../mesh/position-groups.ts'
import { basisAround, cosineDirections, openness } from './occlusion.ts'
import { createRayCaster } from './ray-caster.ts'
import { normalsFromSmoothing } from './smoothing-normals.ts'

const dot = (a: readonly number[], b: readonly number[]): number =>
  a.reduce((sum, value, axis) => sum + value * b[axis], 0)

describe('normals from smoothing groups', () => {
  // Two squares that meet in a right angle along the x axis: one on the ground, one upright.
  const points = new Float32Array([0, 0, 0, 1, 0, 0, 1, 0, 1, 0, 0, 1, 0, 1, 0, 1, 1, 0])
  const corners = [0, 3, 2, 1, 0, 1, 5, 4]
  const sizes = [4, 4]
  const at = (normals: Float32Array, corner: number): number[] =>
    [...normals.subarray(corner * 3, corner * 3 + 3)].map((value) => Number(value.toFixed(4)) + 0)

  it('are flat where polygons share no group, or have none', () => {
    for (const groups of [
      [1, 2],
      [0, 0],
    ]) {
      const normals = normalsFromSmoothing(points, corners, sizes, groups)
      for (let corner = 0; corner < 4; corner++) expect(at(normals, corner)).toEqual([0, 1, 0])
      for (let corner = 4; corner < 8; corner++) expect(at(normals, corner)).toEqual([0, 0, 1])
    }
  })

  it('lie between polygons of one group where they meet, and are their own where they do not', () => {
    const normals = normalsFromSmoothing(points, corners, sizes, [5, 4])
    const half = Number(Math.SQRT1_2.toFixed(4))
    expect(at(normals, 0)).toEqual([0, half, half])
    expect(at(normals, 3)).toEqual([0, half, half])
    expect(at(normals, 1)).toEqual([0, 1, 0])
    expect(at(normals, 6)).toEqual([0, 0, 1])
  })

  it('count a polygon by its area', () => {
    const wide = points.slice()
    wide[8] = wide[11] = 3
    const normals = normalsFromSmoothing(wide, corners, sizes, [1, 1])
    expect(at(normals, 0)).toEqual([
      0,
      Number((3 / Math.hypot(3, 1)).toFixed(4)),
      Number((1 / Math.hypot(3, 1)).toFixed(4)),
    ])
  })

  it('point somewhere where a polygon has no area', () => {
    const flat = new Float32Array(9)
    expect(at(normalsFromSmoothing(flat, [0, 1, 2], [3], [1]), 0)).toEqual([0, 1, 0])
  })

  it('of a fan of a hundred thousand polygons take no time that anyone waits', () => {
    const count = 100_000
    const fan = new Float32Array((count + 2) * 3)
    const around: number[] = []
    for (let each = 0; each < count; each++) {
      fan.set([Math.cos(each), 0, Math.sin(each)], (each + 1) * 3)
      around.push(0, each + 1, each + 2)
    }
    const normals = normalsFromSmoothing(fan, around, new Uint8Array(count).fill(3), new Uint8Array(count).fill(1))
    expect(normals.every((value) => Number.isFinite(value))).toBe(true)
  })
})

describe('a basis round a direction', () => {
  it('is square to it and to itself, whichever way it points', () => {
    const direction = fc
      .tuple(...[0, 1, 2].map(() => fc.double({ min: -1, max: 1, noNaN: true })))
      .filter((vector) => Math.hypot(...vector) > 0.01)
    fc.assert(
      fc.property(direction, (vector) => {
        const normal = vector.map((value) => value / Math.hypot(...vector))
        const { right, up } = basisAround(normal)
        for (const [a, b, is] of [
          [right, right, 1],
          [up, up, 1],
          [right, up, 0],
          [right, normal, 0],
          [up, normal, 0],
        ] as const)
          expect(dot(a, b)).toBeCloseTo(is, 6)
      }),
    )
    expect(basisAround([0, 0, -1]).right.every(Number.isFinite)).toBe(true)
  })
})

describe('directions of light', () => {
  it('are of unit length, outward, and lie as the cosine does', () => {
    const directions = cosineDirections(4000)
    for (const direction of directions) {
      expect(Math.hypot(...direction)).toBeCloseTo(1, 6)
      expect(direction[2]).toBeGreaterThanOrEqual(0)
    }
    // The mean cosine under a cosine density is 2/3.
    expect(directions.reduce((sum, [, , z]) => sum + z, 0) / 4000).toBeCloseTo(2 / 3, 2)
  })
})

describe('how open a place is', () => {
  const directions = cosineDirections(256)
  const under = (height: number): number => {
    const roof = boxMesh({ min: [-50, height, -50], max: [50, height + 1, 50] })
    return openness(createRayCaster(roof.positions, roof.indices), [0, 0, 0], [0, 1, 0], directions, 2, 1e-4, 0.3)
  }

  it('is all where nothing is near, and less the nearer a roof', () => {
    expect(under(5)).toBe(1)
    expect(under(1.5)).toBeLessThan(1)
    expect(under(0.5)).toBeLessThan(under(1.5))
    expect(under(0.001)).toBeLessThan(0.05)
  })

  it('is half beside a high wall', () => {
    const wall = boxMesh({ min: [0.001, -100, -100], max: [1, 100, 100] })
    const open = openness(createRayCaster(wall.positions, wall.indices), [0, 0, 0], [0, 1, 0], directions, 1e6, 1e-5, 0)
    expect(open).toBeCloseTo(0.5, 1)
  })
})

describe('which places an edge joins', () => {
  const box = boxMesh({ min: [0, 0, 0], max: [1, 1, 1] })
  const { groupOfCorner, cornerOfGroup } = groupPositions(box.positions)
  const near = neighboursOf(box.positions, box.indices, groupOfCorner, cornerOfGroup)

  it('is told once for each, with shares that make 1', () => {
    expect(cornerOfGroup).toHaveLength(8)
    for (let place = 0; place < 8; place++) {
      const [first, last] = [near.starts[place], near.starts[place + 1]]
      const around = [...near.group.subarray(first, last)]
      expect(new Set(around).size).toBe(around.length)
      expect(around).not.toContain(place)
      expect(near.share.subarray(first, last).reduce((sum, value) => sum + value, 0)).toBeCloseTo(1, 5)
    }
  })

  it('is told from both sides alike', () => {
    for (let place = 0; place < 8; place++)
      for (let at = near.starts[place]; at < near.starts[place + 1]; at++) {
        const other = near.group[at]
        const back = [...near.group.subarray(near.starts[other], near.starts[other + 1])]
        expect(back).toContain(place)
      }
  })

  it('counts the edges of a box, and hardly its diagonals, which lie opposite right angles', () => {
    for (let at = 0; at < near.starts[8]; at++) {
      if (near.length[at] > 1.1) expect(near.share[at]).toBeLessThan(0.01)
      else expect(near.share[at]).toBeGreaterThan(0.2)
    }
  })

  it('has none where there are no triangles, and no broken numbers at needles', () => {
    expect(
      neighboursOf(new Float32Array(0), new Uint32Array(0), new Uint32Array(0), new Uint32Array(0)).meanLength,
    ).toBe(0)
    const needle = new Float32Array([0, 0, 0, 1, 0, 0, 2, 0, 0])
    const { share } = neighboursOf(needle, Uint32Array.of(0, 1, 2), Uint32Array.of(0, 1, 2), Uint32Array.of(0, 1, 2))
    expect(share.every((value) => Number.isFinite(value))).toBe(true)
  })
})
