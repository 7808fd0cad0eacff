import type { Document, Material } from '@gltf-transform/core'
import { getMaterialExtras } from '../../item/extras.ts'
import { noteGivenUp } from '../../item/given-up.ts'
import { glowFactor, isUnlit } from '../../item/material-meaning.ts'
import type { Pixels } from '../../pictures/pixels.ts'
import { foldGlow, glowGivenUp } from './folded-pixels.ts'
import { srgbBytes } from './map-pixels.ts'
import { cornerColour, surfacesOfMaterial } from './unsettled.ts'

/** What one cell of a palette says, in bytes. */
export interface PlainLook {
  colour: readonly number[]
  roughness: number
  metalness: number
  glow: number
}

/**
 * What a material without maps shows, its factors and the one colour of its corners taken together.
 * @example const { colour } = plainLook(document, material)
 */
export function plainLook(document: Document, material: Material): PlainLook {
  const corner = cornerColour(surfacesOfMaterial(document, material))
  const factor = material
    .getBaseColorFactor()
    .map((value, channel) => value * (Array.isArray(corner) ? (corner[channel] as number) : 1))
  const opacity =
    material.getAlphaMode() === 'OPAQUE'
      ? 255
      : material.getAlphaMode() === 'MASK'
        ? factor[3] >= material.getAlphaCutoff()
          ? 255
          : 0
        : Math.round(factor[3] * 255)
  const plain = { width: 1, height: 1, data: Uint8Array.from([...srgbBytes(factor), opacity]) }
  const guessed = getMaterialExtras(material).shineIsGuessed === true
  const shine = guessed
    ? { roughness: 255, metalness: 0 }
    : {
        roughness: Math.round(material.getRoughnessFactor() * 255),
        metalness: Math.round(material.getMetallicFactor() * 255),
      }
  if (isUnlit(material) || Math.max(...glowFactor(material)) === 0)
    return { colour: [...plain.data], ...shine, glow: 0 }
  const { colour, mask, otherHue } = foldGlow(plain, null, glowFactor(material))
  if (otherHue > 0) noteGivenUp(document, glowGivenUp(material.getName(), otherHue))
  return { colour: [...colour.data], ...shine, glow: mask.data[0] }
}

/**
 * A square picture of `across` × `across` cells. @param cells RGBA bytes of each
 * @example paintCells([[255, 0, 0, 255]], 1, 4).width // 4
 */
export function paintCells(cells: readonly (readonly number[])[], across: number, side: number): Pixels {
  const data = new Uint8Array(side * side * 4)
  for (let y = 0; y < side; y++) {
    for (let x = 0; x < side; x++) {
      const cell = Math.floor((y * across) / side) * across + Math.floor((x * across) / side)
      data.set(cells[Math.min(cell, cells.length - 1)], (y * side + x) * 4)
    }
  }
  return { width: side, height: side, data }
}

/**
 * The middle of a cell in UVs.
 * @example cellCentre(0, 2) // [0.25, 0.25]
 */
export const cellCentre = (cell: number, across: number): [number, number] => [
  ((cell % across) + 0.5) / across,
  (Math.floor(cell / across) + 0.5) / across,
]

/**
 * A square picture of one colour.
 * @example filled(4, [255, 255, 255, 255]).data.length // 64
 */
export const filled = (side: number, colour: readonly number[]): Pixels => ({
  width: side,
  height: side,
  data: Uint8Array.from({ length: side * side * 4 }, (_, at) => colour[at % 4]),
})
