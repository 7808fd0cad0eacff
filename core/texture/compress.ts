import { decodeDdsFirstLevel, encodeBlocks, type BlockCodec } from './block-codec.ts'
import { writeDds } from './dds.ts'
import type { Pixels } from './pixels.ts'
import { mipmapChain, type Meaning } from './resize.ts'

export interface CompressedMap {
  dds: Uint8Array
  mipmaps: number
  /** Peak signal-to-noise ratio over the channels the codec keeps, in decibels; null when nothing was lost. */
  psnrDecibels: number | null
  /** For normals: mean angle between given and read-back normals. */
  meanAngleDegrees: number | null
}

/** Compresses a picture with all its mipmaps, reads the first level back and measures the loss. */
export async function compressMap(pixels: Pixels, codec: BlockCodec, meaning: Meaning, withMipmaps: boolean): Promise<CompressedMap> {
  const chain = withMipmaps ? mipmapChain(pixels, meaning) : [pixels]
  const levels: Uint8Array[] = []
  for (const level of chain) levels.push(await encodeBlocks(level, codec))
  const dds = writeDds(codec, meaning === 'colour', pixels.width, pixels.height, levels)
  const decoded = await decodeDdsFirstLevel(dds, pixels.width, pixels.height)
  return {
    dds,
    mipmaps: chain.length,
    psnrDecibels: peakSignalToNoise(pixels, decoded, channelsOf(codec)),
    meanAngleDegrees: meaning === 'normal' ? meanNormalAngle(pixels, decoded) : null,
  }
}

const channelsOf = (codec: BlockCodec): number => ({ bc1: 3, bc3: 4, bc4: 1, bc5: 2, bc7: 4 })[codec]

/** 10 · log₁₀(255² / mean squared error) over the first `channels` channels. */
export function peakSignalToNoise(first: Pixels, second: Pixels, channels: number): number | null {
  let sum = 0
  for (let at = 0; at < first.data.length; at += 4) {
    for (let channel = 0; channel < channels; channel++) sum += (first.data[at + channel] - second.data[at + channel]) ** 2
  }
  const mean = sum / ((first.data.length / 4) * channels)
  return mean === 0 ? null : 10 * Math.log10(255 ** 2 / mean)
}

function meanNormalAngle(first: Pixels, second: Pixels): number {
  let sum = 0
  const normal = (data: Uint8Array, at: number): [number, number, number] => {
    const x = data[at] / 127.5 - 1
    const y = data[at + 1] / 127.5 - 1
    return [x, y, Math.sqrt(Math.max(0, 1 - x * x - y * y))]
  }
  for (let at = 0; at < first.data.length; at += 4) {
    const a = normal(first.data, at)
    const b = normal(second.data, at)
    const length = Math.hypot(...a) * Math.hypot(...b) || 1
    sum += Math.acos(Math.min(1, (a[0] * b[0] + a[1] * b[1] + a[2] * b[2]) / length))
  }
  return ((sum / (first.data.length / 4)) * 180) / Math.PI
}
