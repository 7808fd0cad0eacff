import { z } from 'zod'
import { encodeChannelBlocks, encodeTwoChannelBlocks } from './blocks/channel-block.ts'
import { encodeCutBlocks } from './blocks/colour-line.ts'
import type { Pixels } from '../pixels.ts'

/** Block codecs that are written. */
export const blockCodecs = ['bc1', 'bc3', 'bc4', 'bc5', 'bc7'] as const
export type BlockCodec = (typeof blockCodecs)[number]

/**
 * Whether a word names a codec that is written.
 * @example isBlockCodec('bc7') // true
 */
export const isBlockCodec = (name: string): name is BlockCodec => blockCodecs.some((known) => known === name)

/** Bytes that 4 × 4 pixels take in a codec. */
export const bytesPerBlock = (codec: BlockCodec): number => (codec === 'bc1' || codec === 'bc4' ? 8 : 16)

/**
 * Bytes of one level; sides are rounded up to whole 4 × 4 blocks.
 *
 * @example levelBytes('bc1', 8, 8) // 32
 */
export function levelBytes(codec: BlockCodec, width: number, height: number): number {
  return Math.ceil(width / 4) * Math.ceil(height / 4) * bytesPerBlock(codec)
}

interface EncoderInstance {
  setMipGen(on: boolean): void
  setPerceptual(on: boolean): void
  setStatusOutput(on: boolean): void
  setSliceSourceImage(slice: number, data: Uint8Array, width: number, height: number, type: number): boolean
  setDDSFormat(format: string): boolean
  encodeToDDS(out: Uint8Array): number
  setCreateKTX2File(on: boolean): void
  setUASTC(on: boolean): void
  setKTX2AndBasisSRGBTransferFunc(on: boolean): void
  encode(out: Uint8Array): number
  delete(): void
}
interface DecoderInstance {
  startTranscoding(): number
  getImageTranscodedSizeInBytes(level: number, layer: number, face: number, format: number): number
  transcodeImage(
    out: Uint8Array,
    level: number,
    layer: number,
    face: number,
    format: number,
    alpha: number,
    unused0: number,
    unused1: number,
  ): number
  close(): void
  delete(): void
}
interface CodecModule {
  BasisEncoder: new () => EncoderInstance
  KTX2File: new (bytes: Uint8Array) => DecoderInstance
  DDSFile: new (bytes: Uint8Array) => DecoderInstance
}

const moduleSchema = z.custom<CodecModule>(
  (value) => typeof value === 'object' && value !== null && 'BasisEncoder' in value && 'DDSFile' in value,
)

let loading: Promise<CodecModule> | null = null

/** The WASM module; the library has one loader for Node and one for browsers, under different names. */
async function codecModule(): Promise<CodecModule> {
  loading ??= (async () => {
    const loaders: Record<string, unknown> = { ...(await import('ktx2-encoder')) }
    const Loader = (loaders['NodeBasisEncoder'] ?? loaders['BrowserBasisEncoder']) as new () => {
      init(): Promise<unknown>
    }
    return moduleSchema.parse(await new Loader().init())
  })()
  return loading
}

const DDS_DX10_HEADER_BYTES = 148
const RAW_PIXELS = 0
/** cTFRGBA32 of the transcoder's format list. */
const TO_RGBA = 13
/** Strips of whole blocks give the same bytes as the whole picture, and take a fraction of the memory. */
const MOST_STRIP_PIXELS = 256 * 1024

/**
 * Blocks of one level in reading order. Sides below 4 are padded by repeating the last pixel. Two channels are ours,
 * which is nearer on normals than the library; so are blocks of BC1 with clear pixels, which it has not.
 * @param cut for BC1: whether pixels below half opacity become clear
 *
 * @example const blocks = await encodeBlocks(pixels, 'bc1')
 */
export async function encodeBlocks(pixels: Pixels, codec: BlockCodec, cut = false): Promise<Uint8Array> {
  if (codec === 'bc5') return encodeTwoChannelBlocks(pixels)
  if (codec === 'bc4') return encodeChannelBlocks(pixels, 0)
  const blocks = await encodeByLibrary(pixels, codec)
  return codec === 'bc1' && cut ? encodeCutBlocks(pixels, blocks) : blocks
}

/**
 * The library's own encoder for any codec.
 * @example const blocks = await encodeByLibrary(pixels, 'bc7')
 */
export async function encodeByLibrary(pixels: Pixels, codec: BlockCodec): Promise<Uint8Array> {
  const module = await codecModule()
  const padded = padToBlocks(pixels)
  const out = new Uint8Array(levelBytes(codec, padded.width, padded.height))
  const rows = Math.max(4, Math.floor(MOST_STRIP_PIXELS / padded.width / 4) * 4)
  let written = 0
  for (let top = 0; top < padded.height; top += rows) {
    const height = Math.min(rows, padded.height - top)
    const strip = padded.data.subarray(top * padded.width * 4, (top + height) * padded.width * 4)
    const blocks = encodeStrip(module, strip, padded.width, height, codec)
    out.set(blocks, written)
    written += blocks.length
  }
  return out
}

function encodeStrip(
  module: CodecModule,
  data: Uint8Array,
  width: number,
  height: number,
  codec: BlockCodec,
): Uint8Array {
  const encoder = new module.BasisEncoder()
  try {
    encoder.setMipGen(false)
    encoder.setPerceptual(false)
    encoder.setStatusOutput(false)
    encoder.setSliceSourceImage(0, data, width, height, RAW_PIXELS)
    if (!encoder.setDDSFormat(codec)) throw new Error(`the block encoder does not know ${codec}`)
    const size = levelBytes(codec, width, height)
    const file = new Uint8Array(size + DDS_DX10_HEADER_BYTES + 1024)
    const bytes = encoder.encodeToDDS(file)
    if (bytes !== size + DDS_DX10_HEADER_BYTES)
      throw new Error(`the block encoder gave ${bytes} bytes for ${width} × ${height} in ${codec}`)
    return file.subarray(DDS_DX10_HEADER_BYTES, bytes)
  } finally {
    encoder.delete()
  }
}

/**
 * A KTX2 file with Basis Universal content (UASTC) and mipmaps, as the library makes it.
 * @example const ktx2 = await encodeBasisKtx2(pixels, true, true)
 */
export async function encodeBasisKtx2(pixels: Pixels, srgb: boolean, mipmaps: boolean): Promise<Uint8Array> {
  const encoder = new (await codecModule()).BasisEncoder()
  try {
    encoder.setMipGen(mipmaps)
    encoder.setPerceptual(srgb)
    encoder.setStatusOutput(false)
    encoder.setCreateKTX2File(true)
    encoder.setUASTC(true)
    encoder.setKTX2AndBasisSRGBTransferFunc(srgb)
    encoder.setSliceSourceImage(0, pixels.data, pixels.width, pixels.height, RAW_PIXELS)
    // One byte a pixel, a third more for mipmaps, and the headers.
    const file = new Uint8Array(Math.ceil(pixels.width / 4 + 1) * Math.ceil(pixels.height / 4 + 1) * 16 * 2 + 65_536)
    const bytes = encoder.encode(file)
    if (bytes <= 0) throw new Error('the encoder gave nothing for this picture')
    return file.slice(0, bytes)
  } finally {
    encoder.delete()
  }
}

/**
 * One level of a DDS file with blocks as RGBA, read back by the codec's own decoder; sizes are the level's own.
 * @example const first = await decodeDdsLevel(dds, 0, width, height)
 */
export async function decodeDdsLevel(dds: Uint8Array, level: number, width: number, height: number): Promise<Pixels> {
  const module = await codecModule()
  return transcode(new module.DDSFile(dds), width, height, level)
}

/**
 * The first level of a KTX2 file with Basis Universal content as RGBA.
 * @example const pixels = await decodeBasisKtx2(await encodeBasisKtx2(given, true, false), 64, 64)
 */
export async function decodeBasisKtx2(ktx2: Uint8Array, width: number, height: number): Promise<Pixels> {
  const module = await codecModule()
  return transcode(new module.KTX2File(ktx2), width, height)
}

/** @throws Error when the decoder does not know the content, or it is damaged */
function transcode(file: DecoderInstance, width: number, height: number, level = 0): Pixels {
  try {
    if (!file.startTranscoding()) throw new Error('its blocks cannot be decoded')
    const data = new Uint8Array(file.getImageTranscodedSizeInBytes(level, 0, 0, TO_RGBA))
    if (data.length !== width * height * 4 || !file.transcodeImage(data, level, 0, 0, TO_RGBA, 0, -1, -1))
      throw new Error('its blocks cannot be decoded')
    return { width, height, data }
  } finally {
    file.close()
    file.delete()
  }
}

function padToBlocks(pixels: Pixels): Pixels {
  const width = Math.ceil(pixels.width / 4) * 4
  const height = Math.ceil(pixels.height / 4) * 4
  if (width === pixels.width && height === pixels.height) return pixels
  const data = new Uint8Array(width * height * 4)
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const from = (Math.min(y, pixels.height - 1) * pixels.width + Math.min(x, pixels.width - 1)) * 4
      data.set(pixels.data.subarray(from, from + 4), (y * width + x) * 4)
    }
  }
  return { width, height, data }
}
