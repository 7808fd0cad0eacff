import { decodeDdsLevel, encodeBlocks, type BlockCodec } from './block-codec.ts'
import { CUT_THRESHOLD } from './blocks/colour-line.ts'
import { writeDds } from './dds.ts'
import { channelsKept, measureLoss, type Loss } from '../loss.ts'
import type { Pixels } from '../pixels.ts'
import type { Meaning } from '../meaning.ts'
import { mipmapChain } from '../resize.ts'

export interface CompressOptions {
  codec: BlockCodec
  meaning: Meaning
  withMipmaps: boolean
  /** Whether the picture is cut out at half opacity: the share that is drawn is kept through the mipmaps. */
  cut?: boolean
  header?: 'dx10' | 'old'
}

export interface CompressedMap extends Loss {
  dds: Uint8Array
  mipmaps: number
}

/**
 * Every level of a picture in blocks, largest first, with the size of each.
 * @example const levels = await compressLevels(pixels, { codec: 'bc1', meaning: 'colour', withMipmaps: true })
 */
export async function compressLevels(
  pixels: Pixels,
  { codec, meaning, withMipmaps, cut = false }: CompressOptions,
): Promise<{ blocks: Uint8Array; width: number; height: number }[]> {
  const chain = withMipmaps ? mipmapChain(pixels, meaning, cut ? CUT_THRESHOLD : undefined) : [pixels]
  const levels: { blocks: Uint8Array; width: number; height: number }[] = []
  for (const level of chain)
    levels.push({ blocks: await encodeBlocks(level, codec, cut), width: level.width, height: level.height })
  return levels
}

/**
 * Compresses a picture with all its mipmaps, reads the first level back and measures the loss.
 *
 * @example const { dds, psnrDecibels } = await compressMap(pixels, { codec: 'bc7', meaning: 'colour', withMipmaps: true })
 */
export async function compressMap(pixels: Pixels, options: CompressOptions): Promise<CompressedMap> {
  const { codec, meaning, header = 'dx10' } = options
  const levels = await compressLevels(pixels, options)
  const dds = writeDds(
    codec,
    meaning === 'colour',
    pixels.width,
    pixels.height,
    levels.map(({ blocks }) => blocks),
    header,
  )
  const readBack = await decodeDdsLevel(dds, 0, pixels.width, pixels.height)
  return { dds, mipmaps: levels.length, ...measureLoss(pixels, readBack, channelsKept(codec), meaning === 'normal') }
}
