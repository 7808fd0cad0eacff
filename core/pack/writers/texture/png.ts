import { texturePixels } from '../../../operations/maps/texture-pixels.ts'
import { encodePng } from '../../../pictures/image-codecs.ts'
import { hasTransparency } from '../../../pictures/pixels.ts'
import type { TextureWriter } from './texture-writer.ts'

/**
 * PNG (W3C, third edition) of 8 bits a channel.
 * @example const map = await writePngMap({ texture, role, files: rulebook.files })
 */
export const writePngMap: TextureWriter = async ({ texture, role }) => {
  const pixels = await texturePixels(texture)
  const withAlpha = role.channels.a !== null && (role.channels.a !== 'opacity' || hasTransparency(pixels))
  return { bytes: encodePng(pixels, withAlpha), ending: 'png' }
}
