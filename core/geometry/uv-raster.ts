/** A triangle's corners in a picture, and what to do for each of its pixels. */
type VisitTexel = (pixel: number, triangle: number, a: number, b: number, c: number) => void

/** Triangles larger than this many pictures are not rasterised whole: such UVs are damaged. */
const MOST_TILES = 64

/**
 * Visits every pixel whose middle a triangle covers in UV space; UVs beyond 0 to 1 wrap round, as a tiled picture does.
 * Rows run from the top (v = 0), as glTF has them.
 * @param uvs 2 floats a corner
 * @param indices 3 a triangle
 * @param visit pixel number, triangle number and the three weights of its corners
 */
export function rasteriseUvs(uvs: Float32Array, indices: Uint32Array, width: number, height: number, visit: VisitTexel): void {
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
      for (let x = left; x <= right; x++) {
        const [px, py] = [x + 0.5, y + 0.5]
        const wb = ((px - ax) * (cy - ay) - (cx - ax) * (py - ay)) / area
        const wc = ((bx - ax) * (py - ay) - (px - ax) * (by - ay)) / area
        const wa = 1 - wb - wc
        if (wa < -1e-9 || wb < -1e-9 || wc < -1e-9) continue
        visit(wrap(y, height) * width + wrap(x, width), triangle, wa, wb, wc)
      }
    }
  }
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
