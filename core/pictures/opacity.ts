import { lengthOfXyz } from '../maths/vectors.ts'
import { brightness } from './pack-channels.ts'
import { toPerceived } from './oklab.ts'
import type { Pixels } from './pixels.ts'

/** Where a picture's opacity is made from. */
export type OpacitySource =
  | { from: 'channel'; channel: 0 | 1 | 2 | 3; inverted: boolean }
  | { from: 'brightness'; inverted: boolean }
  /** Pixels like this colour become clear; `tolerance` and `softness` are distances in Oklab, about 0 to 1. */
  | { from: 'colour-key'; colour: readonly [number, number, number]; tolerance: number; softness: number }

/**
 * The picture's own colours with new opacity. `mask` gives the channels, when they are another picture's of the same
 * size.
 *
 * @example const cut = withOpacity(pixels, { from: 'channel', channel: 0, inverted: false })
 */
export function withOpacity(pixels: Pixels, source: OpacitySource, mask: Pixels = pixels): Pixels {
  const data = pixels.data.slice()
  const distance = source.from === 'colour-key' ? distanceFrom(source.colour) : null
  for (let at = 0; at < data.length; at += 4) {
    let value: number
    if (source.from === 'colour-key')
      value = 255 * smooth((distance?.(mask.data, at) ?? 0) - source.tolerance, source.softness)
    else {
      value = source.from === 'channel' ? mask.data[at + source.channel] : brightness(mask.data, at)
      if (source.inverted) value = 255 - value
    }
    data[at + 3] = Math.round(value)
  }
  return { ...pixels, data }
}

const smooth = (over: number, width: number): number =>
  width <= 0 ? (over > 0 ? 1 : 0) : Math.min(1, Math.max(0, over / width))

function distanceFrom(colour: readonly [number, number, number]): (data: Uint8Array, at: number) => number {
  const key = toPerceived(...colour)
  const known = new Map<number, number>()
  return (data, at) => {
    const packed = (data[at] << 16) | (data[at + 1] << 8) | data[at + 2]
    let found = known.get(packed)
    if (found === undefined) {
      const each = toPerceived(data[at], data[at + 1], data[at + 2])
      found = lengthOfXyz(
        each.lightness - key.lightness,
        each.chroma * Math.cos(each.hue) - key.chroma * Math.cos(key.hue),
        each.chroma * Math.sin(each.hue) - key.chroma * Math.sin(key.hue),
      )
      known.set(packed, found)
    }
    return found
  }
}

/**
 * What a picture's opacity is like: none, two values (cut out), or many (blended).
 * @example opacityKind(filled(2, [0, 0, 0, 255])) // 'opaque'
 */
export function opacityKind({ data }: Pixels): 'opaque' | 'cut' | 'blended' {
  let between = 0
  let clear = 0
  for (let at = 3; at < data.length; at += 4) {
    if (data[at] < 16) clear++
    else if (data[at] < 240) between++
  }
  const count = data.length / 4
  if (clear + between < count * 0.0005) return 'opaque'
  // Smoothed edges of a cut-out are few beside what is wholly clear.
  return between > Math.max(clear, count * 0.02) ? 'blended' : 'cut'
}

/**
 * The colour that most of a picture's rim has, as the key of a cut-out; null when the rim has no one colour.
 * @example rimColour(filled(4, [255, 0, 255, 255])) // [255, 0, 255]
 */
export function rimColour({ width, height, data }: Pixels): [number, number, number] | null {
  const counts = new Map<number, { count: number; sum: [number, number, number] }>()
  let all = 0
  const visit = (x: number, y: number): void => {
    const at = (y * width + x) * 4
    const key = ((data[at] >> 5) << 10) | ((data[at + 1] >> 5) << 5) | (data[at + 2] >> 5)
    const bin = counts.get(key) ?? { count: 0, sum: [0, 0, 0] }
    bin.count++
    for (let channel = 0; channel < 3; channel++) bin.sum[channel] += data[at + channel]
    counts.set(key, bin)
    all++
  }
  for (let x = 0; x < width; x++) [0, height - 1].forEach((y) => visit(x, y))
  for (let y = 0; y < height; y++) [0, width - 1].forEach((x) => visit(x, y))
  const most = [...counts.values()].sort((a, b) => b.count - a.count)[0]
  if (!most || most.count < all * 0.6) return null
  return most.sum.map((sum) => Math.round(sum / most.count)) as [number, number, number]
}
