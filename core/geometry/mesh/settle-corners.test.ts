import { describe, expect, it } from 'vitest'
import { ball } from '../../test-support/meshes.ts'
import { settleCorners } from './settle-corners.ts'

/** A ball of radius 1 whose corners carry their number and a half. */
function carrying() {
  const { positions, indices } = ball(1, 12)
  const packed = Float32Array.from({ length: (positions.length / 3) * 2 }, (_, at) => (at % 2 === 0 ? at / 2 : 0.5))
  return { positions, indices, packed }
}

/** The same with one corner pulled to so many radii from the middle, and something else carried there. */
function pulled(corner: number, radii: number) {
  const mesh = carrying()
  for (let axis = 0; axis < 3; axis++) mesh.positions[corner * 3 + axis] *= radii
  mesh.packed.set([-1, -1], corner * 2)
  return mesh
}

const radiusOf = (positions: Float32Array, corner: number): number =>
  Math.hypot(...positions.subarray(corner * 3, corner * 3 + 3))

describe('corners that a reduction moved', () => {
  it('go back with what they carry when they lie further off the surface than allowed', () => {
    const reduced = pulled(20, 1.4)
    settleCorners(carrying(), reduced, 0.1, 2)
    expect(reduced.positions).toEqual(carrying().positions)
    expect(reduced.packed).toEqual(carrying().packed)
  })

  it('stay where they were put when they lie near enough', () => {
    const reduced = pulled(20, 1.05)
    settleCorners(carrying(), reduced, 0.1, 2)
    expect(radiusOf(reduced.positions, 20)).toBeCloseTo(1.05, 5)
    expect([...reduced.packed.subarray(40, 42)]).toEqual([-1, -1])
  })

  it('may go far along the surface', () => {
    const reduced = carrying()
    const [from, to] = [reduced.indices[0], reduced.indices[30]]
    reduced.positions.copyWithin(from * 3, to * 3, to * 3 + 3)
    const there = [...reduced.positions.subarray(to * 3, to * 3 + 3)]
    settleCorners(carrying(), reduced, 0.01, 2)
    expect([...reduced.positions.subarray(from * 3, from * 3 + 3)]).toEqual(there)
  })

  it('are left alone where no triangle uses them', () => {
    const reduced = pulled(20, 3)
    reduced.indices = reduced.indices.filter((_, at, all) => {
      const triangle = Math.floor(at / 3) * 3
      return ![0, 1, 2].some((each) => all[triangle + each] === 20)
    })
    settleCorners(carrying(), reduced, 0.1, 2)
    expect(radiusOf(reduced.positions, 20)).toBeCloseTo(3, 5)
  })
})
