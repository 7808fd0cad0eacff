import * as ktx from 'ktx2-encoder'
import { z } from 'zod'
import { encodeChannelBlocks, encodeTwoChannelBlocks } from './blocks/channel-block.ts'
import { encodeCutBlocks } from './blocks/colour-line.ts'
import type { Pixels } from '../pixels.ts'

/** Block codecs that are written. */
export const blockCodecs = ['bc1', 'bc3', 'bc4', 'bc5', 'bc7'] as const
export type BlockCodec = (typeof blockCodecs)[number]

export const isBlockCodec = (name: string): name is BlockCodec => blockCodecs.some((known) => known === name)

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
    const loaders: Record<string, unknown> = { ...ktx }
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
