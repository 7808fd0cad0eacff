import type { Pixels } from './pixels.ts'

const UNREACHED = -1

/**
 * Fills what no triangle shows with the nearest colour that one does, so that smaller mipmaps do not mix in what lies
 * between islands. Opacity is grown too unless `keepAlpha`.
 * @param covered one byte a pixel, not zero where a triangle shows it
 */
export function growEdges(pixels: Pixels, covered: Uint8Array, keepAlpha = false): Pixels {
  const { width, height } = pixels
  const data = pixels.data.slice()
  const from = new Int32Array(width * height).fill(UNREACHED)
  const queue = new Int32Array(width * height)
  let end = 0
  for (let pixel = 0; pixel < from.length; pixel++) {
    if (covered[pixel] === 0) continue
    from[pixel] = pixel
    queue[end++] = pixel
  }
  if (end === 0 || end === from.length) return pixels
  for (let start = 0; start < end; start++) {
    const pixel = queue[start]
    const x = pixel % width
    const y = (pixel - x) / width
    for (let dy = -1; dy <= 1; dy++) {
      for (let dx = -1; dx <= 1; dx++) {
        const [nx, ny] = [x + dx, y + dy]
        if (nx < 0 || ny < 0 || nx >= width || ny >= height) continue
        const next = ny * width + nx
        if (from[next] !== UNREACHED) continue
        from[next] = from[pixel]
        queue[end++] = next
        const source = from[pixel] * 4
        for (let channel = 0; channel < (keepAlpha ? 3 : 4); channel++)
          data[next * 4 + channel] = pixels.data[source + channel]
      }
    }
  }
  return { width, height, data }
}
