import type { Texture } from '@gltf-transform/core'
import { encodePng } from '../../../pictures/image-codecs.ts'
import { isRawPixels, readRawPixels } from '../../../pictures/formats/raw-pixels.ts'
import { hasTransparency } from '../../../pictures/pixels.ts'
import type { MapRole, Rulebook } from '../../../game/schema.ts'

/** What a map is written from. */
export interface MapToWrite {
  texture: Texture
  role: MapRole
  files: Rulebook['files']['texture']
}

/** A map's file: its bytes and its ending, which says what it is even where it is not what the game reads. */
export interface WrittenMap {
  bytes: Uint8Array
  ending: string
}

/** Writes a map in one format. */
export type TextureWriter = (map: MapToWrite) => Promise<WrittenMap>

/**
 * The picture as it stands, under the ending that it has: for what was not brought into the game's form, so that the
 * rules can say so. Plain pixels that a step left are PNG.
 *
 * @example const map = asItStands(texture)
 */
export function asItStands(texture: Texture): WrittenMap {
  const endings: Record<string, string> = { 'image/png': 'png', 'image/jpeg': 'jpg' }
  const image = texture.getImage() ?? new Uint8Array(0)
  if (isRawPixels(image)) {
    const pixels = readRawPixels(image)
    return { bytes: encodePng(pixels, hasTransparency(pixels)), ending: 'png' }
  }
  return { bytes: image, ending: endings[texture.getMimeType()] ?? 'dds' }
}
