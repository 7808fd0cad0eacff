import type { Document, Texture } from '@gltf-transform/core'
import { setTextureExtras, type TextureRole } from '../item/extras.ts'
import { PlainError } from '../support/plain-error.ts'
import { imageEndings, openImage, type OpenedImage } from '../pictures/open-image.ts'
import { assertReadableSize, fileEnding, fileName, fileStem, type SourceFile } from './source-file.ts'

/**
 * Whether a file is a picture that is read, by its ending.
 *
 * @example isImageFile('maps/Oak.PNG') // true
 */
export const isImageFile = (path: string): boolean => imageEndings.includes(fileEnding(path))

/** An image file that was proved to be one, from which textures are made once per role. */
export interface ReadImage {
  image: OpenedImage
  texture: (document: Document, role: TextureRole, written: string) => Texture
}

/**
 * Decodes an image once to prove that it is whole. PNG and JPEG are kept as they came; all others become PNG in the
 * item.
 * @throws PlainError when it is not an image, is broken or too large
 *
 * @example const { image } = await readImage(file)
 */
export async function readImage(file: SourceFile): Promise<ReadImage> {
  assertReadableSize(file)
  const image = await provenImage(file.bytes, fileName(file.path))
  const made = new Map<TextureRole, Texture>()
  return {
    image,
    texture: (document, role, written) => {
      const known = made.get(role)
      if (known) return known
      const texture = document
        .createTexture(fileStem(file.path))
        .setMimeType(image.mimeType)
        .setImage(image.bytes as Uint8Array<ArrayBuffer>)
        .setURI(fileName(file.path))
      setTextureExtras(texture, { role, written, cameAs: image.facts.title })
      made.set(role, texture)
      return texture
    },
  }
}

/**
 * An image that decodes to the end.
 * @throws PlainError otherwise
 *
 * @example await provenImage(file.bytes, file.path)
 */
export async function provenImage(bytes: Uint8Array, name: string): Promise<OpenedImage> {
  try {
    return await openImage(bytes)
  } catch (error) {
    const reason = error instanceof Error ? error.message : String(error)
    throw new PlainError(`this image cannot be read (${reason})`, name, 'Save it again, for instance as PNG.')
  }
}
