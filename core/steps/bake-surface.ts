import type { Primitive } from '@gltf-transform/core'
import type { GameMapRole, IngredientRole } from '../document/map-roles.ts'
import { accessorToFloats, readPrimitive } from '../document/primitive-arrays.ts'
import { cornerNormals, listTexels, pictureDirections, toPicture, toSpace, unit, valueAt } from '../geometry/surface-texels.ts'
import { sampleWrapped } from '../texture/sample.ts'
import type { Pixels } from '../texture/pixels.ts'
import { srgbBytes } from './map-pixels.ts'

/** What a material shows: its maps, and the factors that stand where it has none (linear, 0 to 1). */
export interface MaterialPictures {
  maps: Partial<Record<GameMapRole | IngredientRole, Pixels>>
  colour: readonly number[]
  metalness: number
  roughness: number
  glow: readonly number[]
}

/** The pictures that are painted, RGBA, and which pixels were reached. */
export interface BakeCanvas {
  side: number
  colour: Uint8Array
  normal: Uint8Array
  /** Red occlusion, green roughness, blue metalness, alpha glow. */
  mixed: Uint8Array
  covered: Uint8Array
  /** Whether anything was painted that a flat normal map, or a rough surface without metal and glow, would not show. */
  differs: { normal: boolean; mixed: boolean }
}

export const newCanvas = (side: number): BakeCanvas => ({
  side, colour: new Uint8Array(side * side * 4), normal: new Uint8Array(side * side * 4), mixed: new Uint8Array(side * side * 4), covered: new Uint8Array(side * side), differs: { normal: false, mixed: false },
})

/** Paints one surface. Its new UVs are the first set, the ones its maps lie on the second. */
export function bakeSurface(surface: Primitive, from: MaterialPictures, canvas: BakeCanvas): void {
  const { positions, indices, uvs, normals: given } = readPrimitive(surface)
  if (!uvs) return
  const second = surface.getAttribute('TEXCOORD_1')
  const oldUvs = second ? accessorToFloats(second) : new Float32Array(uvs.length)
  const texels = listTexels({ uvs, indices }, canvas.side, canvas.side)
  const normals = given ?? cornerNormals(positions, indices)
  const turned = from.maps.normal ? { before: pictureDirections(positions, oldUvs, indices), after: pictureDirections(positions, uvs, indices), picture: from.maps.normal } : null
  const sample = new Float32Array(4)
  const factor = [...srgbBytes(from.colour), from.colour[3] * 255]
  const glowing = srgbBytes(from.glow)
  const glowStrength = Math.max(...from.glow)
  for (let number = 0; number < texels.count; number++) {
    const pixel = texels.pixel[number] * 4
    const [u, v] = valueAt(texels, number, indices, oldUvs, 2)
    const read = (role: GameMapRole | IngredientRole, channel: number): number | null => {
      const map = from.maps[role]
      if (!map) return null
      sampleWrapped(map, u, v, sample)
      return sample[channel]
    }
    const colour = from.maps.colour
    if (colour) sampleWrapped(colour, u, v, sample)
    for (let channel = 0; channel < 4; channel++) {
      const base = colour ? sample[channel] * (channel === 3 ? from.colour[3] : 1) : factor[channel]
      // Where something glows the game multiplies its colour by the mask, so the colour has to be the glow's.
      canvas.colour[pixel + channel] = Math.round(channel < 3 ? Math.max(base, glowing[channel]) : base)
    }
    const opacity = read('opacity', 0)
    if (opacity !== null) canvas.colour[pixel + 3] = Math.round(opacity)
    const gloss = read('gloss', 0)
    canvas.mixed[pixel] = Math.round(read('occlusion', 0) ?? (from.maps.mixed ? (read('mixed', 0) as number) : 255))
    canvas.mixed[pixel + 1] = Math.round((gloss === null ? null : 255 - gloss) ?? read('roughness', 0) ?? read('mixed', 1) ?? from.roughness * 255)
    canvas.mixed[pixel + 2] = Math.round(read('metalness', 0) ?? read('mixed', 2) ?? from.metalness * 255)
    canvas.mixed[pixel + 3] = Math.round(read('glow', 1) ?? Math.min(1, glowStrength) * 255)
    if (canvas.mixed[pixel + 2] > 8 || canvas.mixed[pixel + 3] > 8 || from.maps.mixed || gloss !== null || from.maps.roughness || from.maps.occlusion) canvas.differs.mixed = true
    let normal: readonly number[] = [0, 0, 1]
    if (turned) {
      sampleWrapped(turned.picture, u, v, sample)
      const outward = unit(valueAt(texels, number, indices, normals, 3))
      const inSpace = toSpace([sample[0] / 127.5 - 1, sample[1] / 127.5 - 1, sample[2] / 127.5 - 1], turned.before, texels.triangle[number], outward)
      normal = toPicture(inSpace, turned.after, texels.triangle[number], outward)
      canvas.differs.normal = true
    }
    for (let axis = 0; axis < 3; axis++) canvas.normal[pixel + axis] = Math.round((normal[axis] + 1) * 127.5)
    canvas.normal[pixel + 3] = 255
    canvas.covered[texels.pixel[number]] = 1
  }
}
