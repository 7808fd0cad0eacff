import { curveSize, type Curve } from '../../maths/curve.ts'

/**
 * A curve played to the end of its clip and the same way back, so that it ends where it begins.
 * @param end seconds at which the clip ends; a curve that ends earlier stands still until then, and as long after
 *
 * @example const closed = thereAndBack(curve, 2) // lasts 4 s
 */
export function thereAndBack(curve: Curve, end: number): Curve {
  const size = curveSize(curve.path)
  const count = curve.times.length
  const rows = curve.interpolation === 'CUBICSPLINE' ? 3 : 1
  // The key at the end is the turn: it is not there twice.
  const back = curve.times[count - 1] < end - 1e-6 ? count : count - 1
  const times = new Float32Array(count + back)
  const values = new Float32Array((count + back) * size * rows)
  times.set(curve.times)
  values.set(curve.values.subarray(0, count * size * rows))
  for (let step = 0; step < back; step++) {
    const key = back - 1 - step
    times[count + step] = 2 * end - curve.times[key]
    for (let row = 0; row < rows; row++) {
      // Backwards a way in is a way out, the other way round.
      const from = (key * rows + (rows - 1 - row)) * size
      const sign = rows === 3 && row !== 1 ? -1 : 1
      for (let axis = 0; axis < size; axis++)
        values[((count + step) * rows + row) * size + axis] = curve.values[from + axis] * sign
    }
  }
  // The key at the turn leaves as it came in, the other way round.
  if (rows === 3 && back === count - 1)
    for (let axis = 0; axis < size; axis++)
      values[((count - 1) * 3 + 2) * size + axis] = -curve.values[(count - 1) * 3 * size + axis]
  return { ...curve, times, values }
}
