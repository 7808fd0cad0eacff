import { decodeAnyImage } from '../../core/pictures/open-image'
import type { Thumbnail } from './source-messages'

const LONGEST_SIDE = 72

/** A small picture by picking the nearest pixels; null when the image cannot be read. */
export async function makeThumbnail(path: string, bytes: Uint8Array): Promise<Thumbnail | null> {
  const decoded = await decodeAnyImage(bytes).catch(() => null)
  if (!decoded) return null
  const { width, height, data } = decoded.pixels
  const scale = Math.min(1, LONGEST_SIDE / Math.max(width, height))
  const size = { width: Math.max(1, Math.round(width * scale)), height: Math.max(1, Math.round(height * scale)) }
  const small = new Uint8ClampedArray(size.width * size.height * 4)
  for (let y = 0; y < size.height; y++) {
    for (let x = 0; x < size.width; x++) {
      const from =
        (Math.min(height - 1, Math.floor((y + 0.5) / scale)) * width +
          Math.min(width - 1, Math.floor((x + 0.5) / scale))) *
        4
      small.set(data.subarray(from, from + 4), (y * size.width + x) * 4)
    }
  }
  return { path, width, height, bytes: bytes.length, pixels: { ...size, data: small } }
}
