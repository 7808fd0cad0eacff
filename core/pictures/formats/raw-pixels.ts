import { limits } from '../../support/limits.ts'
import type { Pixels } from '../pixels.ts'

/**
 * Pixels as steps hand them on: never a file's format, so nothing is encoded or decoded between two steps. Sixteen
 * bytes stand before the RGBA rows: a signature, width and height as 32-bit numbers (least significant byte first), and
 * four that are nought.
 */
export const rawMimeType = 'image/x-gentle-crate-rgba'

const SIGNATURE = 0x41424752
const HEADER_BYTES = 16

/**
 * Whether the bytes begin as raw pixels do.
 * @example isRawPixels(writeRawPixels(filled(4, [0, 0, 0, 255]))) // true
 */
export const isRawPixels = (bytes: Uint8Array): boolean =>
  bytes.byteLength >= HEADER_BYTES && viewOf(bytes).getUint32(0, true) === SIGNATURE

/**
 * A copy of the pixels as an image of a texture.
 * @example texture.setImage(writeRawPixels(pixels)).setMimeType(rawPixelsMimeType)
 */
export function writeRawPixels({ width, height, data }: Pixels): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(HEADER_BYTES + width * height * 4)
  const view = viewOf(bytes)
  view.setUint32(0, SIGNATURE, true)
  view.setUint32(4, width, true)
  view.setUint32(8, height, true)
  bytes.set(data.subarray(0, width * height * 4), HEADER_BYTES)
  return bytes
}

/**
 * Width and height, without touching the pixels.
 * @throws Error when the bytes are not raw pixels, or not as many as the header says
 *
 * @example readRawHeader(writeRawPixels(filled(4, [0, 0, 0, 255]))).width // 4
 */
export function readRawHeader(bytes: Uint8Array): { width: number; height: number } {
  if (!isRawPixels(bytes)) throw new Error('it does not begin as raw pixels do')
  const view = viewOf(bytes)
  const [width, height] = [view.getUint32(4, true), view.getUint32(8, true)]
  if (
    width < 1 ||
    height < 1 ||
    width * height > limits.pixels ||
    bytes.byteLength !== HEADER_BYTES + width * height * 4
  )
    throw new Error(`it says ${width} × ${height} pixels and holds ${(bytes.byteLength - HEADER_BYTES) / 4}`)
  return { width, height }
}

/**
 * The pixels, sharing memory with the bytes: whoever writes into them copies first.
 * @example readRawPixels(writeRawPixels(filled(2, [7, 7, 7, 255]))).data[0] // 7
 */
export const readRawPixels = (bytes: Uint8Array): Pixels => ({
  ...readRawHeader(bytes),
  data: bytes.subarray(HEADER_BYTES),
})

const viewOf = (bytes: Uint8Array): DataView => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
