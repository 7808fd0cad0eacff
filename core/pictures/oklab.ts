import { srgbOfLinear } from '../maths/srgb.ts'

/**
 * A colour by lightness (0–1), chroma and hue in radians, in Oklab (Ottosson, “A perceptual color space for image
 * processing”, 2020).
 */
export interface PerceivedColour {
  lightness: number
  chroma: number
  hue: number
}

const decode = Float64Array.from({ length: 256 }, (_, value) =>
  value / 255 <= 0.04045 ? value / 255 / 12.92 : ((value / 255 + 0.055) / 1.055) ** 2.4,
)

/**
 * From sRGB bytes.
 * @example toPerceived(255, 255, 255).lightness // 1
 */
export function toPerceived(red: number, green: number, blue: number): PerceivedColour {
  const [r, g, b] = [decode[red], decode[green], decode[blue]]
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b)
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b)
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b)
  const a = 1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s
  const bb = 0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s
  return {
    lightness: 0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    chroma: Math.hypot(a, bb),
    hue: Math.atan2(bb, a),
  }
}

function linearOf(lightness: number, chroma: number, hue: number): [number, number, number] {
  const [a, b] = [chroma * Math.cos(hue), chroma * Math.sin(hue)]
  const l = (lightness + 0.3963377774 * a + 0.2158037573 * b) ** 3
  const m = (lightness - 0.1055613458 * a - 0.0638541728 * b) ** 3
  const s = (lightness - 0.0894841775 * a - 1.291485548 * b) ** 3
  return [
    4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s,
    -1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s,
    -0.0041960863 * l - 0.7034186147 * m + 1.707614701 * s,
  ]
}

const fits = (rgb: readonly number[]): boolean => rgb.every((value) => value >= -1e-4 && value <= 1.0001)

/**
 * To sRGB bytes. A colour that a screen cannot show loses chroma, not lightness or hue, until it can.
 * @example fromPerceived(toPerceived(160, 60, 40)) // [160, 60, 40]
 */
export function fromPerceived({ lightness, chroma, hue }: PerceivedColour): [number, number, number] {
  const light = Math.min(1, Math.max(0, lightness))
  let rgb = linearOf(light, chroma, hue)
  if (!fits(rgb)) {
    let [low, high] = [0, chroma]
    for (let round = 0; round < 12; round++) {
      const middle = (low + high) / 2
      if (fits(linearOf(light, middle, hue))) low = middle
      else high = middle
    }
    rgb = linearOf(light, low, hue)
  }
  return rgb.map((value) => Math.round(Math.min(1, Math.max(0, srgbOfLinear(Math.max(0, value)))) * 255)) as [
    number,
    number,
    number,
  ]
}
