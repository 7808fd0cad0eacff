import { ByteReader } from '../../support/byte-reader.ts'
import { assertSize, cutOff, type DecodedImage, type ImageFormat } from './image-format.ts'
import { channelOf } from './masks.ts'

/**
 * Windows bitmaps (BITMAPCOREHEADER, BITMAPINFOHEADER, BITMAPV4HEADER, BITMAPV5HEADER): 1 to 32 bits, masks, run
 * lengths.
 */
export const bmp: ImageFormat = {
  title: 'BMP',
  endings: ['bmp', 'dib'],
  begins: (bytes) => bytes.length > 26 && bytes[0] === 0x42 && bytes[1] === 0x4d,
  decode: (bytes) => Promise.resolve(decodeBmp(bytes)),
}

interface BmpHeader {
  dataOffset: number
  width: number
  height: number
  topDown: boolean
  bits: number
  compression: number
  masks: number[]
  palette: number[][]
}

function readHeader(bytes: Uint8Array): BmpHeader {
  const reader = new ByteReader(bytes, cutOff)
  reader.take(10)
  const dataOffset = reader.uint32()
  const headerBytes = reader.uint32()
  const isCore = headerBytes === 12
  if (!isCore && (headerBytes < 40 || headerBytes > 256)) throw new Error('its header is damaged')
  const width = isCore ? reader.uint16() : reader.int32()
  const signedHeight = isCore ? reader.int16() : reader.int32()
  reader.uint16()
  const bits = reader.uint16()
  const compression = isCore ? 0 : reader.uint32()
  if (!isCore) reader.take(12)
  const colours = isCore ? 0 : reader.uint32()
  if (!isCore) reader.uint32()
  assertSize(width, Math.abs(signedHeight))
  let masks = bits === 16 ? [0x7c00, 0x3e0, 0x1f, 0] : [0xff0000, 0xff00, 0xff, 0]
  if (compression === 3 || compression === 6) {
    masks = [reader.uint32(), reader.uint32(), reader.uint32(), 0]
    if (headerBytes >= 56 || compression === 6) masks[3] = reader.uint32()
  }
  const palette: number[][] = []
  if (bits <= 8) {
    const paletteReader = new ByteReader(
      bytes,
      cutOff,
      Math.max(14 + headerBytes, reader.offset > 14 + headerBytes ? reader.offset : 0),
    )
    const count = Math.min(colours || 2 ** bits, 2 ** bits)
    for (let entry = 0; entry < count; entry++) {
      const [blue, green, red] = [paletteReader.uint8(), paletteReader.uint8(), paletteReader.uint8()]
      if (!isCore) paletteReader.uint8()
      palette.push([red, green, blue, 255])
    }
  }
  return {
    dataOffset,
    width,
    height: Math.abs(signedHeight),
    topDown: signedHeight < 0,
    bits,
    compression,
    masks,
    palette,
  }
}

/** @throws Error when the bytes are no BMP, end too early, or hold an embedded JPEG or PNG */
export function decodeBmp(bytes: Uint8Array): DecodedImage {
  const header = readHeader(bytes)
  const known = { 0: [1, 4, 8, 16, 24, 32], 1: [8], 2: [4], 3: [16, 32], 6: [16, 32] }[header.compression]
  if (!known?.includes(header.bits))
    throw new Error(`its ${header.bits} bits in compression ${header.compression} are not known`)
  const reader = new ByteReader(bytes, cutOff, Math.min(header.dataOffset, bytes.length))
  const { width, height } = header
  const data = new Uint8Array(width * height * 4)
  const put = (x: number, row: number, colour: number[] | undefined): void => {
    if (!colour) throw new Error('a pixel asks for a colour that is not in its palette')
    if (x < width && row < height) data.set(colour, ((header.topDown ? row : height - 1 - row) * width + x) * 4)
  }
  if (header.compression === 1 || header.compression === 2) {
    for (let offset = 0; offset < data.length; offset += 4) data.set(header.palette[0] ?? [0, 0, 0, 255], offset)
    readRuns(reader, header, put)
  } else for (let row = 0; row < height; row++) readRow(reader, header, row, put)
  return {
    pixels: { width, height, data },
    detail: `${header.bits}-bit${header.compression === 1 || header.compression === 2 ? ', packed rows' : ''}`,
  }
}

type Put = (x: number, row: number, colour: number[] | undefined) => void

/** A row is padded to four bytes. */
function readRow(reader: ByteReader, header: BmpHeader, row: number, put: Put): void {
  const { width, bits, masks, palette } = header
  const line = reader.slice(Math.ceil((width * bits) / 32) * 4)
  let packed = 0
  for (let x = 0; x < width; x++) {
    if (bits <= 8) {
      const bit = (x * bits) % 8
      if (bit === 0) packed = line.uint8()
      put(x, row, palette[(packed >> (8 - bits - bit)) & ((1 << bits) - 1)])
    } else if (bits === 24) {
      const [blue, green, red] = [line.uint8(), line.uint8(), line.uint8()]
      put(x, row, [red, green, blue, 255])
    } else {
      const value = bits === 16 ? line.uint16() : line.uint32()
      put(x, row, [
        channelOf(value, masks[0], 0),
        channelOf(value, masks[1], 0),
        channelOf(value, masks[2], 0),
        channelOf(value, masks[3], 255),
      ])
    }
  }
}

/** Run lengths of 8 or 4 bits: pairs of count and value, and escapes. */
function readRuns(reader: ByteReader, header: BmpHeader, put: Put): void {
  const half = header.bits === 4
  const [width, height] = [header.width, header.height]
  let [x, row] = [0, 0]
  const paint = (value: number): void => {
    if (x < width && row < height) put(x, row, header.palette[value])
    x++
  }
  while (reader.left >= 2 && row < height) {
    const [count, value] = [reader.uint8(), reader.uint8()]
    if (count > 0)
      for (let index = 0; index < count; index++) paint(half ? (index % 2 === 0 ? value >> 4 : value & 15) : value)
    else if (value === 0) [x, row] = [0, row + 1]
    else if (value === 1) return
    else if (value === 2) [x, row] = [x + reader.uint8(), row + reader.uint8()]
    else {
      const bytes = reader.take(Math.ceil((half ? value / 2 : value) / 2) * 2)
      for (let index = 0; index < value; index++)
        paint(half ? (index % 2 === 0 ? bytes[index >> 1] >> 4 : bytes[index >> 1] & 15) : bytes[index])
    }
  }
}
