import { readDdsHeader } from '../pictures/codecs/dds.ts'
import { blockCodecs, levelBytes } from '../pictures/codecs/block-codec.ts'
import { plainMessage } from '../support/plain-error.ts'

/** Where the words of the newer header lie (Microsoft, DDS_HEADER_DXT10). */
const DIMENSION = 132
const FLAGS = 136
const ARRAY_SIZE = 140
const CAPS_2 = 112
const FLAT_TEXTURE = 3
const CUBE = 4
const VOLUME = 0x200000

/**
 * Why a map's file is not one flat texture of blocks with exactly its levels, or null when it is.
 */
export function mapFault(file: Uint8Array): string | null {
  try {
    const header = readDdsHeader(file)
    const view = new DataView(file.buffer, file.byteOffset, file.byteLength)
    const word = (offset: number): number => view.getUint32(offset, true)
    if (header.dataOffset !== 148) return 'its header has no DX10 part'
    if (
      word(DIMENSION) !== FLAT_TEXTURE ||
      (word(FLAGS) & CUBE) !== 0 ||
      word(ARRAY_SIZE) !== 1 ||
      (word(CAPS_2) & (0x200 | VOLUME)) !== 0
    )
      return 'it holds a cube, a volume or several textures'
    if (word(28) < 1 || !blockCodecs.includes(header.codec)) return 'it holds no level'
    let whole = header.dataOffset
    for (let level = 0; level < header.mipmaps; level++)
      whole += levelBytes(header.codec, Math.max(1, header.width >> level), Math.max(1, header.height >> level))
    return file.length === whole ? null : `${file.length - whole} bytes follow its last level`
  } catch (error) {
    return plainMessage(error)
  }
}
