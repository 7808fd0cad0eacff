import type { Document, Material, Texture } from '@gltf-transform/core'
import { getTextureExtras, setTextureExtras, type TextureRole } from '../../item/extras.ts'
import { listUsedMaterials } from '../../item/parts.ts'
import { srgbOfLinear } from '../../maths/srgb.ts'
import { baseNameOf } from '../../game/material-tag.ts'
import type { Rulebook } from '../../game/schema.ts'
import { rawMimeType, writeRawPixels } from '../../pictures/formats/raw-pixels.ts'
import type { Pixels } from '../../pictures/pixels.ts'

/**
 * Gives a texture other pixels, a copy of those given; what they are encoded as is settled where the item is packed.
 *
 * @example putPixels(texture, flipGreen(await texturePixels(texture)))
 */
export function putPixels(texture: Texture, pixels: Pixels): void {
  texture.setImage(writeRawPixels(pixels)).setMimeType(rawMimeType)
  const { quality: _gone, opacity: _old, ...extras } = getTextureExtras(texture)
  setTextureExtras(texture, extras)
}

/**
 * A new texture of an item. `madeBy` says what it comes from.
 *
 * @example setMaterialMap(document, material, 'normal', addTexture(document, 'planks_nrm', 'normal', pixels, 'baked'))
 */
export function addTexture(
  document: Document,
  name: string,
  role: TextureRole,
  pixels: Pixels,
  madeBy: string,
): Texture {
  const texture = document.createTexture(name).setURI(`${name}.png`)
  setTextureExtras(texture, { role, written: name, cameAs: madeBy })
  putPixels(texture, pixels)
  return texture
}

/**
 * The drawn material of that name without tag; null when there is none at this place of the worklist.
 *
 * @example const material = materialByBase(document, rulebook, parameters.material)
 */
export const materialByBase = (document: Document, rulebook: Rulebook, base: string): Material | null =>
  listUsedMaterials(document).find((material) => baseNameOf(material, rulebook) === base) ?? null

/**
 * The drawn materials as options of a choice.
 *
 * @example const [first] = materialOptions(document, rulebook)
 */
export const materialOptions = (document: Document, rulebook: Rulebook): { value: string; label: string }[] =>
  listUsedMaterials(document)
    .map((material) => baseNameOf(material, rulebook))
    .map((value) => ({ value, label: value }))

/**
 * sRGB bytes of linear factors (IEC 61966-2-1).
 * @example srgbBytes([1, 0, 0]) // [255, 0, 0]
 */
export const srgbBytes = (linear: readonly number[]): [number, number, number] =>
  [0, 1, 2].map((channel) => {
    return Math.round(255 * srgbOfLinear(Math.min(1, Math.max(0, linear[channel]))))
  }) as [number, number, number]

/**
 * A colour as people write it: `#a03c28`.
 * @example hexColour([160, 60, 40]) // '#a03c28'
 */
export const hexColour = (bytes: readonly number[]): string =>
  `#${bytes
    .slice(0, 3)
    .map((value) => Math.round(value).toString(16).padStart(2, '0'))
    .join('')}`
