import { blockCodecs, levelBytes, type BlockCodec } from './block-codec.ts'
import type { Pixels } from '../pixels.ts'

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

/** The four characters that name a codec in the old header; BC7 has none. */
const oldNames: Partial<Record<BlockCodec, string>> = { bc1: 'DXT1', bc3: 'DXT5', bc4: 'ATI1', bc5: 'ATI2' }

/** Whether a codec can be named without the DX10 part. */
export const hasOldName = (codec: BlockCodec): boolean => oldNames[codec] !== undefined

/**
 * A DDS file of blocks. The DX10 header says the colour space too; the old one is what older loaders read, where the
 * codec has a name there.
 *
 * @example const dds = writeDds('bc7', true, 512, 512, levels)
 */
export function writeDds(
  codec: BlockCodec,
  srgb: boolean,
  width: number,
  height: number,
  levels: readonly Uint8Array[],
  header: 'dx10' | 'old' = 'dx10',
): Uint8Array {
  const oldName = header === 'old' ? oldNames[codec] : undefined
  const { file, put } = startFile(
    width,
    height,
    levels,
    oldName === undefined ? 148 : 128,
    0x80000,
    levelBytes(codec, width, height),
  )
  put(80, 0x4)
  if (oldName === undefined) {
    put(84, DX10)
    put(128, srgb ? dxgiFormats[codec].srgb : dxgiFormats[codec].data)
    put(132, 3)
    put(140, 1)
  } else for (let at = 0; at < 4; at++) file[84 + at] = oldName.charCodeAt(at)
  return file
}

/**
 * A DDS file of plain pixels: blue, green, red, alpha, 8 bits each, with the old header.
 * @example writePlainDds(4, 4, [filled(4, [0, 0, 0, 255])]).length // 192
 */
export function writePlainDds(width: number, height: number, levels: readonly Pixels[]): Uint8Array {
  const swapped = levels.map(({ data }) =>
    data.map((_, at) => data[at % 4 === 0 ? at + 2 : at % 4 === 2 ? at - 2 : at]),
  )
  const { file, put } = startFile(width, height, swapped, 128, 0x8, width * 4)
  put(80, 0x41)
  put(88, 32)
  put(92, 0xff0000)
  put(96, 0xff00)
  put(100, 0xff)
  put(104, 0xff000000)
  return file
}

/** Magic word, the fields that all DDS files share, and the levels. */
function startFile(
  width: number,
  height: number,
  levels: readonly Uint8Array[],
  headerBytes: number,
  sizeFlag: number,
  pitchOrSize: number,
): { file: Uint8Array; put: (offset: number, value: number) => void } {
  const file = new Uint8Array(headerBytes + levels.reduce((sum, level) => sum + level.length, 0))
  const view = new DataView(file.buffer)
  const put = (offset: number, value: number): void => view.setUint32(offset, value, true)
  put(0, MAGIC)
  put(4, 124)
  // Caps, height, width, pixel format, linear size or pitch; the mipmap count where there are several.
  put(8, 0x1 | 0x2 | 0x4 | 0x1000 | sizeFlag | (levels.length > 1 ? 0x20000 : 0))
  put(12, height)
  put(16, width)
  put(20, pitchOrSize)
  put(28, levels.length)
  put(76, 32)
  put(108, 0x1000 | (levels.length > 1 ? 0x400008 : 0))
  let offset = headerBytes
  for (const level of levels) {
    file.set(level, offset)
    offset += level.length
  }
  return { file, put }
}

/**
 * Reads the header and checks that every level it promises is there.
 * @throws Error when it is no DDS, is cut off, or holds a format that is not read
 *
 * @example const { codec, width, mipmaps } = readDdsHeader(bytes)
 */
export function readDdsHeader(bytes: Uint8Array): DdsHeader {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  if (bytes.length < 128 || view.getUint32(0, true) !== MAGIC || view.getUint32(4, true) !== 124)
    throw new Error('it is not a DDS file')
  const height = view.getUint32(12, true)
  const width = view.getUint32(16, true)
  const mipmaps = Math.max(1, view.getUint32(28, true))
  if (width < 1 || height < 1 || width > 16384 || height > 16384 || mipmaps > 15)
    throw new Error('its header is damaged')
  const fourCharacters = view.getUint32(84, true)
  const extended = fourCharacters === DX10
  if (extended && bytes.length < 148) throw new Error('it is cut off in its header')
  const format = extended ? view.getUint32(128, true) : 0
  const codec = extended
    ? blockCodecs.find((name) => dxgiFormats[name].data === format || dxgiFormats[name].srgb === format)
    : legacyCodec(fourCharacters)
  if (!codec) throw new Error('its pixel format is not read')
  const dataOffset = extended ? 148 : 128
  let needed = dataOffset
  for (let level = 0; level < mipmaps; level++)
    needed += levelBytes(codec, Math.max(1, width >> level), Math.max(1, height >> level))
  if (bytes.length < needed) throw new Error(`it is cut off: ${bytes.length} of ${needed} bytes are there`)
  return {
    codec,
    width,
    height,
    mipmaps,
    srgb: extended && format === dxgiFormats[codec].srgb && codec !== 'bc4' && codec !== 'bc5',
    dataOffset,
  }
}

function legacyCodec(fourCharacters: number): BlockCodec | undefined {
  const text = String.fromCharCode(
    fourCharacters & 255,
    (fourCharacters >> 8) & 255,
    (fourCharacters >> 16) & 255,
    fourCharacters >>> 24,
  )
  const known: Record<string, BlockCodec> = {
    DXT1: 'bc1',
    DXT5: 'bc3',
    ATI1: 'bc4',
    BC4U: 'bc4',
    ATI2: 'bc5',
    BC5U: 'bc5',
  }
  return known[text]
}

/**
 * How many levels a full chain has.
 * @example fullMipmapCount(1024, 512) // 11
 */
export const fullMipmapCount = (width: number, height: number): number =>
  Math.floor(Math.log2(Math.max(width, height))) + 1
