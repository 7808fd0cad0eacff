import decode, { init } from '@jsquash/jpeg/decode.js'
import jpegWithInks from 'jpeg-js'
import { assetBytes } from '../../support/asset-files.ts'
import { readImageHeader, sniffImage } from '../image-codecs.ts'
import type { Pixels } from '../pixels.ts'
import { compileWasm, ensureImageData } from './image-data.ts'
import { assertSize, type ImageFormat } from './image-format.ts'

/** JPEG as the reference decoder reads it, also with four inks; turned as its camera says. */
export const jpeg: ImageFormat = {
  title: 'JPEG',
  endings: ['jpg', 'jpeg', 'jpe', 'jfif'],
  begins: (bytes) => sniffImage(bytes) === 'image/jpeg',
  decode: async (bytes) => {
    const turn = readOrientation(bytes)
    return { pixels: turnPicture(await decodeJpeg(bytes), turn), detail: turn === 1 ? '' : 'turned by its camera' }
  },
}

let ready: Promise<void> | null = null

/**
 * Pixels of a JPEG as they are stored, whichever way its camera was held.
 * @throws Error when it is cut off, broken or too large
 *
 * @example const { width, height } = await decodeJpeg(bytes)
 */
export async function decodeJpeg(bytes: Uint8Array): Promise<Pixels> {
  const { width, height, inks } = readImageHeader(bytes)
  assertSize(width, height)
  if (!hasEnd(bytes)) throw new Error('the JPEG is cut off')
  if (inks === 4) return decodeJpegRoughly(bytes)
  ready ??= (async () => {
    ensureImageData()
    await init((await compileWasm(await assetBytes('jpeg'))) as Parameters<typeof init>[0])
  })()
  try {
    await ready
    const image = await decode(bytes.slice().buffer as ArrayBuffer)
    return {
      width: image.width,
      height: image.height,
      data: new Uint8Array(image.data.buffer, image.data.byteOffset, image.data.byteLength),
    }
  } catch {
    // Its memory may be anything after a broken picture: the next one gets a fresh decoder.
    ready = null
    throw new Error('the JPEG is damaged')
  }
}

/**
 * Pixels of a JPEG at once, and of one in inks: colours are up to 22 of 255 off at edges, since its reader repeats
 * subsampled colour.
 * @throws Error when it is broken or too large
 *
 * @example const pixels = decodeJpegRoughly(bytes)
 */
export function decodeJpegRoughly(bytes: Uint8Array): Pixels {
  const { width, height, data } = jpegWithInks.decode(bytes, {
    useTArray: true,
    formatAsRGBA: true,
    maxMemoryUsageInMB: 1024,
    maxResolutionInMP: 64,
  })
  return { width, height, data }
}

/** A whole JPEG has an end-of-image marker; what programs append comes after it. */
function hasEnd(bytes: Uint8Array): boolean {
  for (let at = bytes.length - 2; at > 3; at--) if (bytes[at] === 0xff && bytes[at + 1] === 0xd9) return true
  return false
}

/**
 * Tag 0x0112 of the first directory of its EXIF part (CIPA DC-008, “Orientation”); 1 where it says nothing.
 * @example readOrientation(new Uint8Array(0)) // 1
 */
export function readOrientation(bytes: Uint8Array): number {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  for (
    let at = 2;
    at + 4 < bytes.length && bytes[at] === 0xff && bytes[at + 1] !== 0xda;
    at += 2 + view.getUint16(at + 2)
  ) {
    const length = view.getUint16(at + 2)
    if (
      bytes[at + 1] !== 0xe1 ||
      at + 2 + length > bytes.length ||
      length < 20 ||
      view.getUint32(at + 4) !== 0x45786966
    )
      continue
    const start = at + 10
    const little = view.getUint16(start) === 0x4949
    const directory = start + view.getUint32(start + 4, little)
    if (directory + 2 > at + 2 + length) return 1
    const entries = view.getUint16(directory, little)
    for (let entry = 0; entry < entries && directory + 2 + entry * 12 + 12 <= at + 2 + length; entry++) {
      const place = directory + 2 + entry * 12
      if (view.getUint16(place, little) !== 0x0112) continue
      const value = view.getUint16(place + 8, little)
      return value >= 1 && value <= 8 ? value : 1
    }
  }
  return 1
}

/**
 * A picture as it is meant to be seen, by its EXIF orientation: 2 mirrored, 3 upside down, 6 and 8 on their sides, and
 * so on.
 */
export function turnPicture(picture: Pixels, orientation: number): Pixels {
  if (orientation === 1) return picture
  const { width, height, data } = picture
  const onSide = orientation >= 5
  const [across, down] = onSide ? [height, width] : [width, height]
  const from = new Uint32Array(data.slice().buffer)
  const to = new Uint32Array(from.length)
  for (let y = 0; y < down; y++) {
    for (let x = 0; x < across; x++) {
      // Where in the stored picture this one's pixel lies.
      const [u, v] = onSide ? [y, x] : [x, y]
      const flipX = onSide ? orientation === 7 || orientation === 8 : orientation === 2 || orientation === 3
      const flipY = onSide ? orientation === 6 || orientation === 7 : orientation === 3 || orientation === 4
      to[y * across + x] = from[(flipY ? height - 1 - v : v) * width + (flipX ? width - 1 - u : u)]
    }
  }
  return { width: across, height: down, data: new Uint8Array(to.buffer) }
}
