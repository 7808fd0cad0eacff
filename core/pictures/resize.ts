import { wrapped } from '../maths/wrapped.ts'
import { coverageOf, keepCoverage } from './cut-coverage.ts'
import type { Meaning } from './meaning.ts'
import type { Pixels } from './pixels.ts'
import { filterTaps, resampleRow, sumRows } from './resample.ts'
import { decodeRow, encodeRow } from './row-floats.ts'

/** No row: rows before the first count down from −1. */
const NONE = -(2 ** 31)

/**
 * Resamples by a triangle filter as wide as the larger of the two pixel sizes, edges repeating as a tiled
 * map does. Colour is averaged in linear light and weighted by opacity, so that nothing bleeds out of clear
 * pixels; normals are made unit length again.
 *
 * @example const half = resizePixels(pixels, pixels.width / 2, pixels.height / 2, 'colour')
 */
export function resizePixels(pixels: Pixels, width: number, height: number, meaning: Meaning): Pixels {
  if (pixels.width === width && pixels.height === height) return pixels
  const data = new Uint8Array(width * height * 4)
  const [across, down] = [filterTaps(pixels.width, width), filterTaps(pixels.height, height)]
  // Only as many rows as one new row is made of are held, so that they stay near the processor.
  const held = Array.from({ length: down.taps }, () => new Float32Array(width * 4))
  const heldRows = new Int32Array(down.taps).fill(NONE)
  const whole = new Float32Array(pixels.width * 4)
  const row = new Float32Array(width * 4)
  for (let y = 0; y < height; y++) {
    const first = down.firsts[y]
    for (let at = first; at < first + down.taps; at++) {
      const slot = wrapped(at, down.taps)
      if (heldRows[slot] === at || down.weights[y * down.taps + at - first] === 0) continue
      decodeRow(pixels.data, wrapped(at, pixels.height) * pixels.width * 4, whole, meaning)
      resampleRow(whole, across, held[slot])
      heldRows[slot] = at
    }
    sumRows(held, down, y, row)
    encodeRow(row, data, y * width * 4, meaning)
  }
  return { width, height, data }
}

/**
 * The picture and every half-size level below it, down to one pixel. Each is made from the one above.
 * @param cutThreshold for cut-outs the opacity (1–255) from which a pixel is drawn: the share that is drawn stays the
 * same
 *
 * @example mipmapChain(filled(4, [0, 0, 0, 255]), 'data').length // 3
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

/**
 * The power of two nearest to a length on a logarithmic scale, between two limits.
 * @example nearestPowerOfTwo(1000, 4, 2048) // 1024
 */
export function nearestPowerOfTwo(length: number, smallest: number, largest: number): number {
  const power = 2 ** Math.round(Math.log2(Math.max(1, length)))
  return Math.min(largest, Math.max(smallest, power))
}

/**
 * Whether a length in pixels is 1, 2, 4, 8 and so on.
 * @example isPowerOfTwo(768) // false
 */
export const isPowerOfTwo = (length: number): boolean => Number.isInteger(Math.log2(length))
