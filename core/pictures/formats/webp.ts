import decode, { init } from '@jsquash/webp/decode.js'
import { ByteReader } from '../../support/byte-reader.ts'
import { assetBytes } from '../../support/asset-files.ts'
import { compileWasm, ensureImageData } from './image-data.ts'
import { assertSize, cutOff, type DecodedImage, type ImageFormat } from './image-format.ts'

const text = (bytes: Uint8Array, from: number): string => String.fromCharCode(...bytes.subarray(from, from + 4))

/** WebP, with and without loss (RFC 9649). */
export const webp: ImageFormat = {
  title: 'WebP',
  endings: ['webp'],
  begins: (bytes) => bytes.length > 16 && text(bytes, 0) === 'RIFF' && text(bytes, 8) === 'WEBP',
  decode: decodeWebp,
}

let ready: Promise<void> | null = null

function prepare(): Promise<void> {
  ready ??= (async () => {
    ensureImageData()
    await init((await compileWasm(await assetBytes('webp'))) as Parameters<typeof init>[0])
  })()
  return ready
}

async function decodeWebp(bytes: Uint8Array): Promise<DecodedImage> {
  const { width, height, detail } = readSize(bytes)
  assertSize(width, height)
  await prepare()
  const image = await decode(bytes.slice().buffer as ArrayBuffer)
  return {
    pixels: {
      width: image.width,
      height: image.height,
      data: new Uint8Array(image.data.buffer, image.data.byteOffset, image.data.byteLength),
    },
    detail,
  }
}

/** Size from the first chunk: VP8X, VP8L or VP8 with a space. */
function readSize(bytes: Uint8Array): { width: number; height: number; detail: string } {
  const reader = new ByteReader(bytes, cutOff)
  reader.take(4)
  if (reader.uint32() + 8 > bytes.length) throw cutOff()
  reader.take(4)
  const chunk = text(reader.take(4), 0)
  reader.uint32()
  if (chunk === 'VP8X') {
    if (reader.uint8() & 2) throw new Error('it is an animation')
    reader.take(3)
    const three = (): number => reader.uint8() + reader.uint8() * 256 + reader.uint8() * 65536 + 1
    return { width: three(), height: three(), detail: 'extended' }
  }
  if (chunk === 'VP8L') {
    reader.uint8()
    const packed = reader.uint32()
    return { width: (packed & 0x3fff) + 1, height: ((packed >>> 14) & 0x3fff) + 1, detail: 'without loss' }
  }
  if (chunk !== 'VP8 ') throw new Error('it holds no picture')
  reader.take(6)
  return { width: reader.uint16() & 0x3fff, height: reader.uint16() & 0x3fff, detail: 'with loss' }
}
