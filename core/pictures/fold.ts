import { lengthOfXyz } from '../maths/vectors.ts'
import type { Pixels } from './pixels.ts'
import { byteOfLinear, linearOfByte } from './srgb.ts'

/** Maps of one size that are folded into a colour map; each may be missing. */
export interface FoldedMaps {
  occlusion: { picture: Pixels; channel: number } | null
  normal: Pixels | null
  roughness: { picture: Pixels; channel: number } | null
  metalness: { picture: Pixels; channel: number } | null
}

/** How much of each goes into the colour, 0 to 1, and where the light comes from in the picture's own plane. */
export interface FoldStrengths {
  occlusion: number
  relief: number
  shine: number
  /** From the right, turning towards the top, in degrees. */
  lightDegrees: number
  /** Above the surface, in degrees. */
  heightDegrees: number
}

/**
 * By the byte of a roughness: how strong the shine is, and how sharp (Walter et al. 2007, from a microfacet's to a
 * lobe's).
 */
const strengthOfRoughness = Float64Array.from({ length: 256 }, (_, byte) => (1 - byte / 255) ** 2)
const exponentOfRoughness = Float64Array.from({ length: 256 }, (_, byte) =>
  Math.min(200, Math.max(0, 2 / Math.max(0.01, (byte / 255) ** 4) - 2)),
)
const FULLY_ROUGH = 255

/**
 * Paints what other maps say into a colour map, for games that read no other: occlusion darkens, normals shade as under
 * one light (Lambert; even surfaces keep their colour), and roughness and metalness draw the shine that the light would
 * leave (Blinn and Phong's half vector, seen from straight above).
 *
 * @example const shaded = foldIntoColour(colour, { occlusion, normal, roughness: null, metalness: null }, strengths)
 */
export function foldIntoColour(
  colour: Pixels,
  { occlusion, normal, roughness, metalness }: FoldedMaps,
  strengths: FoldStrengths,
): Pixels {
  const data = colour.data.slice()
  const turn = (strengths.lightDegrees * Math.PI) / 180
  const rise = (strengths.heightDegrees * Math.PI) / 180
  const light = [Math.cos(rise) * Math.cos(turn), Math.cos(rise) * Math.sin(turn), Math.sin(rise)]
  const halfLength = lengthOfXyz(light[0], light[1], light[2] + 1)
  const half = [light[0] / halfLength, light[1] / halfLength, (light[2] + 1) / halfLength]
  const flat = Math.max(0.2, light[2])
  for (let at = 0; at < data.length; at += 4) {
    const shade = occlusion ? 1 - strengths.occlusion * (1 - occlusion.picture.data[at + occlusion.channel] / 255) : 1
    let relief = 1
    let shine = 0
    const [x, y, z] = normal ? unitNormal(normal.data, at) : [0, 0, 1]
    if (normal) relief = 1 + strengths.relief * (Math.max(0, x * light[0] + y * light[1] + z * light[2]) / flat - 1)
    const rough = roughness ? roughness.picture.data[at + roughness.channel] : FULLY_ROUGH
    const metal = metalness ? metalness.picture.data[at + metalness.channel] / 255 : 0
    if (strengths.shine > 0 && (roughness || metalness)) {
      const facing = Math.max(0, x * half[0] + y * half[1] + z * half[2])
      shine = strengths.shine * strengthOfRoughness[rough] * facing ** exponentOfRoughness[rough]
    }
    for (let channel = 0; channel < 3; channel++) {
      const base = linearOfByte[colour.data[at + channel]]
      // A metal's shine has its own colour, any other's is white.
      const tint = metal * base + (1 - metal) * 0.25
      data[at + channel] = byteOfLinear(base * shade * relief + shine * tint)
    }
  }
  return { ...colour, data }
}

function unitNormal(data: Uint8Array, at: number): [number, number, number] {
  const [x, y, z] = [data[at] / 127.5 - 1, data[at + 1] / 127.5 - 1, data[at + 2] / 127.5 - 1]
  const length = lengthOfXyz(x, y, z) || 1
  return [x / length, y / length, z / length]
}
