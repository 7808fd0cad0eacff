import { lengthOfXyz } from '../../../maths/vectors.ts'
import type { Pixels } from '../../pixels.ts'
import { encodeEachBlock } from './block-pixels.ts'

/**
 * BC1 blocks by fitting one line through a block's colours (Microsoft, “Texture block compression in Direct3D 11”,
 * BC1): two 5-6-5 ends and sixteen 2-bit places. With the first end the larger there are four colours; otherwise three,
 * and clear.
 */
const weightsOfFour = [0, 1, 1 / 3, 2 / 3]
const weightsOfThree = [0, 1, 1 / 2]
const CLEAR = 3

/** Whether a pixel counts as there; below it is cut away. */
export const CUT_THRESHOLD = 128

/**
 * Opaque blocks, four colours each, fitted once and refined by least squares once: the plain way, for comparison.
 * @example encodeRangeFit(filled(4, [160, 60, 40, 255])).length // 8
 */
export const encodeRangeFit = (pixels: Pixels): Uint8Array =>
  encodeEachBlock(pixels, 8, (offsets, out, at) => encodeLine(pixels.data, offsets, false, out, at))

/**
 * Blocks that can hold clear pixels: where a block has any, three colours are fitted to the others; the rest are taken
 * from `opaque`, blocks of the same picture in four colours.
 *
 * @example const blocks = encodeCutBlocks(pixels, encodeRangeFit(pixels))
 */
export function encodeCutBlocks(pixels: Pixels, opaque: Uint8Array): Uint8Array {
  const { data } = pixels
  return encodeEachBlock(pixels, 8, (offsets, out, at) => {
    let clear = false
    for (const offset of offsets) clear ||= data[offset + 3] < CUT_THRESHOLD
    const source = opaque.subarray(at, at + 8)
    if (!clear && !holdsClear(source)) out.set(source, at)
    else encodeLine(data, offsets, clear, out, at)
  })
}

/** Whether a block uses three colours and the clear one: a reader that minds alpha would see a hole. */
function holdsClear(block: Uint8Array): boolean {
  const first = block[0] | (block[1] << 8)
  const second = block[2] | (block[3] << 8)
  if (first > second) return false
  for (let byte = 4; byte < 8; byte++)
    for (let shift = 0; shift < 8; shift += 2) if (((block[byte] >> shift) & 3) === CLEAR) return true
  return false
}

const chosen = new Uint8Array(16)

function encodeLine(data: Uint8Array, offsets: Int32Array, withClear: boolean, out: Uint8Array, at: number): void {
  const solid: number[] = []
  for (let pixel = 0; pixel < 16; pixel++)
    if (!withClear || data[offsets[pixel] + 3] >= CUT_THRESHOLD) solid.push(pixel)
  let ends: [number, number] = [0, 0]
  if (solid.length > 0) {
    ends = endsAlongLine(data, offsets, solid)
    const weights = withClear ? weightsOfThree : weightsOfFour
    const before = choose(data, offsets, solid, ends, weights)
    const kept = chosen.slice()
    const refined = refine(data, offsets, solid, weights)
    if (refined && choose(data, offsets, solid, refined, weights) < before) ends = refined
    else chosen.set(kept)
  }
  // The order of the ends says how many colours there are; swapping them swaps places 0 and 1, and 2 and 3 of four.
  const swap = withClear ? ends[0] > ends[1] : ends[0] < ends[1]
  if (swap) ends = [ends[1], ends[0]]
  const flat = !withClear && ends[0] === ends[1]
  let bits = 0
  for (let pixel = 15; pixel >= 0; pixel--) {
    const there = !withClear || data[offsets[pixel] + 3] >= CUT_THRESHOLD
    let place = there ? (flat ? 0 : chosen[pixel]) : CLEAR
    if (swap && there && !flat) place = withClear ? [1, 0, 2][place] : [1, 0, 3, 2][place]
    bits = (bits << 2) | place
  }
  out[at] = ends[0] & 255
  out[at + 1] = ends[0] >> 8
  out[at + 2] = ends[1] & 255
  out[at + 3] = ends[1] >> 8
  out[at + 4] = bits & 255
  out[at + 5] = (bits >> 8) & 255
  out[at + 6] = (bits >> 16) & 255
  out[at + 7] = bits >>> 24
}

const pack565 = (red: number, green: number, blue: number): number =>
  (level(red, 31) << 11) | (level(green, 63) << 5) | level(blue, 31)
const level = (value: number, most: number): number => Math.max(0, Math.min(most, Math.round((value / 255) * most)))
const unpack565 = (packed: number): [number, number, number] => {
  const [red, green, blue] = [packed >> 11, (packed >> 5) & 63, packed & 31]
  return [(red << 3) | (red >> 2), (green << 2) | (green >> 4), (blue << 3) | (blue >> 2)]
}

/** The outermost colours along the direction in which they differ most (power iteration on their covariance). */
function endsAlongLine(data: Uint8Array, offsets: Int32Array, solid: readonly number[]): [number, number] {
  const mean = [0, 0, 0]
  for (const pixel of solid)
    for (let channel = 0; channel < 3; channel++) mean[channel] += data[offsets[pixel] + channel] / solid.length
  const covariance = [0, 0, 0, 0, 0, 0]
  for (const pixel of solid) {
    const [r, g, b] = [
      data[offsets[pixel]] - mean[0],
      data[offsets[pixel] + 1] - mean[1],
      data[offsets[pixel] + 2] - mean[2],
    ]
    covariance[0] += r * r
    covariance[1] += r * g
    covariance[2] += r * b
    covariance[3] += g * g
    covariance[4] += g * b
    covariance[5] += b * b
  }
  let axis: [number, number, number] = [1, 1, 1]
  for (let round = 0; round < 6; round++) {
    const [x, y, z] = axis
    const next = [
      covariance[0] * x + covariance[1] * y + covariance[2] * z,
      covariance[1] * x + covariance[3] * y + covariance[4] * z,
      covariance[2] * x + covariance[4] * y + covariance[5] * z,
    ]
    const length = lengthOfXyz(next[0], next[1], next[2])
    if (length < 1e-9) break
    axis = [next[0] / length, next[1] / length, next[2] / length]
  }
  let [low, high] = [Infinity, -Infinity]
  let [from, to] = [solid[0], solid[0]]
  for (const pixel of solid) {
    const along =
      data[offsets[pixel]] * axis[0] + data[offsets[pixel] + 1] * axis[1] + data[offsets[pixel] + 2] * axis[2]
    if (along < low) [low, from] = [along, pixel]
    if (along > high) [high, to] = [along, pixel]
  }
  const at = (pixel: number): number =>
    pack565(data[offsets[pixel]], data[offsets[pixel] + 1], data[offsets[pixel] + 2])
  return [at(from), at(to)]
}

/** Chooses the nearest colour for each pixel; gives the squared error. */
function choose(
  data: Uint8Array,
  offsets: Int32Array,
  solid: readonly number[],
  ends: readonly [number, number],
  weights: readonly number[],
): number {
  const first = unpack565(ends[0])
  const second = unpack565(ends[1])
  let total = 0
  for (const pixel of solid) {
    let least = Infinity
    for (let place = 0; place < weights.length; place++) {
      let error = 0
      for (let channel = 0; channel < 3; channel++)
        error +=
          (first[channel] + (second[channel] - first[channel]) * weights[place] - data[offsets[pixel] + channel]) ** 2
      if (error < least) {
        least = error
        chosen[pixel] = place
      }
    }
    total += least
  }
  return total
}

/** Ends with the least squared error for the places just chosen. */
function refine(
  data: Uint8Array,
  offsets: Int32Array,
  solid: readonly number[],
  weights: readonly number[],
): [number, number] | null {
  let [aa, ab, bb] = [0, 0, 0]
  const [ax, bx] = [
    [0, 0, 0],
    [0, 0, 0],
  ]
  for (const pixel of solid) {
    const share = weights[chosen[pixel]]
    aa += (1 - share) ** 2
    ab += share * (1 - share)
    bb += share * share
    for (let channel = 0; channel < 3; channel++) {
      ax[channel] += (1 - share) * data[offsets[pixel] + channel]
      bx[channel] += share * data[offsets[pixel] + channel]
    }
  }
  const determinant = aa * bb - ab * ab
  if (Math.abs(determinant) < 1e-6) return null
  const first = ax.map((value, channel) => (value * bb - bx[channel] * ab) / determinant)
  const second = bx.map((value, channel) => (value * aa - ax[channel] * ab) / determinant)
  return [pack565(first[0], first[1], first[2]), pack565(second[0], second[1], second[2])]
}
