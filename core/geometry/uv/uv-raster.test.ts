import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { rasteriseUvs, uvArea } from './uv-raster.ts'

interface Seen {
  pixel: number
  triangle: number
  weights: [number, number, number]
}

function seen(uvs: readonly number[], width: number, height: number, indices?: readonly number[]): Seen[] {
  const pixels: Seen[] = []
  const corners = indices ?? Array.from({ length: uvs.length / 2 }, (_, at) => at)
  rasteriseUvs(Float32Array.from(uvs), Uint32Array.from(corners), width, height, (pixel, triangle, a, b, c) => {
    pixels.push({ pixel, triangle, weights: [a, b, c] })
  })
  return pixels
}

/** The pixels whose middle lies in a triangle, asked one by one. */
function inside(uvs: readonly number[], width: number, height: number): Set<number> {
  const [ax, ay, bx, by, cx, cy] = uvs.map((value, at) => Math.fround(value) * (at % 2 === 0 ? width : height))
  const area = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay)
  const found = new Set<number>()
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const [px, py] = [x + 0.5, y + 0.5]
      const wb = ((px - ax) * (cy - ay) - (cx - ax) * (py - ay)) / area
      const wc = ((bx - ax) * (py - ay) - (px - ax) * (by - ay)) / area
      if (Math.min(wb, wc, 1 - wb - wc) >= -1e-9) found.add(y * width + x)
    }
  }
  return found
}

const share = fc.double({ min: 0, max: 1, noNaN: true })

describe('pixels that a triangle covers', () => {
  it('are those whose middle lies in it', () => {
    fc.assert(
      fc.property(
        fc.array(share, { minLength: 6, maxLength: 6 }),
        fc.integer({ min: 1, max: 24 }),
        fc.integer({ min: 1, max: 24 }),
        (uvs, width, height) => {
          const wanted = inside(uvs, width, height)
          const area = uvArea(Float32Array.from(uvs), Uint32Array.of(0, 1, 2))
          fc.pre(area * width * height > 1e-3)
          expect(new Set(seen(uvs, width, height).map(({ pixel }) => pixel))).toEqual(wanted)
        },
      ),
      { numRuns: 300 },
    )
  })

  it('are each visited once, with weights that lead back to their middle', () => {
    const uvs = [0.1, 0.05, 0.9, 0.3, 0.35, 0.95]
    const pixels = seen(uvs, 32, 16)
    expect(new Set(pixels.map(({ pixel }) => pixel)).size).toBe(pixels.length)
    for (const { pixel, weights } of pixels) {
      const x = weights.reduce((sum, weight, corner) => sum + weight * uvs[corner * 2], 0) * 32
      const y = weights.reduce((sum, weight, corner) => sum + weight * uvs[corner * 2 + 1], 0) * 16
      expect(x).toBeCloseTo((pixel % 32) + 0.5, 4)
      expect(y).toBeCloseTo(Math.floor(pixel / 32) + 0.5, 4)
    }
  })

  it('leave no gap and no doubles between two triangles of a square', () => {
    const square = [0, 0, 1, 0, 1, 1, 0, 1]
    const pixels = seen(square, 20, 20, [0, 1, 2, 0, 2, 3]).map(({ pixel }) => pixel)
    expect(new Set(pixels).size).toBe(400)
    // Those on the edge between them are of both.
    expect(pixels.length).toBeLessThanOrEqual(420)
  })

  it('are the same whichever way round the triangle is', () => {
    const [one, other] = [seen([0.1, 0.1, 0.8, 0.2, 0.4, 0.9], 40, 40), seen([0.1, 0.1, 0.4, 0.9, 0.8, 0.2], 40, 40)]
    expect(new Set(one.map(({ pixel }) => pixel))).toEqual(new Set(other.map(({ pixel }) => pixel)))
  })

  it('go round the picture where UVs leave it, as a tiled one does', () => {
    const home = seen([0.2, 0.2, 0.8, 0.2, 0.5, 0.8], 16, 16).map(({ pixel }) => pixel)
    const away = seen([3.2, -1.8, 3.8, -1.8, 3.5, -1.2], 16, 16).map(({ pixel }) => pixel)
    expect(new Set(away)).toEqual(new Set(home))
  })

  it('are none of a triangle without area, or with a corner that is no number', () => {
    expect(seen([0.1, 0.1, 0.5, 0.5, 0.9, 0.9], 16, 16)).toEqual([])
    expect(seen([0.1, 0.1, NaN, 0.5, 0.9, 0.2], 16, 16)).toEqual([])
    expect(seen([0.1, 0.1, Infinity, 0.5, 0.9, 0.2], 16, 16)).toEqual([])
  })

  it('are none of a triangle over more pictures than anybody tiles', () => {
    expect(seen([0, 0, 1e6, 0, 0, 1e6], 16, 16)).toEqual([])
  })

  it('end where whoever looks has seen enough', () => {
    let count = 0
    rasteriseUvs(Float32Array.of(0, 0, 1, 0, 0, 1), Uint32Array.of(0, 1, 2), 64, 64, () => {
      count++
      return count < 5 ? undefined : false
    })
    expect(count).toBe(5)
  })
})

describe('the area of triangles in UV space', () => {
  it('is counted in whole pictures, whichever way round they are', () => {
    const square = Float32Array.of(0, 0, 1, 0, 1, 1, 0, 1)
    expect(uvArea(square, Uint32Array.of(0, 1, 2, 0, 2, 3))).toBeCloseTo(1, 6)
    expect(uvArea(square, Uint32Array.of(0, 2, 1, 0, 3, 2))).toBeCloseTo(1, 6)
    expect(uvArea(square, Uint32Array.of(0, 1))).toBe(0)
  })
})
