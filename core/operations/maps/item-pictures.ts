import type { Document } from '@gltf-transform/core'
import { getTextureExtras } from '../../item/extras.ts'
import { PlainError } from '../../support/plain-error.ts'
import { decodeAnyImage } from '../../pictures/open-image.ts'
import type { Pixels } from '../../pictures/pixels.ts'
import type { SourceImage } from '../context.ts'
import { texturePixels } from './texture-pixels.ts'

/** Where a rulebook's stock textures lie. */
const STOCK_FOLDER = 'stock/'

/**
 * A picture that a step is given by name: a texture of the item, or a picture file that was brought with it.
 * @example fileNameOf('maps/oak.png') // 'oak.png'
 */
export const fileNameOf = (path: string): string => path.split(/[\\/]/).pop() ?? path

/**
 * Picture files that were brought and that no texture of the item came from, the game's own left out: most likely what
 * is to be put in.
 *
 * @example const [likely] = unusedPictures(document, images)
 */
export function unusedPictures(document: Document, images: readonly SourceImage[] = []): string[] {
  const used = new Set(
    document
      .getRoot()
      .listTextures()
      .flatMap((texture) => [texture.getURI(), texture.getName(), fileNameOf(getTextureExtras(texture).written ?? '')]),
  )
  return images
    .filter((image) => !image.path.startsWith(STOCK_FOLDER))
    .map((image) => fileNameOf(image.path))
    .filter((name) => !used.has(name) && !used.has(name.replace(/\.[^.]*$/, '')))
}

/**
 * The names that `pictureByName` knows, files first.
 * @example const options = pictureNames(document, images)
 */
export function pictureNames(document: Document, images: readonly SourceImage[] = []): string[] {
  return [
    ...new Set([
      ...images.map((image) => fileNameOf(image.path)),
      ...document
        .getRoot()
        .listTextures()
        .map((texture) => texture.getName()),
    ]),
  ]
}

/**
 * The pixels of a picture by its name.
 * @throws PlainError when there is none, or it cannot be read
 *
 * @example const pixels = await pictureByName('oak.png', document, images)
 */
export async function pictureByName(
  name: string,
  document: Document,
  images: readonly SourceImage[] = [],
): Promise<Pixels> {
  const file = images.find((image) => fileNameOf(image.path) === name)
  if (file) {
    try {
      return (await decodeAnyImage(file.bytes)).pixels
    } catch (error) {
      throw new PlainError(
        `this picture cannot be read (${error instanceof Error ? error.message : String(error)})`,
        name,
        'Bring it again, for instance as PNG.',
      )
    }
  }
  const texture = document
    .getRoot()
    .listTextures()
    .find((each) => each.getName() === name)
  if (!texture)
    throw new PlainError(
      'there is no such picture at this place of the worklist',
      name || 'picture',
      'Choose another, or bring the file to the item.',
    )
  return texturePixels(texture)
}
