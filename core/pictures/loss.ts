import type { BlockCodec } from './codecs/block-codec.ts'
import type { Pixels } from './pixels.ts'

/** What compressing a map lost. */
export interface Loss {
  /** Peak signal-to-noise ratio over the channels the codec keeps, in decibels; null when nothing was lost. */
  psnrDecibels: number | null
  /** The block of 4 × 4 that lost most: its first pixel, and its own ratio. */
  worstBlock: { x: number; y: number; psnrDecibels: number } | null
  /** For normals: mean angle between given and read-back normals. */
  meanAngleDegrees: number | null
}

/** How many channels, from red on, a codec keeps. */
export const channelsKept = (codec: BlockCodec | 'none'): number =>
  ({ bc1: 3, bc3: 4, bc4: 1, bc5: 2, bc7: 4, none: 4 })[codec]

/** Compares a picture with what its compressed form reads back as. */
export function measureLoss(given: Pixels, readBack: Pixels, channels: number, isNormal: boolean): Loss {
  return {
    psnrDecibels: peakSignalToNoise(given, readBack, channels),
    worstBlock: worstBlock(given, readBack, channels),
    meanAngleDegrees: isNormal ? meanNormalAngle(given, readBack) : null,
  }
}

const decibels = (meanSquare: number): number => 10 * Math.log10(255 ** 2 / meanSquare)

/** 10 · log₁₀(255² / mean squared error) over the first `channels` channels; null when there is no error. */
export function peakSignalToNoise(first: Pixels, second: Pixels, channels: number): number | null {
  let sum = 0
  for (let at = 0; at < first.data.length; at += 4) {
    for (let channel = 0; channel < channels; channel++)
      sum += (first.data[at + channel] - second.data[at + channel]) ** 2
  }
  const mean = sum / ((first.data.length / 4) * channels)
  return mean === 0 ? null : decibels(mean)
}

function worstBlock({ width, height, data }: Pixels, other: Pixels, channels: number): Loss['worstBlock'] {
  let most = 0
  let place = { x: 0, y: 0, count: 1 }
  for (let top = 0; top < height; top += 4) {
    for (let left = 0; left < width; left += 4) {
      let sum = 0
      let count = 0
      for (let y = top; y < Math.min(height, top + 4); y++) {
        for (let x = left; x < Math.min(width, left + 4); x++) {
          const at = (y * width + x) * 4
          for (let channel = 0; channel < channels; channel++)
            sum += (data[at + channel] - other.data[at + channel]) ** 2
          count += channels
        }
      }
      if (sum / count > most) {
        most = sum / count
        place = { x: left, y: top, count }
      }
    }
  }
  return most === 0 ? null : { x: place.x, y: place.y, psnrDecibels: decibels(most) }
}

function meanNormalAngle(first: Pixels, second: Pixels): number {
  let sum = 0
  for (let at = 0; at < first.data.length; at += 4) {
    const ax = first.data[at] / 127.5 - 1
    const ay = first.data[at + 1] / 127.5 - 1
    const az = Math.sqrt(Math.max(0, 1 - ax * ax - ay * ay))
    const bx = second.data[at] / 127.5 - 1
    const by = second.data[at + 1] / 127.5 - 1
    const bz = Math.sqrt(Math.max(0, 1 - bx * bx - by * by))
    const length = Math.sqrt((ax * ax + ay * ay + az * az) * (bx * bx + by * by + bz * bz)) || 1
    sum += Math.acos(Math.min(1, (ax * bx + ay * by + az * bz) / length))
  }
  return ((sum / (first.data.length / 4)) * 180) / Math.PI
}
