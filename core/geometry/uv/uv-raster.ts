/** A triangle's corners in a picture, and what to do for each of its pixels; `false` ends it all. */
type VisitTexel = (pixel: number, triangle: number, a: number, b: number, c: number) => void | false

/** Triangles larger than this many pictures are not rasterised whole: such UVs are damaged. */
const MOST_TILES = 64

/**
 * Visits every pixel whose middle a triangle covers in UV space; UVs beyond 0 to 1 wrap round, as a tiled picture does.
 * Rows run from the top (v = 0), as glTF has them.
 * @param uvs 2 floats a corner
 * @param indices 3 a triangle
 * @param visit pixel number, triangle number and the three weights of its corners
 */
export function rasteriseUvs(
  uvs: Float32Array,
  indices: Uint32Array,
  width: number,
  height: number,
  visit: VisitTexel,
): void {
  for (let triangle = 0; triangle * 3 + 2 < indices.length; triangle++) {
    const [a, b, c] = [indices[triangle * 3] * 2, indices[triangle * 3 + 1] * 2, indices[triangle * 3 + 2] * 2]
    const [ax, ay] = [uvs[a] * width, uvs[a + 1] * height]
    const [bx, by] = [uvs[b] * width, uvs[b + 1] * height]
    const [cx, cy] = [uvs[c] * width, uvs[c + 1] * height]
    const area = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay)
    if (!Number.isFinite(area) || area === 0) continue
    const left = Math.floor(Math.min(ax, bx, cx) - 0.5)
    const right = Math.ceil(Math.max(ax, bx, cx) - 0.5)
    const top = Math.floor(Math.min(ay, by, cy) - 0.5)
    const bottom = Math.ceil(Math.max(ay, by, cy) - 0.5)
    if (right - left > width * MOST_TILES || bottom - top > height * MOST_TILES) continue
    for (let y = top; y <= bottom; y++) {
      // Along a row the three weights change evenly: only the stretch where none is negative is visited.
      const py = y + 0.5
      const [stepB, stepC] = [(cy - ay) / area, (ay - by) / area]
      const startB = (-ax * (cy - ay) - (cx - ax) * (py - ay)) / area
      const startC = ((bx - ax) * (py - ay) + ax * (by - ay)) / area
      const [from, to] = insideStretch(
        [
          [startB, stepB],
          [startC, stepC],
          [1 - startB - startC, -stepB - stepC],
        ],
        left + 0.5,
        right + 0.5,
      )
      const row = wrap(y, height) * width
      for (let x = Math.ceil(from - 0.5); x + 0.5 <= to; x++) {
        const px = x + 0.5
        const [wb, wc] = [startB + stepB * px, startC + stepC * px]
        if (visit(row + wrap(x, width), triangle, 1 - wb - wc, wb, wc) === false) return
      }
    }
  }
}

/** Where along a row several evenly changing weights are all not negative. */
function insideStretch(weights: readonly (readonly [number, number])[], low: number, high: number): [number, number] {
  let [from, to] = [low, high]
  for (const [start, step] of weights) {
    if (Math.abs(step) < 1e-15) {
      if (start < -1e-9) return [1, 0]
    } else if (step > 0) from = Math.max(from, (-1e-9 - start) / step)
    else to = Math.min(to, (-1e-9 - start) / step)
  }
  return [from, to]
}

const wrap = (value: number, size: number): number => ((value % size) + size) % size

/** Area of all triangles in UV space, in whole pictures. */
export function uvArea(uvs: Float32Array, indices: Uint32Array): number {
  let sum = 0
  for (let at = 0; at + 2 < indices.length; at += 3) {
    const [a, b, c] = [indices[at] * 2, indices[at + 1] * 2, indices[at + 2] * 2]
    sum += Math.abs((uvs[b] - uvs[a]) * (uvs[c + 1] - uvs[a + 1]) - (uvs[c] - uvs[a]) * (uvs[b + 1] - uvs[a + 1])) / 2
  }
  return sum
}
