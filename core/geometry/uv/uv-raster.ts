import { wrapped } from '../../maths/wrapped.ts'

/** A triangle's corners in a picture, and what to do for each of its pixels; `false` ends it all. */
type VisitTexel = (pixel: number, triangle: number, a: number, b: number, c: number) => void | false

/** Triangles larger than this many pictures are not rasterised whole: such UVs are damaged. */
const MOST_TILES = 64

/**
 * A stretch of pixels side by side, `from` up to but not with `to`, that one triangle covers; `false` ends it all. The
 * weights of its corners b and c at the middle of a pixel are their starts and as many steps as `x` says, which is the
 * column of the first one, before it wraps round, and a half.
 */
type VisitStretch = (
  from: number,
  to: number,
  triangle: number,
  x: number,
  startB: number,
  stepB: number,
  startC: number,
  stepC: number,
) => void | false

/**
 * Visits every pixel whose middle a triangle covers in UV space; UVs beyond 0 to 1 wrap round, as a tiled picture does.
 * Rows run from the top (v = 0), as glTF has them.
 * @param uvs 2 floats a corner
 * @param indices 3 a triangle
 * @param visit pixel number, triangle number and the three weights of its corners
 *
 * @example rasteriseUvs(uvs, indices, 512, 512, (pixel) => void (covered[pixel] = 1))
 */
export function rasteriseUvs(
  uvs: Float32Array,
  indices: Uint32Array,
  width: number,
  height: number,
  visit: VisitTexel,
): void {
  rasteriseStretches(uvs, indices, width, height, (from, to, triangle, x, startB, stepB, startC, stepC) => {
    for (let pixel = from; pixel < to; pixel++) {
      const px = x + (pixel - from)
      const wb = startB + stepB * px
      const wc = startC + stepC * px
      if (visit(pixel, triangle, 1 - wb - wc, wb, wc) === false) return false
    }
    return undefined
  })
}

/**
 * The same by stretches of a row, for who asks for the pixels alone: several times as fast.
 * @example rasteriseStretches(uvs, indices, 512, 512, (from, to) => void covered.fill(1, from, to))
 */
export function rasteriseStretches(
  uvs: Float32Array,
  indices: Uint32Array,
  width: number,
  height: number,
  visit: VisitStretch,
): void {
  // Written out, since taking lists apart would cost more here, row by row, than the pixels do.
  for (let triangle = 0; triangle * 3 + 2 < indices.length; triangle++) {
    const a = indices[triangle * 3] * 2
    const b = indices[triangle * 3 + 1] * 2
    const c = indices[triangle * 3 + 2] * 2
    const ax = uvs[a] * width
    const ay = uvs[a + 1] * height
    const bx = uvs[b] * width
    const by = uvs[b + 1] * height
    const cx = uvs[c] * width
    const cy = uvs[c + 1] * height
    const area = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay)
    if (!Number.isFinite(area) || area === 0) continue
    const left = Math.floor(Math.min(ax, bx, cx) - 0.5)
    const right = Math.ceil(Math.max(ax, bx, cx) - 0.5)
    const top = Math.floor(Math.min(ay, by, cy) - 0.5)
    const bottom = Math.ceil(Math.max(ay, by, cy) - 0.5)
    if (right - left > width * MOST_TILES || bottom - top > height * MOST_TILES) continue
    const stepB = (cy - ay) / area
    const stepC = (ay - by) / area
    const stepA = -stepB - stepC
    for (let y = top; y <= bottom; y++) {
      // Along a row the three weights change evenly: only the stretch where none is negative is visited.
      const py = y + 0.5
      const startB = (-ax * (cy - ay) - (cx - ax) * (py - ay)) / area
      const startC = ((bx - ax) * (py - ay) + ax * (by - ay)) / area
      const startA = 1 - startB - startC
      const from = Math.max(
        left + 0.5,
        firstInside(startB, stepB),
        firstInside(startC, stepC),
        firstInside(startA, stepA),
      )
      const to = Math.min(right + 0.5, lastInside(startB, stepB), lastInside(startC, stepC), lastInside(startA, stepA))
      const end = Math.floor(to - 0.5) + 1
      const row = wrapped(y, height) * width
      // A stretch that leaves the picture goes on at its other side.
      for (let x = Math.ceil(from - 0.5); x < end;) {
        const column = wrapped(x, width)
        const count = Math.min(end - x, width - column)
        const first = row + column
        if (visit(first, first + count, triangle, x + 0.5, startB, stepB, startC, stepC) === false) return
        x += count
      }
    }
  }
}

/** Rounding must not open a gap between two triangles. */
const SLACK = -1e-9
/** A weight that changes less than this from pixel to pixel does not change. */
const STILL = 1e-15

/** From where on along a row an evenly changing weight is not negative; Infinity where it is so throughout. */
const firstInside = (start: number, step: number): number =>
  Math.abs(step) < STILL ? (start < SLACK ? Infinity : -Infinity) : step > 0 ? (SLACK - start) / step : -Infinity

/** Up to where it is not. */
const lastInside = (start: number, step: number): number => (step <= -STILL ? (SLACK - start) / step : Infinity)

/**
 * Area of all triangles in UV space, in whole pictures.
 * @example uvArea(Float32Array.of(0, 0, 1, 0, 0, 1), Uint32Array.of(0, 1, 2)) // 0.5
 */
export function uvArea(uvs: Float32Array, indices: Uint32Array): number {
  let sum = 0
  for (let at = 0; at + 2 < indices.length; at += 3) {
    const [a, b, c] = [indices[at] * 2, indices[at + 1] * 2, indices[at + 2] * 2]
    sum += Math.abs((uvs[b] - uvs[a]) * (uvs[c + 1] - uvs[a + 1]) - (uvs[c] - uvs[a]) * (uvs[b + 1] - uvs[a + 1])) / 2
  }
  return sum
}
