/**
 * What one sees from outside, by drawing triangles into small depth pictures from six sides. Where the
 * nearest thing is the back of a one-sided face, the game would show a hole.
 */
export interface Drawable {
  /** 3 floats a corner, in the scene. */
  positions: Float32Array
  indices: Uint32Array
  twoSided: boolean
}

const SIDE = 128

/** Share of covered picture points whose nearest face shows its back, over six views along the axes. */
export function backsSeenShare(drawables: readonly Drawable[]): number {
  const min = [Infinity, Infinity, Infinity]
  const max = [-Infinity, -Infinity, -Infinity]
  for (const { positions } of drawables) {
    for (let at = 0; at < positions.length; at++) {
      min[at % 3] = Math.min(min[at % 3], positions[at])
      max[at % 3] = Math.max(max[at % 3], positions[at])
    }
  }
  let covered = 0
  let backs = 0
  for (let axis = 0; axis < 3; axis++) {
    for (const toward of [1, -1]) {
      const picture = drawDepth(drawables, axis, toward, min, max)
      for (let pixel = 0; pixel < picture.length; pixel++) {
        if (picture[pixel] === 0) continue
        covered++
        if (picture[pixel] === 2) backs++
      }
    }
  }
  return covered === 0 ? 0 : backs / covered
}

/** 0 nothing, 1 front or two-sided, 2 back. The eye looks along `axis` from the side of `toward`. */
function drawDepth(drawables: readonly Drawable[], axis: number, toward: number, min: number[], max: number[]): Uint8Array {
  const depth = new Float32Array(SIDE * SIDE).fill(-Infinity)
  const seen = new Uint8Array(SIDE * SIDE)
  const [s, t] = [(axis + 1) % 3, (axis + 2) % 3]
  const scale = (SIDE - 1) / Math.max(max[s] - min[s], max[t] - min[t], 1e-9)
  for (const { positions, indices, twoSided } of drawables) {
    for (let index = 0; index < indices.length; index += 3) {
      const corners = [indices[index] * 3, indices[index + 1] * 3, indices[index + 2] * 3]
      const [x0, x1, x2] = corners.map((corner) => (positions[corner + s] - min[s]) * scale)
      const [y0, y1, y2] = corners.map((corner) => (positions[corner + t] - min[t]) * scale)
      const [d0, d1, d2] = corners.map((corner) => positions[corner + axis] * toward)
      const area = (x1 - x0) * (y2 - y0) - (x2 - x0) * (y1 - y0)
      if (area === 0) continue
      const mark = area * toward > 0 || twoSided ? 1 : 2
      for (let y = Math.max(0, Math.ceil(Math.min(y0, y1, y2))); y <= Math.min(SIDE - 1, Math.max(y0, y1, y2)); y++) {
        for (let x = Math.max(0, Math.ceil(Math.min(x0, x1, x2))); x <= Math.min(SIDE - 1, Math.max(x0, x1, x2)); x++) {
          const w1 = ((x - x0) * (y2 - y0) - (x2 - x0) * (y - y0)) / area
          const w2 = ((x1 - x0) * (y - y0) - (x - x0) * (y1 - y0)) / area
          if (w1 < 0 || w2 < 0 || w1 + w2 > 1) continue
          const near = d0 + w1 * (d1 - d0) + w2 * (d2 - d0)
          const pixel = y * SIDE + x
          if (near <= depth[pixel]) continue
          depth[pixel] = near
          seen[pixel] = mark
        }
      }
    }
  }
  return seen
}
