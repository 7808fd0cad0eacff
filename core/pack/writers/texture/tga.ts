import { texturePixels } from '../../../operations/maps/texture-pixels.ts'
import { hasTransparency } from '../../../pictures/pixels.ts'
import { writeTga } from '../../../pictures/formats/tga-write.ts'
import type { TextureWriter } from './texture-writer.ts'

/**
 * True-colour TGA of 24 bits a pixel, or 32 where the role has a fourth channel that says something.
 * @example const map = await writeTgaMap({ texture, role, files: rulebook.files })
 */
export const writeTgaMap: TextureWriter = async ({ texture, role, files: { topDown, packed } }) => {
  const pixels = await texturePixels(texture)
  const withAlpha = role.channels.a !== null && (role.channels.a !== 'opacity' || hasTransparency(pixels))
  return { bytes: writeTga(pixels, { topDown, packed, withAlpha }), ending: 'tga' }
}
