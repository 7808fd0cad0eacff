import { sha256Hex } from '../support/hashing.ts'

const hashes = new WeakMap<Uint8Array, string>()

/**
 * SHA-256 of a picture's bytes, made once for each array: states share the pictures that a step leaves alone.
 * @example const once = new Map(textures.map((texture) => [pictureHash(texture.getImage()), texture]))
 */
export function pictureHash(image: Uint8Array): string {
  const known = hashes.get(image)
  if (known !== undefined) return known
  const made = sha256Hex(image)
  hashes.set(image, made)
  return made
}
