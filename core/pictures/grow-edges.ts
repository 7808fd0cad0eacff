import { rememberByValue } from '../support/remember.ts'
import type { Pixels } from './pixels.ts'

/**
 * Fills what no triangle shows with the nearest colour that one does, so that smaller mipmaps do not mix in what lies
 * between islands. Opacity is grown too unless `keepAlpha`.
 * @param covered one byte a pixel, not zero where a triangle shows it
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

/** For each pixel the nearest that is covered, spreading by eight neighbours; empty where all are, or none. */
function findNearestCovered(covered: Uint8Array, width: number): Int32Array {
  const from = new Int32Array(covered.length).fill(UNREACHED)
  const queue = new Int32Array(covered.length)
  let end = 0
  for (let pixel = 0; pixel < from.length; pixel++) {
    if (covered[pixel] === 0) continue
    from[pixel] = pixel
    queue[end++] = pixel
  }
  if (end === 0 || end === from.length) return new Int32Array(0)
  for (let start = 0; start < end; start++) {
    const pixel = queue[start]
    const x = pixel % width
    const firstX = x > 0 ? -1 : 0
    const lastX = x < width - 1 ? 1 : 0
    const lastRow = pixel + width < from.length ? width : 0
    for (let row = pixel >= width ? -width : 0; row <= lastRow; row += width) {
      for (let next = pixel + row + firstX; next <= pixel + row + lastX; next++) {
        if (from[next] !== UNREACHED) continue
        from[next] = from[pixel]
        queue[end++] = next
      }
    }
  }
  return from
}

/** Maps of one material are shown by the same triangles: what was found for one serves the next. */
const nearestCovered = rememberByValue(findNearestCovered, 1)
