import { lengthOfXyz } from '../maths/vectors.ts'
import type { Meaning } from './meaning.ts'
import { nearestByte } from './pixels.ts'
import { byteOfLinear, linearOfByte } from './srgb.ts'

/** Bytes of a normal's directions stand for −1 to 1. */
const NORMAL_SCALE = 1 / 127.5

const LEAST_WEIGHT = 1 / 1024
/** A little weight is kept on clear pixels so that their colour survives where all are clear. */
const weightOfOpacity = Float64Array.from({ length: 256 }, (_, byte) => Math.max(byte / 255, LEAST_WEIGHT))

/**
 * One row of a picture as floats that may be averaged.
 * @example decodeRow(pixels.data, y * pixels.width * 4, row, 'colour')
 */
export function decodeRow(
  data: Uint8Array | Uint8ClampedArray,
  from: number,
  floats: Float32Array,
  meaning: Meaning,
): void {
  if (meaning === 'colour') {
    for (let at = 0; at < floats.length; at += 4) {
      const weight = weightOfOpacity[data[from + at + 3]]
      floats[at] = linearOfByte[data[from + at]] * weight
      floats[at + 1] = linearOfByte[data[from + at + 1]] * weight
      floats[at + 2] = linearOfByte[data[from + at + 2]] * weight
      floats[at + 3] = weight
    }
    return
  }
  if (meaning === 'data') {
    for (let at = 0; at < floats.length; at++) floats[at] = data[from + at]
    return
  }
  for (let at = 0; at < floats.length; at += 4) {
    floats[at] = data[from + at] * NORMAL_SCALE - 1
    floats[at + 1] = data[from + at + 1] * NORMAL_SCALE - 1
    floats[at + 2] = data[from + at + 2] * NORMAL_SCALE - 1
    floats[at + 3] = data[from + at + 3]
  }
}

/**
 * One row of floats as the bytes of a picture; the other way round than `decodeRow`.
 * @example encodeRow(row, data, y * width * 4, 'colour')
 */
export function encodeRow(floats: Float32Array, data: Uint8Array, to: number, meaning: Meaning): void {
  if (meaning === 'data') {
    for (let at = 0; at < floats.length; at++) data[to + at] = nearestByte(floats[at])
    return
  }
  for (let at = 0; at < floats.length; at += 4) {
    const alpha = floats[at + 3]
    if (meaning === 'colour') {
      const share = alpha > 0 ? 1 / alpha : 0
      data[to + at] = byteOfLinear(floats[at] * share)
      data[to + at + 1] = byteOfLinear(floats[at + 1] * share)
      data[to + at + 2] = byteOfLinear(floats[at + 2] * share)
      data[to + at + 3] = alpha <= LEAST_WEIGHT + 1e-6 ? 0 : nearestByte(alpha * 255)
    } else {
      const scale = 127.5 / (lengthOfXyz(floats[at], floats[at + 1], floats[at + 2]) || 1)
      data[to + at] = nearestByte(floats[at] * scale + 127.5)
      data[to + at + 1] = nearestByte(floats[at + 1] * scale + 127.5)
      data[to + at + 2] = nearestByte(floats[at + 2] * scale + 127.5)
      data[to + at + 3] = nearestByte(alpha)
    }
  }
}
