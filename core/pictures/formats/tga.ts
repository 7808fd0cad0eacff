import { ByteReader } from '../../support/byte-reader.ts'
import { assertSize, cutOff, type DecodedImage, type ImageFormat } from './image-format.ts'

/**
 * Truevision TGA (File Format Specification 2.0, 1991): true-colour, grey and colour-mapped, plain or in packets, all
 * four origins.
 */
export const tga: ImageFormat = {
  title: 'TGA',
  endings: ['tga'],
  begins: looksLikeTga,
  decode: (bytes, asWritten) => Promise.resolve(decodeTga(bytes, asWritten)),
}

interface TgaHeader {
  /** 1 colour-mapped, 2 true colour, 3 grey. */
  kind: number
  packed: boolean
  mapFirst: number
  mapLength: number
  mapBits: number
  width: number
  height: number
  bits: number
  alphaBits: number
  rightToLeft: boolean
  topDown: boolean
}

/** The format has no signature; a header whose fields fit together is taken for one. */
function looksLikeTga(bytes: Uint8Array): boolean {
  if (bytes.length < 18) return false
  try {
    readHeader(new ByteReader(bytes, cutOff))
    return true
  } catch {
    return false
  }
}

function readHeader(reader: ByteReader): TgaHeader {
  const idLength = reader.uint8()
  const mapType = reader.uint8()
  const type = reader.uint8()
  const [mapFirst, mapLength, mapBits] = [reader.uint16(), reader.uint16(), reader.uint8()]
  reader.take(4)
  const [width, height, bits, descriptor] = [reader.uint16(), reader.uint16(), reader.uint8(), reader.uint8()]
  const kind = type & 7
  const allowedBits: Record<number, number[]> = { 1: [8, 15, 16], 2: [15, 16, 24, 32], 3: [8, 16] }
  if (![1, 2, 3, 9, 10, 11].includes(type) || !allowedBits[kind].includes(bits) || mapType > 1)
    throw new Error('it is no TGA that is known')
  if (kind === 1 && (mapType !== 1 || ![15, 16, 24, 32].includes(mapBits))) throw new Error('its colour map is damaged')
  assertSize(width, height)
  reader.take(idLength)
  return {
    kind,
    packed: type > 8,
    mapFirst,
    mapLength: mapType === 1 ? mapLength : 0,
    mapBits,
    width,
    height,
    bits,
    alphaBits: descriptor & 15,
    rightToLeft: (descriptor & 16) !== 0,
    topDown: (descriptor & 32) !== 0,
  }
}

/**
 * @param asWritten takes an opacity of nothing but noughts for what it says
 * @throws Error when the bytes are no TGA or end too early
 */
export function decodeTga(bytes: Uint8Array, asWritten = false): DecodedImage {
  const reader = new ByteReader(bytes, cutOff)
  const header = readHeader(reader)
  const map: number[][] = []
  for (let entry = 0; entry < header.mapLength; entry++)
    map.push(readColour(reader, header.mapBits, header.mapBits === 32 ? 8 : 0))
  const readPixel = (): number[] => {
    if (header.kind === 2) return readColour(reader, header.bits, header.alphaBits)
    if (header.kind === 1)
      return (
        map[(header.bits === 8 ? reader.uint8() : reader.uint16()) - header.mapFirst] ??
        fail('a pixel asks for a colour that is not in its map')
      )
    const grey = reader.uint8()
    return [grey, grey, grey, header.bits === 16 ? reader.uint8() : 255]
  }
  const { width, height } = header
  const data = new Uint8Array(width * height * 4)
  let pixel = 0
  const put = (colour: number[]): void => {
    const x = header.rightToLeft ? width - 1 - (pixel % width) : pixel % width
    const row = Math.floor(pixel / width)
    data.set(colour, ((header.topDown ? row : height - 1 - row) * width + x) * 4)
    pixel++
  }
  while (pixel < width * height) {
    if (!header.packed) put(readPixel())
    else {
      const packet = reader.uint8()
      const count = Math.min((packet & 127) + 1, width * height - pixel)
      const repeated = packet > 127 ? readPixel() : null
      for (let index = 0; index < count; index++) put(repeated ?? readPixel())
    }
  }
  const hidden = !asWritten && header.kind === 2 && header.bits === 32 && seemsUnused(data)
  if (hidden) for (let offset = 3; offset < data.length; offset += 4) data[offset] = 255
  const kind = header.kind === 1 ? 'colour map' : header.kind === 3 ? 'grey' : `${header.bits}-bit`
  return { pixels: { width, height, data }, detail: `${kind}${header.packed ? ', packed rows' : ''}` }
}

/** Colours stand as blue, green, red; 15 and 16 bits as ARRRRRGG GGGBBBBB. */
function readColour(reader: ByteReader, bits: number, alphaBits: number): number[] {
  if (bits <= 16) {
    const value = reader.uint16()
    const level = (shift: number): number => Math.round((((value >> shift) & 31) / 31) * 255)
    return [level(10), level(5), level(0), alphaBits === 1 && value < 32768 ? 0 : 255]
  }
  const [blue, green, red] = [reader.uint8(), reader.uint8(), reader.uint8()]
  return [red, green, blue, bits === 32 ? reader.uint8() : 255]
}

/** Some programs write 32 bits and leave the last eight at zero: nobody means a wholly invisible picture. */
function seemsUnused(data: Uint8Array): boolean {
  for (let offset = 3; offset < data.length; offset += 4) if (data[offset] !== 0) return false
  return true
}

function fail(message: string): never {
  throw new Error(message)
}
