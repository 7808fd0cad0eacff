import { lengthOfXyz } from '../../maths/vectors.ts'
import type { GivenUp } from '../../item/extras.ts'
import type { Pixels } from '../../pictures/pixels.ts'
import { byteOfLinear, linearOfByte } from '../../pictures/srgb.ts'
import { srgbBytes } from './map-pixels.ts'

/** What becomes of a colour map's opacity: nothing is clear, one half is where it is cut, or it is weakened. */
export type OpacityFold =
  { kind: 'opaque' } | { kind: 'cut'; factor: number; threshold: number } | { kind: 'blended'; factor: number }

/**
 * A colour map with its tint multiplied in, in linear light, and its opacity as a game draws it.
 * @example const tinted = foldColour(pixels, [0.5, 0.5, 0.5], { kind: 'opaque' })
 */
export function foldColour({ width, height, data }: Pixels, tint: readonly number[], opacity: OpacityFold): Pixels {
  const tables = [0, 1, 2].map((channel) =>
    Uint8Array.from(linearOfByte, (linear) => byteOfLinear(linear * tint[channel])),
  )
  const alpha = Uint8Array.from({ length: 256 }, (_, byte) => foldedOpacity(byte, opacity))
  const [red, green, blue] = tables
  const folded = new Uint8Array(data.length)
  for (let at = 0; at < data.length; at += 4) {
    folded[at] = red[data[at]]
    folded[at + 1] = green[data[at + 1]]
    folded[at + 2] = blue[data[at + 2]]
    folded[at + 3] = alpha[data[at + 3]]
  }
  return { width, height, data: folded }
}

/** For cutting, opacities below the threshold stay below one half and those above it above, in proportion. */
function foldedOpacity(byte: number, opacity: OpacityFold): number {
  if (opacity.kind === 'opaque') return 255
  const value = (byte / 255) * opacity.factor
  if (opacity.kind === 'blended') return Math.round(value * 255)
  const { threshold } = opacity
  const moved =
    value < threshold
      ? (value / threshold) * 0.5
      : threshold >= 1
        ? 1
        : 0.5 + ((value - threshold) / (1 - threshold)) * 0.5
  return value >= threshold ? Math.max(128, Math.round(moved * 255)) : Math.min(127, Math.round(moved * 255))
}

/**
 * Each channel scaled and raised: value · scale + base, of 1.
 * @example const scaled = foldData(pixels, [1, material.getRoughnessFactor(), material.getMetallicFactor()])
 */
export function foldData(
  { width, height, data }: Pixels,
  scales: readonly [number, number, number],
  bases: readonly [number, number, number] = [0, 0, 0],
): Pixels {
  const tables = [0, 1, 2].map((channel) =>
    Uint8Array.from({ length: 256 }, (_, byte) =>
      Math.min(255, Math.max(0, Math.round(byte * scales[channel] + bases[channel] * 255))),
    ),
  )
  const [red, green, blue] = tables
  const folded = data.slice()
  for (let at = 0; at < data.length; at += 4) {
    folded[at] = red[data[at]]
    folded[at + 1] = green[data[at + 1]]
    folded[at + 2] = blue[data[at + 2]]
  }
  return { width, height, data: folded }
}

/**
 * A normal map with its relief made stronger or weaker (glTF 2.0 specification, normalTextureInfo.scale).
 * @example const flatter = foldRelief(pixels, 0.5)
 */
export function foldRelief({ width, height, data }: Pixels, scale: number): Pixels {
  const folded = data.slice()
  for (let at = 0; at < data.length; at += 4) {
    const [x, y, z] = [(data[at] / 127.5 - 1) * scale, (data[at + 1] / 127.5 - 1) * scale, data[at + 2] / 127.5 - 1]
    const length = lengthOfXyz(x, y, z) || 1
    ;[x, y, z].forEach((value, axis) => (folded[at + axis] = Math.round((value / length + 1) * 127.5)))
  }
  return { width, height, data: folded }
}

/**
 * Multiplies one pixel of a picture with a tint (linear RGBA), in place.
 * @example tintPixel(data, pixel * 4, material.getBaseColorFactor())
 */
export function tintPixel(data: Uint8Array, at: number, tint: readonly number[]): void {
  for (let channel = 0; channel < 3; channel++)
    data[at + channel] = byteOfLinear(linearOfByte[data[at + channel]] * tint[channel])
  data[at + 3] = Math.round(data[at + 3] * Math.min(1, Math.max(0, tint[3])))
}

export interface FoldedGlow {
  colour: Pixels
  /** Grey: how much of its colour each place gives off. */
  mask: Pixels
  /** Share of the picture where the glow's hue is not the colour's, so that the colour had to give way. */
  otherHue: number
}

/**
 * What a material gives up that glows in another colour than it has, on `share` of its picture.
 * @example noteGivenUp(document, glowGivenUp(material.getName(), share))
 */
export const glowGivenUp = (name: string, share: number): GivenUp => ({
  what: 'Glow of another colour',
  where: name,
  message:
    `${name} glows in another colour than it has on ${Math.round(share * 100)} % of its picture; there its colour ` +
    'became the glow’s',
  why: 'The game’s glow is the colour map times a mask.',
})

/** Less light than this is not seen. */
const DARK = 0.004

/**
 * Parts a glow picture into a mask over the colour map, for games whose glow is colour × mask. Where a place glows in
 * another colour than it has, or brighter, its colour becomes the glow's: what gives off light is seen by that light.
 * @param glow same size as `colour`, sRGB; null for the same everywhere
 * @param factor linear
 *
 * @example const { mask, otherHue } = foldGlow(colour, glow, material.getEmissiveFactor())
 */
export function foldGlow(colour: Pixels, glow: Pixels | null, factor: readonly [number, number, number]): FoldedGlow {
  const lit = colour.data.slice()
  const mask = new Uint8Array(colour.data.length)
  let otherHue = 0
  // What each byte of the glow gives off in each channel; without a picture it is the same everywhere.
  const emittedBy = factor.map((share) => Float64Array.from(linearOfByte, (linear) => share * linear))
  const emitted = [...factor]
  for (let at = 0; at < lit.length; at += 4) {
    if (glow)
      for (let channel = 0; channel < 3; channel++) emitted[channel] = emittedBy[channel][glow.data[at + channel]]
    const light = Math.max(emitted[0], emitted[1], emitted[2])
    let share = 0
    if (light > DARK) {
      const [r, g, b] = [linearOfByte[lit[at]], linearOfByte[lit[at + 1]], linearOfByte[lit[at + 2]]]
      const bright = Math.max(r, g, b)
      const whole = bright || 1
      const unlike =
        Math.abs(emitted[0] / light - r / whole) > 0.1 ||
        Math.abs(emitted[1] / light - g / whole) > 0.1 ||
        Math.abs(emitted[2] / light - b / whole) > 0.1
      const changed = unlike || light > bright
      share = changed ? Math.min(1, light) : light / bright
      if (unlike) otherHue++
      if (changed) {
        // As bright as the glow, or as the colour was if that was brighter: then the mask makes up for it.
        const shown = Math.max(light, Math.min(1, bright))
        lit.set(srgbBytes(emitted.map((value) => (value / light) * shown)), at)
        share = Math.min(1, light / shown)
      }
    }
    const grey = Math.round(share * 255)
    mask[at] = grey
    mask[at + 1] = grey
    mask[at + 2] = grey
    mask[at + 3] = 255
  }
  return {
    colour: { ...colour, data: lit },
    mask: { width: colour.width, height: colour.height, data: mask },
    otherHue: otherHue / (lit.length / 4),
  }
}
