import { wrapped } from '../maths/wrapped.ts'

/** Which samples go into each new one along one direction, and how much: `taps` of them a sample, in a row. */
export interface FilterTaps {
  taps: number
  /** The first that goes into each; below nothing and beyond the last they repeat, as a tiled map does. */
  firsts: Int32Array
  /** Where each of them stands in a row of RGBA floats; `taps` a sample. */
  columns: Uint32Array
  /** Adding up to 1 over a sample; `taps` a sample. */
  weights: Float32Array
}

/** Halved, which is what nearly all are, each new sample is of four. */
const HALVING_TAPS = 4

/**
 * A triangle filter as wide as the larger of the two sample sizes.
 * @example filterTaps(8, 4).taps // 4
 */
export function filterTaps(length: number, newLength: number): FilterTaps {
  const scale = length / newLength
  const radius = Math.max(1, scale)
  const taps = scale === 2 ? HALVING_TAPS : Math.floor(radius * 2) + 1
  const firsts = new Int32Array(newLength)
  const columns = new Uint32Array(newLength * taps)
  const weights = new Float32Array(newLength * taps)
  for (let x = 0; x < newLength; x++) {
    const centre = (x + 0.5) * scale - 0.5
    const first = (firsts[x] = Math.ceil(centre - radius))
    let total = 0
    for (let tap = 0; tap < taps; tap++) {
      const weight = Math.max(0, 1 - Math.abs(first + tap - centre) / radius)
      columns[x * taps + tap] = wrapped(first + tap, length) * 4
      weights[x * taps + tap] = weight
      total += weight
    }
    for (let tap = 0; tap < taps; tap++) weights[x * taps + tap] /= total
  }
  return { taps, firsts, columns, weights }
}

/**
 * One row of RGBA floats resampled into `out`.
 * @example resampleRow(row, filterTaps(width, width / 2), half)
 */
export function resampleRow(row: Float32Array, { taps, columns, weights }: FilterTaps, out: Float32Array): void {
  if (row.length === out.length) out.set(row)
  else if (taps === HALVING_TAPS) halveRow(row, columns, weights, out)
  else
    for (let x = 0; x * 4 < out.length; x++) {
      let r = 0
      let g = 0
      let b = 0
      let a = 0
      for (let tap = x * taps; tap < (x + 1) * taps; tap++) {
        const weight = weights[tap]
        if (weight === 0) continue
        const at = columns[tap]
        r += row[at] * weight
        g += row[at + 1] * weight
        b += row[at + 2] * weight
        a += row[at + 3] * weight
      }
      out[x * 4] = r
      out[x * 4 + 1] = g
      out[x * 4 + 2] = b
      out[x * 4 + 3] = a
    }
}

/** What the loop over any number of samples does for four, written out: it runs once for each pixel of a map. */
function halveRow(row: Float32Array, columns: Uint32Array, weights: Float32Array, out: Float32Array): void {
  for (let to = 0; to < out.length; to += HALVING_TAPS) {
    const a = columns[to]
    const b = columns[to + 1]
    const c = columns[to + 2]
    const d = columns[to + 3]
    const first = weights[to]
    const second = weights[to + 1]
    const third = weights[to + 2]
    const fourth = weights[to + 3]
    out[to] = row[a] * first + row[b] * second + row[c] * third + row[d] * fourth
    out[to + 1] = row[a + 1] * first + row[b + 1] * second + row[c + 1] * third + row[d + 1] * fourth
    out[to + 2] = row[a + 2] * first + row[b + 2] * second + row[c + 2] * third + row[d + 2] * fourth
    out[to + 3] = row[a + 3] * first + row[b + 3] * second + row[c + 3] * third + row[d + 3] * fourth
  }
}

/**
 * The new row `y` out of those that are held, each at the slot of its number.
 * @example sumRows(held, filterTaps(height, height / 2), y, row)
 */
export function sumRows(
  held: readonly Float32Array[],
  { taps, firsts, weights }: FilterTaps,
  y: number,
  out: Float32Array,
): void {
  const rowOf = (tap: number): Float32Array => held[wrapped(firsts[y] + tap, taps)]
  if (taps === HALVING_TAPS) {
    const a = rowOf(0)
    const b = rowOf(1)
    const c = rowOf(2)
    const d = rowOf(3)
    const first = weights[y * taps]
    const second = weights[y * taps + 1]
    const third = weights[y * taps + 2]
    const fourth = weights[y * taps + 3]
    for (let at = 0; at < out.length; at++) out[at] = a[at] * first + b[at] * second + c[at] * third + d[at] * fourth
    return
  }
  const sums = new Float64Array(out.length)
  for (let tap = 0; tap < taps; tap++) {
    const weight = weights[y * taps + tap]
    if (weight === 0) continue
    const row = rowOf(tap)
    for (let at = 0; at < sums.length; at++) sums[at] += row[at] * weight
  }
  out.set(sums)
}
