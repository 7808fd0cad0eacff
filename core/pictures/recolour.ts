import { fromPerceived, toPerceived, type PerceivedColour } from './oklab.ts'
import type { Pixels } from './pixels.ts'

/**
 * Formulas of “Compositing and Blending Level 1” (W3C), on bytes scaled to 0–1. `tint` takes hue and chroma of the
 * colour and leaves light and dark.
 */
export const blendModes = ['tint', 'multiply', 'screen', 'overlay', 'soft-light'] as const
export type BlendMode = (typeof blendModes)[number]

export interface HueRange {
  /** Middle of the range on the hue circle, in degrees. */
  hueDegrees: number
  /** How far from the middle hues are taken whole; half as much again they fade out. */
  reachDegrees: number
}

export interface Recolouring {
  /** Which hues are changed; none means all. */
  ranges: readonly HueRange[]
  /** Chroma (0–0.4) below which a pixel counts as grey and stays. */
  greyChroma: number
  hueDegrees: number
  /** −1 takes all colour, 0 leaves it, 1 doubles it. */
  saturation: number
  /** −1 to 1; added along what room there is to black or white, so that light and dark stay apart. */
  lightness: number
  /** A colour laid over, in sRGB bytes. */
  lay: { colour: readonly [number, number, number]; mode: BlendMode; strength: number } | null
}

const degrees = (radians: number): number => ((radians * 180) / Math.PI + 360) % 360

/**
 * How much a pixel takes part, 0 to 1.
 * @example const share = shareOf(colour, recolouring)
 */
export function shareOf(
  colour: PerceivedColour,
  { ranges, greyChroma }: Pick<Recolouring, 'ranges' | 'greyChroma'>,
): number {
  const coloured =
    greyChroma <= 0 ? 1 : Math.min(1, Math.max(0, (colour.chroma - greyChroma * 0.5) / (greyChroma * 0.5)))
  if (ranges.length === 0) return coloured
  const hue = degrees(colour.hue)
  const nearest = Math.max(
    ...ranges.map(({ hueDegrees, reachDegrees }) => {
      const away = Math.abs(((hue - hueDegrees + 540) % 360) - 180)
      return Math.min(1, Math.max(0, (reachDegrees * 1.5 - away) / (reachDegrees * 0.5 || 1)))
    }),
  )
  return nearest * coloured
}

/**
 * The picture in other colours. Opacity stays as it is.
 * @param protect a picture of the same size: where it is bright, nothing changes
 *
 * @example const red = recolour(pixels, recolouring, null)
 */
export function recolour(pixels: Pixels, how: Recolouring, protect: Pixels | null): Pixels {
  const data = pixels.data.slice()
  const known = new Map<number, number>()
  for (let at = 0; at < data.length; at += 4) {
    const guarded = protect ? protect.data[at] : 0
    if (guarded === 255) continue
    // Textures repeat their colours: each is worked out once.
    const key = ((data[at] << 16) | (data[at + 1] << 8) | data[at + 2]) * 256 + guarded
    let packed = known.get(key)
    if (packed === undefined) {
      const [r, g, b] = recolourOne(data[at], data[at + 1], data[at + 2], how, 1 - guarded / 255)
      packed = (r << 16) | (g << 8) | b
      known.set(key, packed)
    }
    data[at] = packed >> 16
    data[at + 1] = (packed >> 8) & 255
    data[at + 2] = packed & 255
  }
  return { ...pixels, data }
}

function recolourOne(
  red: number,
  green: number,
  blue: number,
  how: Recolouring,
  unguarded: number,
): [number, number, number] {
  const before = toPerceived(red, green, blue)
  const share = shareOf(before, how) * unguarded
  if (share === 0) return [red, green, blue]
  const room = how.lightness >= 0 ? 1 - before.lightness : before.lightness
  const shifted: PerceivedColour = {
    lightness: before.lightness + how.lightness * room * before.lightness ** (how.lightness >= 0 ? 0.5 : 0),
    chroma: before.chroma * (1 + how.saturation),
    hue: before.hue + (how.hueDegrees * Math.PI) / 180,
  }
  let after = fromPerceived(shifted)
  if (how.lay) after = layColour(after, how.lay)
  return [red, green, blue].map((value, channel) => Math.round(value + (after[channel] - value) * share)) as [
    number,
    number,
    number,
  ]
}

function layColour(
  under: [number, number, number],
  { colour, mode, strength }: NonNullable<Recolouring['lay']>,
): [number, number, number] {
  let laid: [number, number, number]
  if (mode === 'tint') {
    const tone = toPerceived(...colour)
    const base = toPerceived(...under)
    // Chroma fades towards black and white as pigments do.
    laid = fromPerceived({
      lightness: base.lightness,
      chroma: tone.chroma * Math.min(1, 4 * base.lightness * (1 - base.lightness) + 0.35),
      hue: tone.hue,
    })
  } else
    laid = under.map((value, channel) => Math.round(255 * blend(value / 255, colour[channel] / 255, mode))) as [
      number,
      number,
      number,
    ]
  return under.map((value, channel) => Math.round(value + (laid[channel] - value) * strength)) as [
    number,
    number,
    number,
  ]
}

/**
 * One channel of a separable blend: `below` is the picture, `above` the colour.
 * @example blend(0.5, 0.5, 'multiply') // 0.25
 */
export function blend(below: number, above: number, mode: Exclude<BlendMode, 'tint'>): number {
  switch (mode) {
    case 'multiply':
      return below * above
    case 'screen':
      return below + above - below * above
    case 'overlay':
      return below <= 0.5 ? 2 * below * above : 1 - 2 * (1 - below) * (1 - above)
    case 'soft-light': {
      if (above <= 0.5) return below - (1 - 2 * above) * below * (1 - below)
      const curve = below <= 0.25 ? ((16 * below - 12) * below + 4) * below : Math.sqrt(below)
      return below + (2 * above - 1) * (curve - below)
    }
  }
}
