import { PlainError } from '../support/plain-error.ts'
import { blockCodecs, encodeBasisKtx2, type BlockCodec } from './codecs/block-codec.ts'
import { compressLevels } from './codecs/compress.ts'
import { writeDds, writePlainDds } from './codecs/dds.ts'
import { writeKtx2 } from './formats/ktx2-write.ts'
import { writeTga } from './formats/tga-write.ts'
import { encodePng } from './image-codecs.ts'
import { decodeAnyImage, imageFormats } from './open-image.ts'
import { opacityKind } from './opacity.ts'
import { hasTransparency, type Pixels } from './pixels.ts'
import type { Meaning } from './meaning.ts'
import { mipmapChain } from './resize.ts'

/**
 * Any image this program reads, as pixels.
 * @example const pixels = await readAnyImage(bytes, 'oak.tga')
 */
export async function readAnyImage(bytes: Uint8Array, name: string): Promise<Pixels> {
  try {
    return (await decodeAnyImage(bytes)).pixels
  } catch (error) {
    throw new PlainError(
      `this image cannot be read (${error instanceof Error ? error.message : String(error)})`,
      name,
      `${imageFormats.map((format) => format.title).join(', ')} are read.`,
    )
  }
}

export const exportFormats = ['png', 'tga', 'dds', 'ktx2'] as const
export type ExportFormat = (typeof exportFormats)[number]

export const exportCodecs = [...blockCodecs, 'none', 'basis'] as const
export type ExportCodec = (typeof exportCodecs)[number]

export interface ExportOptions {
  format: ExportFormat
  /** For DDS and KTX2; `basis` is KTX2's universal form. */
  codec: ExportCodec
  meaning: Meaning
  /** DDS: `old` writes the header that older loaders read, where the codec has a name there. */
  header: 'dx10' | 'old'
  mipmaps: boolean
  /** TGA: packed rows, top row first. */
  packed: boolean
  topDown: boolean
}

/**
 * What a call leaves out: for normals two channels, the old header, every mipmap, TGA as the oldest loaders read it.
 *
 * @example await exportImage(pixels, { ...exportDefaults('dds'), codec: 'bc7' })
 */
export const exportDefaults = (format: ExportFormat): ExportOptions => ({
  format,
  codec: 'bc7',
  meaning: 'colour',
  header: 'old',
  mipmaps: true,
  packed: false,
  topDown: false,
})

/**
 * An image in another format. Opacity under BC1 becomes clear below one half.
 * @throws PlainError when the codec is not written in that format
 *
 * @example const tga = await exportImage(pixels, exportDefaults('tga'))
 */
export async function exportImage(pixels: Pixels, options: ExportOptions): Promise<Uint8Array> {
  const { format, codec, meaning, header } = options
  const seeThrough = hasTransparency(pixels)
  if (format === 'png') return encodePng(pixels, seeThrough)
  if (format === 'tga')
    return writeTga(pixels, { topDown: options.topDown, packed: options.packed, withAlpha: seeThrough })
  if (codec === 'basis') {
    if (format !== 'ktx2')
      throw new PlainError('“basis” is not written as DDS', '--codec', 'Write KTX2, or choose a block codec.')
    return encodeBasisKtx2(pixels, meaning === 'colour', options.mipmaps)
  }
  const { width, height } = pixels
  // What is cut out thins away in the smaller levels unless as much of it is kept.
  const cut = meaning === 'colour' && seeThrough && (codec === 'bc1' || opacityKind(pixels) === 'cut')
  if (codec === 'none') {
    const chain = options.mipmaps ? mipmapChain(pixels, meaning, cut ? 128 : undefined) : [pixels]
    return format === 'dds'
      ? writePlainDds(width, height, chain)
      : writeKtx2(
          'none',
          meaning === 'colour',
          width,
          height,
          chain.map(({ data }) => data),
        )
  }
  const known: BlockCodec = codec
  const levels = await compressLevels(pixels, { codec: known, meaning, withMipmaps: options.mipmaps, cut })
  const blocks = levels.map((level) => level.blocks)
  return format === 'dds'
    ? writeDds(known, meaning === 'colour', width, height, blocks, header)
    : writeKtx2(known, meaning === 'colour', width, height, blocks)
}
