import { createDefaultContainer, write, type KTX2BasicFormatSample, type KTX2Container } from 'ktx-parse'
import type { BlockCodec } from '../codecs/block-codec.ts'

/**
 * For each codec: Vulkan's format numbers as data and as sRGB, the colour model and the channels of Khronos' Data
 * Format Specification 1.3, sections 5.6 and 5.11.
 */
const described: Record<
  BlockCodec | 'none',
  { data: number; srgb: number; model: number; channels: readonly { type: number; bits: number }[] }
> = {
  bc1: { data: 133, srgb: 134, model: 128, channels: [{ type: 1, bits: 64 }] },
  bc3: {
    data: 137,
    srgb: 138,
    model: 130,
    channels: [
      { type: 15, bits: 64 },
      { type: 0, bits: 64 },
    ],
  },
  bc4: { data: 139, srgb: 139, model: 131, channels: [{ type: 0, bits: 64 }] },
  bc5: {
    data: 141,
    srgb: 141,
    model: 132,
    channels: [
      { type: 0, bits: 64 },
      { type: 1, bits: 64 },
    ],
  },
  bc7: { data: 145, srgb: 146, model: 134, channels: [{ type: 0, bits: 128 }] },
  none: {
    data: 37,
    srgb: 43,
    model: 1,
    channels: [
      { type: 0, bits: 8 },
      { type: 1, bits: 8 },
      { type: 2, bits: 8 },
      { type: 15, bits: 8 },
    ],
  },
}
const TRANSFER_LINEAR = 1
const TRANSFER_SRGB = 2
/** Opacity is never stored by the transfer function. */
const SAMPLE_IS_LINEAR = 16
const ALPHA = 15

/**
 * A KTX 2.0 file (Khronos) with block-compressed or plain 8-bit levels, largest first, and its data format described in
 * full.
 * @param levels blocks in reading order, or 4 bytes a pixel for `none`
 *
 * @example const ktx2 = writeKtx2('bc7', true, 512, 512, levels)
 */
export function writeKtx2(
  codec: BlockCodec | 'none',
  srgb: boolean,
  width: number,
  height: number,
  levels: readonly Uint8Array[],
): Uint8Array {
  const { data, srgb: asSrgb, model, channels } = described[codec]
  const usesSrgb = srgb && data !== asSrgb
  const container: KTX2Container = createDefaultContainer()
  const blocks = codec !== 'none'
  let bitOffset = 0
  const samples = channels.map(({ type, bits }): KTX2BasicFormatSample => {
    const sample = {
      bitOffset,
      bitLength: bits - 1,
      channelType: type | (usesSrgb && type === ALPHA ? SAMPLE_IS_LINEAR : 0),
      samplePosition: [0, 0, 0, 0],
      sampleLower: 0,
      sampleUpper: blocks ? 0xffffffff : 255,
    }
    bitOffset += bits
    return sample as unknown as KTX2BasicFormatSample
  })
  Object.assign(container, {
    vkFormat: usesSrgb ? asSrgb : data,
    pixelWidth: width,
    pixelHeight: height,
    levelCount: levels.length,
    levels: levels.map((level) => ({
      levelData: level as Uint8Array<ArrayBuffer>,
      uncompressedByteLength: level.length,
    })),
  })
  Object.assign(container.dataFormatDescriptor[0], {
    colorModel: model,
    transferFunction: usesSrgb ? TRANSFER_SRGB : TRANSFER_LINEAR,
    texelBlockDimension: blocks ? [3, 3, 0, 0] : [0, 0, 0, 0],
    bytesPlane: [bitOffset / 8, 0, 0, 0, 0, 0, 0, 0],
    samples,
  })
  container.keyValue = { KTXwriter: 'Gentle Crate' }
  return write(container)
}
