import type { Texture } from '@gltf-transform/core'
import { getTextureExtras } from '../../item/extras.ts'
import { PlainError, plainMessage } from '../../support/plain-error.ts'
import { decodeDdsLevel } from '../../pictures/codecs/block-codec.ts'
import { ddsMimeType, readDdsHeader } from '../../pictures/codecs/dds.ts'
import { decodeJpeg } from '../../pictures/formats/jpeg.ts'
import { isRawPixels, readRawHeader, readRawPixels } from '../../pictures/formats/raw-pixels.ts'
import { decodePng, readImageHeader } from '../../pictures/image-codecs.ts'
import { pixelsOf } from '../../pictures/known-pixels.ts'
import type { Pixels } from '../../pictures/pixels.ts'
import { meaningOfRole, type Meaning } from '../../pictures/meaning.ts'

/** What a texture is made of, without decoding it. */
export interface TextureFacts {
  /** What it is, or, where a step left plain pixels, what they are written as. */
  format: 'png' | 'jpeg' | 'dds'
  codec: string | null
  /** Whether a compressed one says that it is sRGB; null where its codec knows no such thing. */
  srgb: boolean | null
  width: number
  height: number
  mipmaps: number
  bytes: number
}

/** BC4 and BC5 hold numbers alone. */
const knowsColourSpace: ReadonlySet<string | null> = new Set(['bc1', 'bc3', 'bc7'])

/**
 * What a texture is made of, from its header alone. Throws PlainError when it has no picture.
 *
 * @example const { width, height } = textureFacts(texture)
 */
export function textureFacts(texture: Texture): TextureFacts {
  const image = texture.getImage()
  if (!image) throw new PlainError('it has no picture', texture.getName(), 'Point to its file.')
  if (texture.getMimeType() === ddsMimeType) {
    const header = readDdsHeader(image)
    return {
      format: 'dds',
      codec: header.codec,
      srgb: knowsColourSpace.has(header.codec) ? header.srgb : null,
      width: header.width,
      height: header.height,
      mipmaps: header.mipmaps,
      bytes: image.byteLength,
    }
  }
  const raw = isRawPixels(image)
  const header = raw ? { type: 'image/png', ...readRawHeader(image) } : headerOf(texture, image)
  return {
    format: header.type === 'image/png' ? 'png' : 'jpeg',
    codec: null,
    srgb: null,
    width: header.width,
    height: header.height,
    mipmaps: 1,
    bytes: image.byteLength,
  }
}

/**
 * Bytes a texture takes on the graphics card: its levels when block-compressed, else 32 bits a pixel and a
 * third more for mipmaps.
 *
 * @example const bytes = facts.reduce((sum, each) => sum + textureMemory(each), 0)
 */
export function textureMemory(facts: TextureFacts): number {
  if (facts.format === 'dds') return facts.bytes - (facts.codec === null ? 128 : 148)
  return Math.round(facts.width * facts.height * 4 * (4 / 3))
}

/**
 * The first level of a texture as pixels, from whatever it is kept as; the caller's own to write into.
 *
 * @example const { width, height, data } = await texturePixels(texture)
 */
export async function texturePixels(texture: Texture): Promise<Pixels> {
  const image = texture.getImage()
  if (!image) throw new PlainError('it has no picture', texture.getName(), 'Point to its file.')
  if (isRawPixels(image)) {
    const pixels = readRawPixels(image)
    return { ...pixels, data: pixels.data.slice() }
  }
  const known = await pixelsOf(image, () => decode(texture, image))
  return { ...known, data: known.data.slice() }
}

async function decode(texture: Texture, image: Uint8Array): Promise<Pixels> {
  const { format, width, height } = textureFacts(texture)
  try {
    if (format === 'dds') return decodeDdsLevel(image, 0, width, height)
    return await (format === 'jpeg' ? decodeJpeg(image) : decodePng(image))
  } catch (error) {
    return damaged(texture, error)
  }
}

function headerOf(texture: Texture, image: Uint8Array): ReturnType<typeof readImageHeader> {
  try {
    return readImageHeader(image)
  } catch (error) {
    return damaged(texture, error)
  }
}

function damaged(texture: Texture, error: unknown): never {
  if (error instanceof PlainError) throw error
  throw new PlainError(
    `its picture cannot be read (${plainMessage(error)})`,
    texture.getName() || 'a texture',
    'Bring it again as PNG.',
  )
}

/**
 * How a texture's numbers are averaged, by its role.
 *
 * @example const half = resizePixels(pixels, width / 2, height / 2, meaningOf(texture))
 */
export function meaningOf(texture: Texture): Meaning {
  return meaningOfRole(getTextureExtras(texture).role)
}
