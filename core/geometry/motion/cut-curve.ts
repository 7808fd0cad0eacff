import { curveSize, valueAt, type Curve } from '../../maths/curve.ts'

/**
 * A stretch of a curve as a curve of its own that begins at 0. Where it is cut a key is put; what leads through its
 * keys in a bow is put straight, with keys so many a second.
 *
 * @example cutCurve(curve, 2, 5, 30) // lasts 3 s
 */
export function cutCurve(curve: Curve, from: number, to: number, keysPerSecond: number): Curve {
  const size = curveSize(curve.path)
  const bowed = curve.interpolation === 'CUBICSPLINE'
  const inner = bowed
    ? Array.from(
        { length: Math.max(0, Math.ceil((to - from) * keysPerSecond) - 1) },
        (_, key) => from + (key + 1) / keysPerSecond,
      )
    : [...curve.times]
  const times = [from, ...inner.filter((seconds) => seconds > from + 1e-6 && seconds < to - 1e-6), to]
  const values = new Float64Array(times.length * size)
  times.forEach((seconds, key) => valueAt(curve, seconds, values, key * size))
  return {
    path: curve.path,
    times: Float32Array.from(times, (seconds) => seconds - from),
    values: Float32Array.from(values),
    interpolation: bowed ? 'LINEAR' : curve.interpolation,
  }
}
