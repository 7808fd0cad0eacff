import { compressMap, type CompressedMap, type CompressOptions } from '../../pictures/codecs/compress.ts'
import { pictureHash } from '../../pictures/picture-hash.ts'
import type { Pixels } from '../../pictures/pixels.ts'
import { canonicalJson } from '../../support/hashing.ts'

/** Together the maps that are remembered take at most so much; the oldest go first. */
const MOST_REMEMBERED_BYTES = 32 * 1024 * 1024

/**
 * @param image the picture's bytes as they are kept: the same bytes are the same picture; `pixels` is what they hold
 */
type PictureCompressor = (image: Uint8Array, pixels: Pixels, options: CompressOptions) => Promise<CompressedMap>

/** Compresses as `compressMap` does, but a picture that was compressed the same way before not again. */
export function pictureCompressor(mostBytes: number): PictureCompressor {
  const remembered = new Map<string, CompressedMap>()
  let bytes = 0
  return async (image, pixels, options) => {
    const key = `${pictureHash(image)} ${canonicalJson(options)}`
    const made = remembered.get(key) ?? (await compressMap(pixels, options))
    // What is asked for again becomes the newest; another job may have made the same meanwhile.
    if (!remembered.delete(key)) bytes += made.dds.length
    remembered.set(key, made)
    for (const [oldest, { dds }] of remembered) {
      if (bytes <= mostBytes) break
      remembered.delete(oldest)
      bytes -= dds.length
    }
    return made
  }
}

/**
 * The one that steps share: of an item's maps an edit changes one or two, and blocks are what takes longest to make.
 */
export const compressPicture = pictureCompressor(MOST_REMEMBERED_BYTES)
