import { bmp } from './formats/bmp.ts'
import { dds } from './formats/dds-image.ts'
import type { DecodedImage, ImageFormat } from './formats/image-format.ts'
import { ktx2 } from './formats/ktx2.ts'
import { jpeg, readOrientation } from './formats/jpeg.ts'
import { png } from './formats/png.ts'
import { tga } from './formats/tga.ts'
import { webp } from './formats/webp.ts'
import { encodePng } from './image-codecs.ts'
import { keepReadPixels } from './known-pixels.ts'
import { hasTransparency } from './pixels.ts'

/**
 * Every image format that is read. Adding one adds a file and a word here; TGA stands last, for it has no signature.
 */
export const imageFormats: readonly ImageFormat[] = [png, jpeg, webp, bmp, dds, ktx2, tga]

/** Endings of the files that are read as pictures, lower case, without dots. */
export const imageEndings: readonly string[] = imageFormats.flatMap((format) => format.endings)

/** An image as an item keeps it. */
export interface OpenedImage {
  facts: { title: string; width: number; height: number; hasAlpha: boolean }
  mimeType: 'image/png' | 'image/jpeg'
  bytes: Uint8Array
}

/**
 * Decodes any image that is read, by what its bytes begin like.
 * @param asWritten for what we wrote ourselves
 * @throws Error when no format knows it, or it is broken or too large
 *
 * @example const { pixels } = await decodeAnyImage(file.bytes)
 */
export async function decodeAnyImage(
  bytes: Uint8Array,
  asWritten = false,
): Promise<DecodedImage & { format: ImageFormat }> {
  const format = imageFormats.find((each) => each.begins(bytes))
  if (!format) throw new Error(`it is none of ${imageFormats.map((each) => each.title).join(', ')}`)
  return { format, ...(await format.decode(bytes, asWritten)) }
}

/**
 * PNG and JPEG as they are, all others as PNG; each was decoded to its end.
 *
 * @example const { facts } = await openImage(file.bytes)
 */
export async function openImage(bytes: Uint8Array, asWritten = false): Promise<OpenedImage> {
  const { format, pixels, detail } = await decodeAnyImage(bytes, asWritten)
  const hasAlpha = hasTransparency(pixels)
  const facts = {
    title: detail === '' ? format.title : `${format.title} ${detail}`,
    width: pixels.width,
    height: pixels.height,
    hasAlpha,
  }
  const kept = (mimeType: OpenedImage['mimeType'], file: Uint8Array): OpenedImage => {
    keepReadPixels(file, pixels)
    return { facts, mimeType, bytes: file }
  }
  if (format === png) return kept('image/png', bytes)
  // One that is turned on the way in is kept as it is seen.
  if (format === jpeg && readOrientation(bytes) === 1) return kept('image/jpeg', bytes)
  return kept('image/png', encodePng(pixels, hasAlpha))
}
