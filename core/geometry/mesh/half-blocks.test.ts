import { describe, expect, it } from 'vitest'
import { clearTinyEdges } from './clear-tiny-edges.ts'
import {
  cornersOfHalfBlock,
  cutIntoHalfBlocks,
  decimalsFor,
  halfBlockError,
  halfBlocksOf,
  joinHalfBlocks,
  onGrid,
  roundHalfBlock,
  writtenHalfBlocks,
} from './half-blocks.ts'
import { numbers } from '../../test-support/pictures.ts'
import { cross, dot, lengthOf, type Vector3 } from '../../maths/vectors.ts'

const anyTriangles = (count: number, size: number): { positions: Float32Array; indices: Uint32Array } => {
  const next = numbers(7)
  return {
    positions: Float32Array.from({ length: count * 9 }, () => (next() - 0.5) * size),
    indices: Uint32Array.from({ length: count * 3 }, (_, corner) => corner),
  }
}

const between = (a: Vector3, b: Vector3): Vector3 => [b[0] - a[0], b[1] - a[1], b[2] - a[2]]
const areaOf = ([a, b, c]: readonly Vector3[]): Vector3 => cross(between(a, b), between(a, c))

/** A ball of rings and spokes, whose poles have long thin triangles. */
function ball(rings: number, spokes: number, radius: number): { positions: Float32Array; indices: Uint32Array } {
  const positions: number[] = [0, radius, 0, 0, -radius, 0]
  const at = (ring: number, spoke: number): number => 2 + (ring - 1) * spokes + (spoke % spokes)
  for (let ring = 1; ring < rings; ring++)
    for (let spoke = 0; spoke < spokes; spoke++) {
      const [polar, around] = [(ring / rings) * Math.PI, (spoke / spokes) * 2 * Math.PI]
      positions.push(
        radius * Math.sin(polar) * Math.sin(around),
        radius * Math.cos(polar),
        radius * Math.sin(polar) * Math.cos(around),
      )
    }
  const indices: number[] = []
  for (let spoke = 0; spoke < spokes; spoke++) {
    indices.push(0, at(1, spoke), at(1, spoke + 1), 1, at(rings - 1, spoke + 1), at(rings - 1, spoke))
    for (let ring = 1; ring < rings - 1; ring++)
      indices.push(
        at(ring, spoke),
        at(ring + 1, spoke),
        at(ring + 1, spoke + 1),
        at(ring, spoke),
        at(ring + 1, spoke + 1),
        at(ring, spoke + 1),
      )
  }
  return { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) }
}

describe('half-blocks', () => {
  it('are two for each triangle, right-angled, and cover it once', () => {
    const { positions, indices } = anyTriangles(500, 100)
    const blocks = halfBlocksOf(positions, indices)
    expect(blocks).toHaveLength(1000)
    for (let triangle = 0; triangle < 500; triangle++) {
      const halves = [blocks[triangle * 2], blocks[triangle * 2 + 1]].map(cornersOfHalfBlock)
      const corners = [0, 1, 2].map((corner) =>
        Array.from(positions.subarray(triangle * 9 + corner * 3, triangle * 9 + corner * 3 + 3)),
      ) as Vector3[]
      const whole = areaOf(corners)
      const sum = halves.reduce((area, half) => area + lengthOf(areaOf(half)), 0)
      expect(sum).toBeCloseTo(lengthOf(whole), 2)
      for (const [foot, first, second] of halves) {
        const [u, v] = [between(foot, first), between(foot, second)]
        expect(Math.abs(dot(u, v)) / (lengthOf(u) * lengthOf(v))).toBeLessThan(1e-9)
        // Seen from the same side as the triangle.
        expect(dot(areaOf([foot, first, second]), whole)).toBeGreaterThan(0)
      }
    }
  })

  it('put together again are the triangles, to a ten-thousandth of the size', () => {
    const { positions, indices } = anyTriangles(2000, 300)
    const blocks = halfBlocksOf(positions, indices).map((block) => roundHalfBlock(block, decimalsFor(300)))
    expect(halfBlockError(positions, indices, blocks)).toBeLessThan(300 * 1e-6)
    const joined = joinHalfBlocks(blocks, 0.01)
    expect(joined).toHaveLength(positions.length)
    for (let triangle = 0; triangle < 2000; triangle++) {
      const own = [0, 1, 2].map((corner) => positions.slice(triangle * 9 + corner * 3, triangle * 9 + corner * 3 + 3))
      const made = [0, 1, 2].map((corner) => joined.slice(triangle * 9 + corner * 3, triangle * 9 + corner * 3 + 3))
      const turn = [0, 1, 2].find((first) => lengthOf(between(own[0] as never, made[first] as never)) < 1e-3)
      expect(turn).toBeDefined()
      for (const step of [1, 2])
        expect(lengthOf(between(own[step] as never, made[((turn ?? 0) + step) % 3] as never))).toBeLessThan(1e-3)
    }
  })

  it.each([0.004, 1, 100, 300, 20_000])('lead back to themselves in every digit, at a size of %d', (size) => {
    const decimals = decimalsFor(size)
    const { positions, indices } = anyTriangles(2000, size)
    const once = writtenHalfBlocks(positions, indices, decimals)
    const joined = onGrid(joinHalfBlocks(once, size * 8e-6), decimals)
    // Meshes hold single precision.
    const kept = Float32Array.from(joined)
    const numbers = Uint32Array.from({ length: kept.length / 3 }, (_, corner) => corner)
    expect(writtenHalfBlocks(kept, numbers, decimals)).toEqual(once)
  })

  it('are written in as many digits whichever way a round size was rounded', () => {
    for (const size of [0.01, 1, 10, 100, 1000])
      expect(decimalsFor(size * (1 - 1e-6))).toBe(decimalsFor(size * (1 + 1e-6)))
  })

  it('are off by what a number is off by', () => {
    const { positions, indices } = anyTriangles(20, 100)
    const blocks = halfBlocksOf(positions, indices)
    blocks[7] = { ...blocks[7], size: [blocks[7].size[0] + 0.25, blocks[7].size[1]] }
    expect(halfBlockError(positions, indices, blocks)).toBeCloseTo(0.25, 6)
  })

  it('are cut where their shortest side stays longest', () => {
    // A slice of a round top: cut across its long side it would have a side of a fortieth.
    const slice = [0, 0, 0, 10, 0, 0, 9.9, 1.4, 0]
    expect(cutIntoHalfBlocks(slice, [0, 1, 2]).shortestSide[0]).toBeGreaterThan(0.65)
  })

  it('are none for a triangle without area', () => {
    expect(halfBlocksOf([0, 0, 0, 1, 0, 0, 2, 0, 0], [0, 1, 2])).toEqual([])
    expect(halfBlocksOf([0, 0, 0, 0, 0, 0, 0, 0, 0], [0, 1, 2])).toEqual([])
  })

  it('that are cut again from what they were joined to are the same', () => {
    const { positions, indices } = ball(12, 24, 40)
    const once = halfBlocksOf(positions, indices).map((block) => roundHalfBlock(block, 5))
    const joined = joinHalfBlocks(once, 1e-3)
    const again = halfBlocksOf(
      joined,
      Uint32Array.from({ length: joined.length / 3 }, (_, corner) => corner),
    )
    expect(again).toHaveLength(once.length)
    for (const [number, block] of again.entries())
      for (const corner of [0, 1, 2])
        expect(
          lengthOf(between(cornersOfHalfBlock(block)[corner], cornersOfHalfBlock(once[number])[corner])),
        ).toBeLessThan(1e-3)
  })
})

describe('tiny edges', () => {
  const clear = ({ positions, indices }: ReturnType<typeof ball>, limit: number) =>
    clearTinyEdges(positions, indices, new Uint32Array(indices.length / 3), limit)

  it('are gone from a finely made ball, which stays round and closed', () => {
    const fine = ball(60, 120, 10)
    const { positions, indices, dropped, furthest } = clear(fine, 0.4)
    expect(Math.min(...cutIntoHalfBlocks(positions, indices).shortestSide)).toBeGreaterThanOrEqual(0.4)
    expect(dropped).toBeLessThan(indices.length / 3 / 50)
    expect(furthest).toBeLessThan(1.6)
    let volume = 0
    const at = (corner: number): Vector3 => Array.from(positions.subarray(corner * 3, corner * 3 + 3)) as Vector3
    for (let corner = 0; corner < indices.length; corner += 3)
      volume += dot(at(indices[corner]), cross(at(indices[corner + 1]), at(indices[corner + 2]))) / 6
    expect(volume / ((4 / 3) * Math.PI * 1000)).toBeGreaterThan(0.9)
  })

  it('leave alone what is large enough', () => {
    const coarse = ball(6, 8, 10)
    const { indices, collapsed, flipped, dropped } = clear(coarse, 0.4)
    expect([indices.length, collapsed, flipped, dropped]).toEqual([coarse.indices.length, 0, 0, 0])
  })

  it('of a sliver within a flat sheet go by cutting it the other way', () => {
    // A corner lies a hair beside the diagonal.
    const positions = Float32Array.from([0, 0, 0, 10, 0, 0, 10, 10, 0, 5.05, 4.95, 0])
    const { indices, flipped, collapsed, dropped } = clearTinyEdges(
      positions,
      Uint32Array.from([0, 1, 3, 1, 2, 3, 0, 3, 2]),
      new Uint32Array(3),
      0.4,
    )
    expect([flipped, collapsed, dropped, indices.length]).toEqual([0, 0, 1, 6])
    const whole = clearTinyEdges(
      Float32Array.from([...positions, 0, 10, 0]),
      Uint32Array.from([0, 1, 3, 1, 2, 3, 0, 3, 2, 0, 2, 4]),
      new Uint32Array(4),
      0.4,
    )
    expect([whole.flipped, whole.collapsed, whole.dropped, whole.indices.length]).toEqual([1, 0, 0, 12])
  })

  it('tell how wide a gap is left', () => {
    const { dropped, widestGap } = clearTinyEdges(
      Float32Array.from([0, 0, 0, 10, 0, 0, 5, 0.2, 0]),
      Uint32Array.from([0, 1, 2]),
      new Uint32Array(1),
      0.4,
    )
    expect(dropped).toBe(1)
    expect(widestGap).toBeCloseTo(0.2, 5)
  })
})
