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

/**
 * How many channels, from red on, a codec keeps.
 * @example channelsKept('bc5') // 2
 */
export const channelsKept = (codec: BlockCodec | 'none'): number =>
  ({ bc1: 3, bc3: 4, bc4: 1, bc5: 2, bc7: 4, none: 4 })[codec]

/**
 * Compares a picture with what its compressed form reads back as.
 * @example const { psnrDecibels } = measureLoss(pixels, readBack, channelsKept('bc7'), false)
 */
export function measureLoss(given: Pixels, readBack: Pixels, channels: number, isNormal: boolean): Loss {
  const { total, worst } = squaredErrors(given, readBack, channels)
  const mean = total / ((given.data.length / 4) * channels)
  return {
    psnrDecibels: mean === 0 ? null : decibels(mean),
    worstBlock: worst && { x: worst.x, y: worst.y, psnrDecibels: decibels(worst.mean) },
    meanAngleDegrees: isNormal ? meanNormalAngle(given, readBack) : null,
  }
}

const decibels = (meanSquare: number): number => 10 * Math.log10(255 ** 2 / meanSquare)

/** 10 · log₁₀(255² / mean squared error) over the first `channels` channels; null when there is no error. */
export const peakSignalToNoise = (first: Pixels, second: Pixels, channels: number): number | null =>
  measureLoss(first, second, channels, false).psnrDecibels

/** The sum of squared errors of all blocks of 4 × 4, and the block where their mean is greatest. */
function squaredErrors(
  { width, height, data }: Pixels,
  other: Pixels,
  channels: number,
): { total: number; worst: { x: number; y: number; mean: number } | null } {
  const otherData = other.data
  let total = 0
  let worst = null
  let most = 0
  for (let top = 0; top < height; top += 4) {
    const bottom = Math.min(height, top + 4)
    for (let left = 0; left < width; left += 4) {
      const right = Math.min(width, left + 4)
      let sum = 0
      for (let y = top; y < bottom; y++) {
        for (let at = (y * width + left) * 4; at < (y * width + right) * 4; at += 4) {
          for (let channel = 0; channel < channels; channel++) {
            const miss = data[at + channel] - otherData[at + channel]
            sum += miss * miss
          }
        }
      }
      total += sum
      const mean = sum / ((bottom - top) * (right - left) * channels)
      if (mean <= most) continue
      most = mean
      worst = { x: left, y: top, mean }
    }
  }
  return { total, worst }
}

function meanNormalAngle(first: Pixels, second: Pixels): number {
  let sum = 0
  for (let at = 0; at < first.data.length; at += 4) {
    if (first.data[at] === second.data[at] && first.data[at + 1] === second.data[at + 1]) continue
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
