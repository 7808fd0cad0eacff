import { blockCodecs, levelBytes, type BlockCodec } from './block-codec.ts'

/**
 * DDS files (Microsoft, "DDS file layout" and "DDS_HEADER_DXT10"): a magic word, a 124-byte header, and for
 * codecs that four characters cannot name, 20 bytes more. Levels follow one another, largest first.
 */
export interface DdsHeader {
  codec: BlockCodec
  width: number
  height: number
  mipmaps: number
  srgb: boolean
  /** Where the first level begins. */
  dataOffset: number
}

const MAGIC = 0x20534444
const DX10 = 0x30315844
const dxgiFormats: Record<BlockCodec, { data: number; srgb: number }> = {
  bc1: { data: 71, srgb: 72 },
  bc3: { data: 77, srgb: 78 },
  bc4: { data: 80, srgb: 80 },
  bc5: { data: 83, srgb: 83 },
  bc7: { data: 98, srgb: 99 },
}

export const ddsMimeType = 'image/vnd-ms.dds'

/** A DDS file with the DX10 header, which says the colour space too. */
export function writeDds(codec: BlockCodec, srgb: boolean, width: number, height: number, levels: readonly Uint8Array[]): Uint8Array {
  const headerBytes = 148
  const file = new Uint8Array(headerBytes + levels.reduce((sum, level) => sum + level.length, 0))
  const view = new DataView(file.buffer)
  const put = (offset: number, value: number): void => view.setUint32(offset, value, true)
  put(0, MAGIC)
  put(4, 124)
  // Caps, height, width, pixel format, linear size; the mipmap count where there are several.
  put(8, 0x1 | 0x2 | 0x4 | 0x1000 | 0x80000 | (levels.length > 1 ? 0x20000 : 0))
  put(12, height)
  put(16, width)
  put(20, levelBytes(codec, width, height))
  put(28, levels.length)
  put(76, 32)
  put(80, 0x4)
  put(84, DX10)
  put(108, 0x1000 | (levels.length > 1 ? 0x400008 : 0))
  put(128, srgb ? dxgiFormats[codec].srgb : dxgiFormats[codec].data)
  put(132, 3)
  put(140, 1)
  let offset = headerBytes
  for (const level of levels) {
    file.set(level, offset)
    offset += level.length
  }
  return file
}

/**
 * Reads the header and checks that every level it promises is there.
 * @throws Error when it is no DDS, is cut off, or holds a format that is not read
 */
export function readDdsHeader(bytes: Uint8Array): DdsHeader {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  if (bytes.length < 128 || view.getUint32(0, true) !== MAGIC || view.getUint32(4, true) !== 124) throw new Error('it is not a DDS file')
  const height = view.getUint32(12, true)
  const width = view.getUint32(16, true)
  const mipmaps = Math.max(1, view.getUint32(28, true))
  if (width < 1 || height < 1 || width > 16384 || height > 16384 || mipmaps > 15) throw new Error('its header is damaged')
  const fourCharacters = view.getUint32(84, true)
  const extended = fourCharacters === DX10
  if (extended && bytes.length < 148) throw new Error('it is cut off in its header')
  const format = extended ? view.getUint32(128, true) : 0
  const codec = extended ? blockCodecs.find((name) => dxgiFormats[name].data === format || dxgiFormats[name].srgb === format) : legacyCodec(fourCharacters)
  if (!codec) throw new Error('its pixel format is not read')
  const dataOffset = extended ? 148 : 128
  let needed = dataOffset
  for (let level = 0; level < mipmaps; level++) needed += levelBytes(codec, Math.max(1, width >> level), Math.max(1, height >> level))
  if (bytes.length < needed) throw new Error(`it is cut off: ${bytes.length} of ${needed} bytes are there`)
  return { codec, width, height, mipmaps, srgb: extended && format === dxgiFormats[codec].srgb && codec !== 'bc4' && codec !== 'bc5', dataOffset }
}

function legacyCodec(fourCharacters: number): BlockCodec | undefined {
  const text = String.fromCharCode(fourCharacters & 255, (fourCharacters >> 8) & 255, (fourCharacters >> 16) & 255, fourCharacters >>> 24)
  const known: Record<string, BlockCodec> = { DXT1: 'bc1', DXT5: 'bc3', ATI1: 'bc4', BC4U: 'bc4', ATI2: 'bc5', BC5U: 'bc5' }
  return known[text]
}

/** How many levels a full chain has. */
export const fullMipmapCount = (width: number, height: number): number => Math.floor(Math.log2(Math.max(width, height))) + 1
