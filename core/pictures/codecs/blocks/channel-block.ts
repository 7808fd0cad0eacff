import { nearestByte, type Pixels } from '../../pixels.ts'
import { encodeEachBlock } from './block-pixels.ts'

/**
 * Blocks of one channel: two 8-bit ends and sixteen 3-bit places between them (Microsoft, “Texture block compression in
 * Direct3D 11”, BC4). With the first end the larger there are eight steps; otherwise six, and pure 0 and 255 besides.
 */
const values = new Float64Array(16)
const places = new Uint8Array(16)
const best = new Uint8Array(16)

/** Rounds of moving both ends by least squares; a third finds next to nothing more. */
const ROUNDS = 2
/** Blocks with less total squared error than this are as good as 8 bits allow. */
const GOOD_ENOUGH = 0.5

/**
 * One channel (0 red … 3 alpha) of a picture as BC4 blocks.
 * @example encodeChannelBlocks(filled(4, [9, 9, 9, 255]), 0).length // 8
 */
export function encodeChannelBlocks(pixels: Pixels, channel: number): Uint8Array {
  return encodeEachBlock(pixels, 8, (offsets, out, at) => encodeChannelBlock(pixels.data, offsets, channel, out, at))
}

/**
 * Red and green of a picture as BC5 blocks.
 * @example encodeTwoChannelBlocks(filled(4, [128, 128, 255, 255])).length // 16
 */
export function encodeTwoChannelBlocks(pixels: Pixels): Uint8Array {
  return encodeEachBlock(pixels, 16, (offsets, out, at) => {
    encodeChannelBlock(pixels.data, offsets, 0, out, at)
    encodeChannelBlock(pixels.data, offsets, 1, out, at + 8)
  })
}

function encodeChannelBlock(data: Uint8Array, offsets: Int32Array, channel: number, out: Uint8Array, at: number): void {
  let low = 255
  let high = 0
  let innerLow = 255
  let innerHigh = 0
  for (let pixel = 0; pixel < 16; pixel++) {
    const value = data[offsets[pixel] + channel]
    values[pixel] = value
    if (value < low) low = value
    if (value > high) high = value
    if (value > 0 && value < innerLow) innerLow = value
    if (value < 255 && value > innerHigh) innerHigh = value
  }
  if (low === high) {
    out[at] = out[at + 1] = low
    return
  }
  const found: Found = { error: Infinity, first: high, second: low, steps: 7 }
  if (high - low <= 7) {
    // Ends seven apart stand for whole numbers: nothing is lost, whichever way a decoder rounds.
    const second = Math.min(low, 248)
    tryEnds(second + 7, second, 7, found)
  } else fitEnds(high, low, 7, found)
  // Six steps between the inner values pay only where the block reaches pure black or white.
  if (found.error > GOOD_ENOUGH && (low === 0 || high === 255))
    fitEnds(Math.min(innerLow, innerHigh), Math.max(innerLow, innerHigh), 5, found)
  out[at] = found.first
  out[at + 1] = found.second
  let bits = 0
  let count = 0
  let byte = at + 2
  for (let pixel = 0; pixel < 16; pixel++) {
    bits |= codeOf(best[pixel], found.steps) << count
    count += 3
    while (count >= 8) {
      out[byte++] = bits & 255
      bits >>= 8
      count -= 8
    }
  }
}

interface Found {
  error: number
  first: number
  second: number
  steps: 7 | 5
}

/**
 * Tries two ends, moves them to where least squares want them, and once more each by one; keeps the best in `found`.
 */
function fitEnds(first: number, second: number, steps: 7 | 5, found: Found): void {
  // Taking lists apart costs more here than all else: this runs once for each block of a map.
  let a = first
  let b = second
  for (let round = 0; round < ROUNDS; round++) {
    if (!tryEnds(a, b, steps, found)) break
    if (found.error <= GOOD_ENOUGH) return
    if (!leastSquares(steps)) break
    const larger = Math.max(moved[0], moved[1])
    const smaller = Math.min(moved[0], moved[1])
    const nextA = steps === 7 ? larger : smaller
    const nextB = steps === 7 ? smaller : larger
    if (nextA === a && nextB === b) break
    a = nextA
    b = nextB
  }
  tryEnds(a, b, steps, found)
  // Rounding the ends moves the places: their neighbours are tried, and the better one's again.
  for (let round = 0; round < ROUNDS; round++) {
    const middleA = found.first
    const middleB = found.second
    let better = false
    for (let at = 0; at < NEIGHBOURS.length; at += 2)
      better = tryEnds(middleA + NEIGHBOURS[at], middleB + NEIGHBOURS[at + 1], steps, found) || better
    if (!better) return
  }
}

/** What is added to the first end and to the second, pair by pair. */
const NEIGHBOURS = Int8Array.of(1, 0, -1, 0, 0, 1, 0, -1, 1, 1, -1, -1, 1, -1, -1, 1)

/**
 * What a place between two ends reads back as, by the sum of the ends times their steps away from the place. Cards read
 * the exact value, many decoders the whole number below it: the middle serves both.
 */
const readBack = { 7: readBackOf(7), 5: readBackOf(5) }

function readBackOf(steps: 7 | 5): Float64Array {
  return Float64Array.from({ length: 255 * steps + 1 }, (_, sum) => (sum / steps + Math.floor(sum / steps + 1e-6)) / 2)
}

/** Whether the two ends are better than what was found; then `places` and `found` are theirs. */
function tryEnds(first: number, second: number, steps: 7 | 5, found: Found): boolean {
  if (first < 0 || first > 255 || second < 0 || second > 255) return false
  if (steps === 7 ? first <= second : first > second) return false
  const scale = first === second ? 0 : steps / (second - first)
  const read = readBack[steps]
  const most = found.error
  let error = 0
  for (let pixel = 0; pixel < 16; pixel++) {
    const value = values[pixel]
    let place = ((value - first) * scale + 0.5) | 0
    if (place < 0) place = 0
    else if (place > steps) place = steps
    let miss = read[first * (steps - place) + second * place] - value
    // Pure black and white have places of their own beside the six steps.
    if (steps === 5) {
      if (value * value <= miss * miss) {
        place = 6
        miss = value
      }
      if ((255 - value) ** 2 < miss * miss) {
        place = 7
        miss = 255 - value
      }
    }
    places[pixel] = place
    error += miss * miss
    if (error >= most) return false
  }
  found.error = error
  found.first = first
  found.second = second
  found.steps = steps
  best.set(places)
  return true
}

/** Place along the line → the code that stands for it: the ends come first. */
const codeOf = (place: number, steps: 7 | 5): number =>
  steps === 5 && place > 5 ? place : place === 0 ? 0 : place === steps ? 1 : place + 1

/** The two ends that `leastSquares` found. */
const moved = new Uint8Array(2)

/**
 * Whether the places just chosen want two ends, those with the least squared error: they are in `moved` then. They do
 * not where all pixels have one place.
 */
function leastSquares(steps: 7 | 5): boolean {
  let aa = 0
  let ab = 0
  let bb = 0
  let ax = 0
  let bx = 0
  for (let pixel = 0; pixel < 16; pixel++) {
    if (places[pixel] > steps) continue
    const share = places[pixel] / steps
    aa += (1 - share) * (1 - share)
    ab += share * (1 - share)
    bb += share * share
    ax += (1 - share) * values[pixel]
    bx += share * values[pixel]
  }
  const determinant = aa * bb - ab * ab
  if (Math.abs(determinant) < 1e-6) return false
  moved[0] = nearestByte((ax * bb - bx * ab) / determinant)
  moved[1] = nearestByte((bx * aa - ax * ab) / determinant)
  return true
}
