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
/** Where a front and a back lie this near, against the longest side, they meet at an edge and the front is seen. */
const MEETING = 1e-4

/**
 * Share of covered picture points whose nearest face shows its back, over six views along the axes.
 * @example const isInsideOut = backsSeenShare(drawables) > 0.5
 */
export function backsSeenShare(drawables: readonly Drawable[]): number {
  const min = [Infinity, Infinity, Infinity]
  const max = [-Infinity, -Infinity, -Infinity]
  for (const { positions, indices } of drawables) {
    for (const corner of indices) {
      for (let axis = 0; axis < 3; axis++) {
        const place = positions[corner * 3 + axis]
        if (place < min[axis]) min[axis] = place
        if (place > max[axis]) max[axis] = place
      }
    }
  }
  const meeting = MEETING * Math.max(...max.map((value, axis) => value - min[axis]))
  let covered = 0
  let backs = 0
  for (let axis = 0; axis < 3; axis++) {
    for (const toward of [1, -1]) {
      const [fronts, behind] = drawDepths(drawables, axis, toward, min, max)
      for (let pixel = 0; pixel < fronts.length; pixel++) {
        if (fronts[pixel] === -Infinity && behind[pixel] === -Infinity) continue
        covered++
        if (behind[pixel] > fronts[pixel] + meeting) backs++
      }
    }
  }
  return covered === 0 ? 0 : backs / covered
}

/**
 * How near fronts (and two-sided faces) and backs come, pixel by pixel. The eye looks along `axis` from the side of
 * `toward`.
 */
function drawDepths(
  drawables: readonly Drawable[],
  axis: number,
  toward: number,
  min: number[],
  max: number[],
): [Float64Array, Float64Array] {
  const fronts = new Float64Array(SIDE * SIDE).fill(-Infinity)
  const behind = new Float64Array(SIDE * SIDE).fill(-Infinity)
  const [s, t] = [(axis + 1) % 3, (axis + 2) % 3]
  const [lowS, lowT] = [min[s], min[t]]
  const scale = (SIDE - 1) / Math.max(max[s] - min[s], max[t] - min[t], 1e-9)
  for (const { positions, indices, twoSided } of drawables) {
    for (let index = 0; index < indices.length; index += 3) {
      const a = indices[index] * 3
      const b = indices[index + 1] * 3
      const c = indices[index + 2] * 3
      const x0 = (positions[a + s] - lowS) * scale
      const x1 = (positions[b + s] - lowS) * scale
      const x2 = (positions[c + s] - lowS) * scale
      const y0 = (positions[a + t] - lowT) * scale
      const y1 = (positions[b + t] - lowT) * scale
      const y2 = (positions[c + t] - lowT) * scale
      const d0 = positions[a + axis] * toward
      const d1 = positions[b + axis] * toward
      const d2 = positions[c + axis] * toward
      const area = (x1 - x0) * (y2 - y0) - (x2 - x0) * (y1 - y0)
      if (area === 0) continue
      const target = area * toward > 0 || twoSided ? fronts : behind
      const [left, right] = [Math.max(0, Math.ceil(Math.min(x0, x1, x2))), Math.min(SIDE - 1, Math.max(x0, x1, x2))]
      const [top, bottom] = [Math.max(0, Math.ceil(Math.min(y0, y1, y2))), Math.min(SIDE - 1, Math.max(y0, y1, y2))]
      for (let y = top; y <= bottom; y++) {
        for (let x = left; x <= right; x++) {
          const w1 = ((x - x0) * (y2 - y0) - (x2 - x0) * (y - y0)) / area
          const w2 = ((x1 - x0) * (y - y0) - (x - x0) * (y1 - y0)) / area
          if (w1 < 0 || w2 < 0 || w1 + w2 > 1) continue
          target[y * SIDE + x] = Math.max(target[y * SIDE + x], d0 + w1 * (d1 - d0) + w2 * (d2 - d0))
        }
      }
    }
  }
  return [fronts, behind]
}
