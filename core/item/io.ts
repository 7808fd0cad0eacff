import { Document, Logger, WebIO } from '@gltf-transform/core'
import {
  EXTMeshGPUInstancing,
  KHRLightsPunctual,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsUnlit,
  KHRMaterialsVariants,
  KHRMeshQuantization,
  KHRTextureTransform,
} from '@gltf-transform/extensions'
import { cloneDocument, unpartition } from '@gltf-transform/functions'
import { SourceMapsExtension } from './source-maps.ts'

/** A reader and writer with the extensions an item may use; silent, since messages are ours to word. */
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

/** An empty item document with one scene and one buffer. */
export function createDocument(sceneName: string): Document {
  const document = new Document().setLogger(new Logger(Logger.Verbosity.SILENT))
  document.createBuffer()
  const scene = document.createScene(sceneName)
  document.getRoot().setDefaultScene(scene)
  return document
}

/** The document as one GLB: how the state after a step is kept. */
export async function documentToGlb(document: Document): Promise<Uint8Array> {
  const copy = cloneDocument(document)
  await copy.transform(unpartition())
  return createIO().writeBinary(copy)
}

/** Reads a GLB that we wrote ourselves; foreign GLBs go through `intake`. */
export async function documentFromGlb(bytes: Uint8Array): Promise<Document> {
  const document = await createIO().readBinary(bytes)
  return document.setLogger(new Logger(Logger.Verbosity.SILENT))
}

/**
 * A copy that a step may change. Typed arrays are shared with the original: a step replaces
 * an array, it never writes into one it was given.
 */
export function copyDocument(document: Document): Document {
  return cloneDocument(document)
}
