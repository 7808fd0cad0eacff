import type { Document } from '@gltf-transform/core'
import { pictureHash } from '../pictures/picture-hash.ts'
import { copyDocument, documentFromGlb, ownDocumentToGlb } from '../item/io.ts'

/**
 * An item as a step left it, for keeping: its pictures stand beside it, so that states which share one keep it once.
 */
export interface KeptState {
  /** A GLB whose images hold, instead of a picture, the text of its hash. */
  glb: Uint8Array
  /** The pictures by SHA-256 of their bytes. */
  pictures: ReadonlyMap<string, Uint8Array>
}

/**
 * @returns the state of an item; the item stays as it is, and its pictures are not copied
 * @example const { glb } = await keepState(document)
 */
export async function keepState(document: Document): Promise<KeptState> {
  const pictures = new Map<string, Uint8Array>()
  const copy = copyDocument(document)
  for (const texture of copy.getRoot().listTextures()) {
    const image = texture.getImage()
    if (!image) continue
    const hash = pictureHash(image)
    if (!pictures.has(hash)) pictures.set(hash, image)
    texture.setImage(new TextEncoder().encode(hash))
  }
  return { glb: await ownDocumentToGlb(copy), pictures }
}

/** The hashes of the pictures that a kept GLB asks for are its images' text: 64 hexadecimal digits. */
const hashPattern = /^[0-9a-f]{64}$/

/**
 * The item of a kept state.
 * @param pictureOf gives a picture by its hash
 * @returns null where a picture is no longer there, so that the state is made anew
 *
 * @example const document = await openState(glb, (hash) => Promise.resolve(pictures.get(hash) ?? null))
 */
export async function openState(
  glb: Uint8Array,
  pictureOf: (hash: string) => Promise<Uint8Array | null>,
): Promise<Document | null> {
  const document = await documentFromGlb(glb)
  for (const texture of document.getRoot().listTextures()) {
    const image = texture.getImage()
    if (!image) continue
    const hash = new TextDecoder().decode(image)
    const picture = hashPattern.test(hash) ? await pictureOf(hash) : null
    if (!picture) return null
    texture.setImage(picture as Uint8Array<ArrayBuffer>)
  }
  return document
}
