import type { Texture } from '@gltf-transform/core'
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

/** The picture as it stands, under the ending that it has: for what was not brought into the game's form, so that the rules can say so. */
export function asItStands(texture: Texture): WrittenMap {
  const endings: Record<string, string> = { 'image/png': 'png', 'image/jpeg': 'jpg' }
  return { bytes: texture.getImage() ?? new Uint8Array(0), ending: endings[texture.getMimeType()] ?? 'dds' }
}
