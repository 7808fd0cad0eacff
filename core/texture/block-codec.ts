import * as ktx from 'ktx2-encoder'
import { z } from 'zod'
import type { Pixels } from './pixels.ts'

/** Block codecs that are written. */
export const blockCodecs = ['bc1', 'bc3', 'bc4', 'bc5', 'bc7'] as const
export type BlockCodec = (typeof blockCodecs)[number]

export const bytesPerBlock = (codec: BlockCodec): number => (codec === 'bc1' || codec === 'bc4' ? 8 : 16)

/** Bytes of one level; sides are rounded up to whole 4 × 4 blocks. */
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
  delete(): void
}
interface DecoderInstance {
  startTranscoding(): number
  getImageTranscodedSizeInBytes(level: number, layer: number, face: number, format: number): number
  transcodeImage(out: Uint8Array, level: number, layer: number, face: number, format: number, alpha: number, unused0: number, unused1: number): number
  close(): void
  delete(): void
}
interface CodecModule {
  BasisEncoder: new () => EncoderInstance
  KTX2File: new (bytes: Uint8Array) => DecoderInstance
  DDSFile: new (bytes: Uint8Array) => DecoderInstance
}

const moduleSchema = z.custom<CodecModule>((value) => typeof value === 'object' && value !== null && 'BasisEncoder' in value && 'DDSFile' in value)

let loading: Promise<CodecModule> | null = null

/** The WASM module; the library has one loader for Node and one for browsers, under different names. */
async function codecModule(): Promise<CodecModule> {
  loading ??= (async () => {
    const loaders: Record<string, unknown> = { ...ktx }
    const Loader = (loaders['NodeBasisEncoder'] ?? loaders['BrowserBasisEncoder']) as new () => { init(): Promise<unknown> }
    return moduleSchema.parse(await new Loader().init())
  })()
  return loading
}

const DDS_DX10_HEADER_BYTES = 148
const RAW_PIXELS = 0
/** cTFRGBA32 of the transcoder's format list. */
const TO_RGBA = 13
/** The encoder takes up to about 12 million pixels at once; strips of whole blocks give the same bytes. */
const MOST_STRIP_PIXELS = 8 * 1024 * 1024

/** Blocks of one level in reading order. Sides below 4 are padded by repeating the last pixel. */
export async function encodeBlocks(pixels: Pixels, codec: BlockCodec): Promise<Uint8Array> {
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

function encodeStrip(module: CodecModule, data: Uint8Array, width: number, height: number, codec: BlockCodec): Uint8Array {
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
    if (bytes !== size + DDS_DX10_HEADER_BYTES) throw new Error(`the block encoder gave ${bytes} bytes for ${width} × ${height} in ${codec}`)
    return file.subarray(DDS_DX10_HEADER_BYTES, bytes)
  } finally {
    encoder.delete()
  }
}

/** The first level of a DDS file as RGBA, read back by the codec's own decoder. */
export async function decodeDdsFirstLevel(dds: Uint8Array, width: number, height: number): Promise<Pixels> {
  const module = await codecModule()
  return transcode(new module.DDSFile(dds), width, height)
}

/** The first level of a KTX2 file with Basis Universal content as RGBA. */
export async function decodeBasisKtx2(ktx2: Uint8Array, width: number, height: number): Promise<Pixels> {
  const module = await codecModule()
  return transcode(new module.KTX2File(ktx2), width, height)
}

/** @throws Error when the decoder does not know the content, or it is damaged */
function transcode(file: DecoderInstance, width: number, height: number): Pixels {
  try {
    if (!file.startTranscoding()) throw new Error('its blocks cannot be decoded')
    const data = new Uint8Array(file.getImageTranscodedSizeInBytes(0, 0, 0, TO_RGBA))
    if (data.length !== width * height * 4 || !file.transcodeImage(data, 0, 0, 0, TO_RGBA, 0, -1, -1)) throw new Error('its blocks cannot be decoded')
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
