import { rememberByValue } from '../support/remember.ts'
import type { Pixels } from './pixels.ts'

/**
 * Fills what no triangle shows with the nearest colour that one does, so that smaller mipmaps do not mix in what lies
 * between islands. Opacity is grown too unless `keepAlpha`.
 * @param covered one byte a pixel, not zero where a triangle shows it
 *
 * @example const padded = growEdges(pixels, coverage(surfaces, pixels.width, pixels.height))
 */
export function growEdges(pixels: Pixels, covered: Uint8Array, keepAlpha = false): Pixels {
  const { width, height } = pixels
  const from = nearestCovered(covered, width)
  if (from.length === 0) return pixels
  const data = new Uint8Array(pixels.data)
  const colours = new Uint32Array(data.buffer, data.byteOffset, width * height)
  const kept = keepAlpha ? ALPHA : 0
  for (let pixel = 0; pixel < from.length; pixel++)
    if (from[pixel] !== pixel) colours[pixel] = (colours[pixel] & kept) | (colours[from[pixel]] & ~kept)
  return { width, height, data }
}

/** The alpha byte of a pixel read as one number, whichever way the machine orders bytes. */
const ALPHA = new Uint32Array(Uint8Array.of(0, 0, 0, 255).buffer)[0]

const UNREACHED = -1
/** Round the picture, so that its edges need no question of their own. */
const OUTSIDE = -2

/** For each pixel the nearest that is covered, spreading by eight neighbours; empty where all are, or none. */
function findNearestCovered(covered: Uint8Array, width: number): Int32Array {
  const height = covered.length / width
  const stride = width + 2
  const from = new Int32Array(stride * (height + 2)).fill(OUTSIDE)
  const queue = new Int32Array(covered.length)
  let end = 0
  for (let y = 0; y < height; y++) {
    const row = (y + 1) * stride + 1
    for (let x = 0; x < width; x++) {
      const pixel = y * width + x
      from[row + x] = covered[pixel] === 0 ? UNREACHED : pixel
      if (covered[pixel] !== 0) queue[end++] = row + x
    }
  }
  if (end === 0 || end === covered.length) return new Int32Array(0)
  for (let start = 0; start < end; start++) {
    const at = queue[start]
    for (let row = at - stride; row <= at + stride; row += stride) {
      for (let next = row - 1; next <= row + 1; next++) {
        if (from[next] !== UNREACHED) continue
        from[next] = from[at]
        queue[end++] = next
      }
    }
  }
  const nearest = new Int32Array(covered.length)
  for (let y = 0; y < height; y++)
    nearest.set(from.subarray((y + 1) * stride + 1, (y + 1) * stride + 1 + width), y * width)
  return nearest
}

/** Maps of one material are shown by the same triangles: what was found for one serves the next. */
const nearestCovered = rememberByValue(findNearestCovered, 1)
