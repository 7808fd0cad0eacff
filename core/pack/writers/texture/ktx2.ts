import { ddsMimeType, readDdsHeader } from '../../../pictures/codecs/dds.ts'
import { levelBytes } from '../../../pictures/codecs/block-codec.ts'
import { writeKtx2 } from '../../../pictures/formats/ktx2-write.ts'
import { asItStands, type TextureWriter } from './texture-writer.ts'

/**
 * The same blocks in a KTX 2.0 container (Khronos, KTX File Format 2.0).
 * @example const map = await writeKtx2Map({ texture, role, files: rulebook.files })
 */
export const writeKtx2Map: TextureWriter = async ({ texture, role }) => {
  const image = texture.getImage()
  if (!image || texture.getMimeType() !== ddsMimeType) return asItStands(texture)
  const { width, height, codec, mipmaps, dataOffset } = readDdsHeader(image)
  const levels: Uint8Array[] = []
  let at = dataOffset
  for (let level = 0; level < mipmaps; level++) {
    const bytes = levelBytes(codec, Math.max(1, width >> level), Math.max(1, height >> level))
    levels.push(image.subarray(at, at + bytes))
    at += bytes
  }
  return { bytes: writeKtx2(codec, role.colourSpace === 'srgb', width, height, levels), ending: 'ktx2' }
}
