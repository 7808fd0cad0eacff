import type { Document, Texture } from '@gltf-transform/core'
import { setTextureExtras, type TextureRole } from '../document/extras.ts'
import { PlainError } from '../document/plain-error.ts'
import { decodeImage, readImageHeader, type ImageHeader } from '../texture/image-codecs.ts'
import { assertReadableSize, fileName, fileStem, type SourceFile } from './source-file.ts'

/** An image file that was proved to be one, from which textures are made once per role. */
export interface ReadImage {
  header: ImageHeader
  texture: (document: Document, role: TextureRole, written: string) => Promise<Texture>
}

/**
 * Decodes an image once to prove that it is whole; its bytes are kept as they came.
 * @throws PlainError when it is not an image, is broken or too large
 */
export function readImage(file: SourceFile): ReadImage {
  assertReadableSize(file)
  const header = provenHeader(file.bytes, fileName(file.path))
  const made = new Map<TextureRole, Texture>()
  return {
    header,
    texture: async (document, role, written) => {
      const known = made.get(role)
      if (known) return known
      const texture = document
        .createTexture(fileStem(file.path))
        .setMimeType(header.type)
        .setImage(file.bytes as Uint8Array<ArrayBuffer>)
        .setURI(fileName(file.path))
      setTextureExtras(texture, { role, written })
      made.set(role, texture)
      return texture
    },
  }
}

/**
 * Header of an image that decodes to the end.
 * @throws PlainError otherwise
 */
export function provenHeader(bytes: Uint8Array, name: string): ImageHeader {
  try {
    const header = readImageHeader(bytes)
    decodeImage(bytes)
    return header
  } catch (error) {
    const reason = error instanceof Error ? error.message : String(error)
    throw new PlainError(`this image cannot be read (${reason})`, name, 'Save it again as PNG or JPEG.')
  }
}
