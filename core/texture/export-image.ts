import { PlainError } from '../document/plain-error.ts'
import { blockCodecs, type BlockCodec } from './block-codec.ts'
import { compressMap } from './compress.ts'
import { encodePng } from './image-codecs.ts'
import { decodeAnyImage, imageFormats } from './open-image.ts'
import { hasTransparency, type Pixels } from './pixels.ts'

/** Any image this program reads, as pixels. */
export async function readAnyImage(bytes: Uint8Array, name: string): Promise<Pixels> {
  try {
    return (await decodeAnyImage(bytes)).pixels
  } catch (error) {
    throw new PlainError(`this image cannot be read (${error instanceof Error ? error.message : String(error)})`, name, `${imageFormats.map((format) => format.title).join(', ')} are read.`)
  }
}

export const exportFormats = ['png', 'dds'] as const
export type ExportFormat = (typeof exportFormats)[number]

/**
 * An image in another format; for DDS with a block codec and all mipmaps.
 * @throws PlainError when the codec is not written in that format
 */
export async function exportImage(pixels: Pixels, format: ExportFormat, codec: string): Promise<Uint8Array> {
  if (format === 'png') return encodePng(pixels, hasTransparency(pixels))
  const known = blockCodecs.find((each): each is BlockCodec => each === codec)
  if (!known) throw new PlainError(`“${codec}” is not written as DDS`, '--codec', `Codecs: ${blockCodecs.join(', ')}.`)
  return (await compressMap(pixels, known, known === 'bc5' ? 'normal' : 'colour', true)).dds
}
