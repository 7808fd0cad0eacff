import { ddsMimeType, readDdsHeader, writeDds } from '../pictures/codecs/dds.ts'
import { read as readKtx2 } from 'ktx-parse'
import type { Rulebook } from '../game/schema.ts'
import { openImage } from '../pictures/open-image.ts'
import { blockCodecs, levelBytes, type BlockCodec } from '../pictures/codecs/block-codec.ts'
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
function blockFault(file: Uint8Array): string | null {
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

/** A map's file as the rules know textures: blocks as DDS, plain pixels as PNG. */
export interface OpenedMap {
  bytes: Uint8Array
  mimeType: string
}

/**
 * Opens a map's file as the game would; a reason when it would not.
 * @example const map = await openMap(content.get(path), rulebook)
 */
export async function openMap(file: Uint8Array, { files }: Rulebook): Promise<OpenedMap | string> {
  const { writer } = files.texture
  if (writer === 'dds') return blockFault(file) ?? { bytes: file, mimeType: ddsMimeType }
  try {
    if (writer === 'ktx2') {
      const dds = ddsOfKtx2(file)
      return blockFault(dds) ?? { bytes: dds, mimeType: ddsMimeType }
    }
    if (writer === 'tga') {
      const fault = rowFault(file, files.texture)
      if (fault !== null) return fault
    }
    const { bytes, mimeType, facts } = await openImage(file)
    return facts.title.toLowerCase().startsWith(writer) ? { bytes, mimeType } : `it is no ${writer.toUpperCase()}`
  } catch (error) {
    return plainMessage(error)
  }
}

/** Bits of a TGA's descriptor and kinds of it (Truevision TGA File Format 2.0, sections C.3 and C.5.6). */
const TOP_DOWN = 0x20
const LEAST_PACKED = 9

/** Why a TGA's pixels do not lie as the game reads them; null when they do. */
function rowFault(file: Uint8Array, { topDown, packed }: Rulebook['files']['texture']): string | null {
  if (file[1] !== 0) return 'it has a table of colours'
  if (((file[17] & TOP_DOWN) !== 0) !== topDown) return `its first row is the ${topDown ? 'lowest' : 'top'} one`
  return file[2] >= LEAST_PACKED && !packed ? 'its rows are packed' : null
}

/** The blocks of a KTX 2.0 file (Khronos, KTX File Format 2.0) under the header that the rules read. */
function ddsOfKtx2(file: Uint8Array): Uint8Array {
  const { vkFormat, pixelWidth, pixelHeight, pixelDepth, layerCount, faceCount, levels } = readKtx2(file)
  const known = codecOfFormat[vkFormat]
  if (!known) throw new Error('the card cannot read its blocks')
  if (pixelDepth > 0 || layerCount > 0 || faceCount !== 1)
    throw new Error('it holds a cube, a volume or several textures')
  const [codec, srgb] = known
  const blocks = levels.map(({ levelData }) => levelData)
  return writeDds(codec, srgb, pixelWidth, pixelHeight, blocks, 'dx10')
}

const codecOfFormat: Record<number, [BlockCodec, boolean]> = {
  133: ['bc1', false],
  134: ['bc1', true],
  137: ['bc3', false],
  138: ['bc3', true],
  139: ['bc4', false],
  141: ['bc5', false],
  145: ['bc7', false],
  146: ['bc7', true],
}
