import { ByteReader } from '../../support/byte-reader.ts'
import { decodeBlocks, type ReadableBlocks } from './blocks.ts'
import { assertSize, cutOff, type DecodedImage, type ImageFormat } from './image-format.ts'
import { channelOf } from './masks.ts'

/**
 * DDS of any program: the largest level of the first picture, from blocks or plain pixels, with the old header or DX10.
 */
export const dds: ImageFormat = {
  title: 'DDS',
  endings: ['dds'],
  begins: (bytes) =>
    bytes.length > 4 && bytes[0] === 0x44 && bytes[1] === 0x44 && bytes[2] === 0x53 && bytes[3] === 0x20,
  decode: decodeDds,
}

interface PlainPixels {
  bits: number
  /** Red, green, blue, alpha. */
  masks: [number, number, number, number]
  grey: boolean
}

const legacyBlocks: Record<string, ReadableBlocks> = {
  DXT1: 'bc1',
  DXT2: 'bc2',
  DXT3: 'bc2',
  DXT4: 'bc3',
  DXT5: 'bc3',
  ATI1: 'bc4',
  BC4U: 'bc4',
  ATI2: 'bc5',
  BC5U: 'bc5',
}
const dxgiBlocks: Record<number, ReadableBlocks> = {
  70: 'bc1',
  71: 'bc1',
  72: 'bc1',
  73: 'bc2',
  74: 'bc2',
  75: 'bc2',
  76: 'bc3',
  77: 'bc3',
  78: 'bc3',
  79: 'bc4',
  80: 'bc4',
  82: 'bc5',
  83: 'bc5',
  97: 'bc7',
  98: 'bc7',
  99: 'bc7',
}
const plain = (bits: number, red: number, green: number, blue: number, alpha: number, grey = false): PlainPixels => ({
  bits,
  masks: [red, green, blue, alpha],
  grey,
})
const dxgiPlain: Record<number, PlainPixels> = {
  27: plain(32, 0xff, 0xff00, 0xff0000, 0xff000000),
  28: plain(32, 0xff, 0xff00, 0xff0000, 0xff000000),
  29: plain(32, 0xff, 0xff00, 0xff0000, 0xff000000),
  87: plain(32, 0xff0000, 0xff00, 0xff, 0xff000000),
  91: plain(32, 0xff0000, 0xff00, 0xff, 0xff000000),
  88: plain(32, 0xff0000, 0xff00, 0xff, 0),
  93: plain(32, 0xff0000, 0xff00, 0xff, 0),
  49: plain(16, 0xff, 0xff00, 0, 0),
  61: plain(8, 0xff, 0, 0, 0, true),
  65: plain(8, 0, 0, 0, 0xff),
  85: plain(16, 0xf800, 0x7e0, 0x1f, 0),
  86: plain(16, 0x7c00, 0x3e0, 0x1f, 0x8000),
  115: plain(16, 0xf00, 0xf0, 0xf, 0xf000),
}

async function decodeDds(bytes: Uint8Array): Promise<DecodedImage> {
  const reader = new ByteReader(bytes, cutOff)
  reader.take(12)
  const [height, width] = [reader.uint32(), reader.uint32()]
  assertSize(width, height)
  reader.take(60)
  const flags = reader.uint32()
  const code = String.fromCharCode(...reader.take(4))
  const bits = reader.uint32()
  const masks: [number, number, number, number] = [reader.uint32(), reader.uint32(), reader.uint32(), reader.uint32()]
  reader.take(20)
  const hasCode = (flags & 4) !== 0
  let blocks: ReadableBlocks | undefined = hasCode ? legacyBlocks[code] : undefined
  let pixels: PlainPixels | undefined = hasCode
    ? undefined
    : { bits, masks: withoutUnused(masks, flags), grey: (flags & 0x20000) !== 0 }
  let header = 'old header'
  if (hasCode && code === 'DX10') {
    const format = reader.uint32()
    reader.take(16)
    header = 'DX10 header'
    blocks = dxgiBlocks[format]
    pixels = dxgiPlain[format]
    if (!blocks && !pixels) throw new Error(`its pixel format (number ${format}) is not read`)
  }
  if (blocks)
    return {
      pixels: await decodeBlocks(reader.take(reader.left), blocks, width, height),
      detail: `${blocks.toUpperCase()}, ${header}`,
    }
  if (!pixels) throw new Error(`its pixel format “${code.replace(/[^\x20-\x7e]/g, '?')}” is not read`)
  return {
    pixels: { width, height, data: readPlain(reader, pixels, width * height) },
    detail: `${pixels.bits}-bit, ${header}`,
  }
}

/** Alpha counts only where the flags say so. */
const withoutUnused = (
  [red, green, blue, alpha]: [number, number, number, number],
  flags: number,
): [number, number, number, number] => [red, green, blue, (flags & 3) !== 0 ? alpha : 0]

function readPlain(reader: ByteReader, { bits, masks, grey }: PlainPixels, count: number): Uint8Array {
  const bytes = bits / 8
  if (![1, 2, 3, 4].includes(bytes)) throw new Error(`its ${bits} bits a pixel are not read`)
  if (reader.left < count * bytes) throw cutOff()
  const data = new Uint8Array(count * 4)
  for (let pixel = 0; pixel < count; pixel++) {
    let value = 0
    for (let byte = 0; byte < bytes; byte++) value += reader.uint8() * 256 ** byte
    const red = channelOf(value, masks[0], 0)
    data[pixel * 4] = red
    data[pixel * 4 + 1] = grey ? red : channelOf(value, masks[1], 0)
    data[pixel * 4 + 2] = grey ? red : channelOf(value, masks[2], 0)
    data[pixel * 4 + 3] = channelOf(value, masks[3], 255)
  }
  return data
}
