import { Document, Logger, Texture, WebIO, type Property } from '@gltf-transform/core'
import {
  EXTMeshGPUInstancing,
  KHRLightsPunctual,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsUnlit,
  KHRMaterialsVariants,
  KHRMeshQuantization,
  KHRTextureTransform,
} from '@gltf-transform/extensions'
import { createDefaultPropertyResolver, mergeDocuments, unpartition } from '@gltf-transform/functions'
import { assertBoundedGltf } from './gltf-bounds.ts'
import './quiet-changes.ts'
import { SourceMapsExtension } from './source-maps.ts'

/**
 * A reader and writer with the extensions an item may use; silent, since messages are ours to word.
 * @example const document = await createIO().readBinary(bytes)
 */
export function createIO(): WebIO {
  return new WebIO()
    .setLogger(new Logger(Logger.Verbosity.SILENT))
    .registerExtensions([
      KHRLightsPunctual,
      KHRMaterialsEmissiveStrength,
      KHRMaterialsUnlit,
      KHRTextureTransform,
      KHRMeshQuantization,
      KHRMaterialsVariants,
      EXTMeshGPUInstancing,
      SourceMapsExtension,
    ])
}

/**
 * An empty item document with one scene and one buffer.
 *
 * @example const document = createDocument('gate')
 */
export function createDocument(sceneName: string): Document {
  const document = new Document().setLogger(new Logger(Logger.Verbosity.SILENT))
  document.createBuffer()
  const scene = document.createScene(sceneName)
  document.getRoot().setDefaultScene(scene)
  return document
}

/**
 * The document as one GLB; it stays as it is.
 * @example writeFileSync('gate.glb', await documentToGlb(document))
 */
export const documentToGlb = (document: Document): Promise<Uint8Array> => ownDocumentToGlb(copyDocument(document))

/**
 * The same of a document that is the caller's own and not needed any more: its buffers are put together in place.
 * @example const glb = await ownDocumentToGlb(copyDocument(document))
 */
export async function ownDocumentToGlb(document: Document): Promise<Uint8Array> {
  await document.transform(unpartition())
  return createIO().writeBinary(document)
}

/**
 * Reads a GLB as we write them: a kept state, or a mesh of a pack, which anyone may have made. Other GLBs go through
 * `intake`.
 * @throws PlainError when it claims more than is read; what the library throws when it is broken
 *
 * @example const document = await documentFromGlb(files.get('gate.glb'))
 */
export async function documentFromGlb(bytes: Uint8Array): Promise<Document> {
  const io = createIO()
  const opened = await io.binaryToJSON(bytes)
  assertBoundedGltf(opened.json, 'the mesh')
  const document = await io.readJSON(opened)
  return document.setLogger(new Logger(Logger.Verbosity.SILENT))
}

/**
 * A copy that a step may change. Numbers of meshes are copied; pictures are shared with the original, so that what is
 * known of one (its pixels, its hash) is known in every state: whoever changes a picture gives the texture another.
 *
 * @example const copy = copyDocument(document) // shares pictures, and nothing else
 */
export function copyDocument(document: Document): Document {
  const copy = new Document().setLogger(document.getLogger())
  const resolve = createDefaultPropertyResolver(copy, document)
  for (const [from, to] of mergeDocuments(copy, document, resolve)) {
    const image = from instanceof Texture ? from.getImage() : null
    if (image) (to as Texture).setImage(image)
  }
  copy.getRoot().copy(document.getRoot(), resolve as <T extends Property>(each: T) => T)
  return copy
}
