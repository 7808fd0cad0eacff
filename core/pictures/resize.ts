import { lengthOfXyz } from '../maths/vectors.ts'
import { coverageOf, keepCoverage } from './cut-coverage.ts'
import type { Pixels } from './pixels.ts'
import { byteOfLinear, linearOfByte } from './srgb.ts'

/** How a map's numbers are to be averaged. */
export type Meaning = 'colour' | 'normal' | 'data'

/** How a map in some role is averaged: what is meant for the eye as colour, all else as data. */
export const meaningOfRole = (role: string): Meaning =>
  role === 'normal' ? 'normal' : role === 'colour' || role === 'glow' || role === 'other' ? 'colour' : 'data'

const clampByte = (value: number): number => Math.min(255, Math.max(0, Math.round(value)))

/**
 * Resamples by a triangle filter as wide as the larger of the two pixel sizes, edges repeating as a tiled
 * map does. Colour is averaged in linear light and weighted by opacity, so that nothing bleeds out of clear
 * pixels; normals are made unit length again.
 *
 * @example const half = resizePixels(pixels, pixels.width / 2, pixels.height / 2, 'colour')
 */
export function resizePixels(pixels: Pixels, width: number, height: number, meaning: Meaning): Pixels {
  if (pixels.width === width && pixels.height === height) return pixels
  const across = resampleRows(pixels, width, meaning)
  return { width, height, data: resampleColumns(across, width, pixels.height, height, meaning) }
}

/** One row of a picture as floats that may be averaged. */
function decodeRow(data: Uint8Array | Uint8ClampedArray, from: number, floats: Float32Array, meaning: Meaning): void {
  if (meaning === 'colour') {
    for (let at = 0; at < floats.length; at += 4) {
      // A little weight is kept on clear pixels so that their colour survives where all are clear.
      const weight = Math.max(data[from + at + 3] / 255, LEAST_WEIGHT)
      floats[at] = linearOfByte[data[from + at]] * weight
      floats[at + 1] = linearOfByte[data[from + at + 1]] * weight
      floats[at + 2] = linearOfByte[data[from + at + 2]] * weight
      floats[at + 3] = weight
    }
    return
  }
  const [scale, shift] = meaning === 'normal' ? [1 / 127.5, -1] : [1, 0]
  for (let at = 0; at < floats.length; at += 4) {
    floats[at] = data[from + at] * scale + shift
    floats[at + 1] = data[from + at + 1] * scale + shift
    floats[at + 2] = data[from + at + 2] * scale + shift
    floats[at + 3] = data[from + at + 3]
  }
}

const LEAST_WEIGHT = 1 / 1024

/** One row of floats as the bytes of a picture; the other way round than `decodeRow`. */
function encodeRow(floats: Float32Array, data: Uint8Array, to: number, meaning: Meaning): void {
  for (let at = 0; at < floats.length; at += 4) {
    const alpha = floats[at + 3]
    if (meaning === 'colour') {
      const share = alpha > 0 ? 1 / alpha : 0
      data[to + at] = byteOfLinear(floats[at] * share)
      data[to + at + 1] = byteOfLinear(floats[at + 1] * share)
      data[to + at + 2] = byteOfLinear(floats[at + 2] * share)
      data[to + at + 3] = alpha <= LEAST_WEIGHT + 1e-6 ? 0 : clampByte(alpha * 255)
    } else {
      const length = meaning === 'normal' ? lengthOfXyz(floats[at], floats[at + 1], floats[at + 2]) || 1 : 1
      const [scale, shift] = meaning === 'normal' ? [127.5 / length, 127.5] : [1, 0]
      data[to + at] = clampByte(floats[at] * scale + shift)
      data[to + at + 1] = clampByte(floats[at + 1] * scale + shift)
      data[to + at + 2] = clampByte(floats[at + 2] * scale + shift)
      data[to + at + 3] = clampByte(alpha)
    }
  }
}

/** Which samples of a row go into each new one, and how much: `taps` of them a sample. */
function filterTaps(width: number, newWidth: number): { taps: number; columns: Uint32Array; weights: Float32Array } {
  const scale = width / newWidth
  const radius = Math.max(1, scale)
  const taps = Math.floor(radius * 2) + 1
  const columns = new Uint32Array(newWidth * taps)
  const weights = new Float32Array(newWidth * taps)
  for (let x = 0; x < newWidth; x++) {
    const centre = (x + 0.5) * scale - 0.5
    const first = Math.ceil(centre - radius)
    let total = 0
    for (let tap = 0; tap < taps; tap++) {
      const weight = Math.max(0, 1 - Math.abs(first + tap - centre) / radius)
      columns[x * taps + tap] = ((((first + tap) % width) + width) % width) * 4
      weights[x * taps + tap] = weight
      total += weight
    }
    for (let tap = 0; tap < taps; tap++) weights[x * taps + tap] /= total
  }
  return { taps, columns, weights }
}

/** Each row of a picture resampled to `newWidth`, as RGBA floats; one row at a time is decoded. */
function resampleRows({ data, width, height }: Pixels, newWidth: number, meaning: Meaning): Float32Array {
  const out = new Float32Array(newWidth * height * 4)
  const row = new Float32Array(width * 4)
  const { taps, columns, weights } = filterTaps(width, newWidth)
  let target = 0
  for (let y = 0; y < height; y++) {
    decodeRow(data, y * width * 4, row, meaning)
    if (width === newWidth) {
      out.set(row, y * width * 4)
      continue
    }
    for (let x = 0; x < newWidth; x++) {
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
      out[target] = r
      out[target + 1] = g
      out[target + 2] = b
      out[target + 3] = a
      target += 4
    }
  }
  return out
}

/** The columns of RGBA floats resampled to `newHeight`, as bytes; one row of the result is summed up at a time. */
function resampleColumns(
  floats: Float32Array,
  width: number,
  height: number,
  newHeight: number,
  meaning: Meaning,
): Uint8Array {
  const data = new Uint8Array(width * newHeight * 4)
  const { taps, columns: rows, weights } = filterTaps(height, newHeight)
  const sums = new Float64Array(width * 4)
  const row = new Float32Array(width * 4)
  for (let y = 0; y < newHeight; y++) {
    if (height === newHeight) row.set(floats.subarray(y * width * 4, (y + 1) * width * 4))
    else {
      sums.fill(0)
      for (let tap = y * taps; tap < (y + 1) * taps; tap++) {
        const weight = weights[tap]
        if (weight === 0) continue
        const from = rows[tap] * width
        for (let at = 0; at < sums.length; at++) sums[at] += floats[from + at] * weight
      }
      row.set(sums)
    }
    encodeRow(row, data, y * width * 4, meaning)
  }
  return data
}

/**
 * The picture and every half-size level below it, down to one pixel. Each is made from the one above.
 * @param cutThreshold for cut-outs the opacity (1–255) from which a pixel is drawn: the share that is drawn stays the
 * same
 */
export function mipmapChain(pixels: Pixels, meaning: Meaning, cutThreshold?: number): Pixels[] {
  const chain = [pixels]
  const coverage = cutThreshold === undefined ? 0 : coverageOf(pixels, cutThreshold)
  for (let level = pixels; level.width > 1 || level.height > 1;) {
    level = resizePixels(level, Math.max(1, level.width >> 1), Math.max(1, level.height >> 1), meaning)
    chain.push(cutThreshold === undefined ? level : keepCoverage(level, cutThreshold, coverage))
  }
  return chain
}

/** The power of two nearest to a length on a logarithmic scale, between two limits. */
export function nearestPowerOfTwo(length: number, smallest: number, largest: number): number {
  const power = 2 ** Math.round(Math.log2(Math.max(1, length)))
  return Math.min(largest, Math.max(smallest, power))
}

/** Whether a length in pixels is 1, 2, 4, 8 and so on. */
export const isPowerOfTwo = (length: number): boolean => Number.isInteger(Math.log2(length))
