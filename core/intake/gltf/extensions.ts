import { WebIO, Logger, type Document, type Material, type Texture } from '@gltf-transform/core'
import {
  EXTMeshGPUInstancing,
  EXTMeshoptCompression,
  EXTTextureWebP,
  KHRDracoMeshCompression,
  KHRLightsPunctual,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsPBRSpecularGlossiness,
  KHRMaterialsUnlit,
  KHRMaterialsVariants,
  KHRMeshQuantization,
  KHRTextureBasisu,
  KHRTextureTransform,
  type PBRSpecularGlossiness,
} from '@gltf-transform/extensions'
import { dequantize } from '@gltf-transform/functions'
import { noteGivenUp } from '../../item/given-up.ts'
import { assetBytes } from '../../support/asset-files.ts'

/**
 * What this reader understands. Everything else of a file is passed over, or refused where the file says it must not
 * be.
 */
const readable = [
  KHRLightsPunctual,
  KHRMaterialsUnlit,
  KHRTextureTransform,
  KHRMeshQuantization,
  EXTMeshGPUInstancing,
  KHRDracoMeshCompression,
  EXTMeshoptCompression,
  EXTTextureWebP,
  KHRTextureBasisu,
  KHRMaterialsPBRSpecularGlossiness,
  KHRMaterialsVariants,
  KHRMaterialsEmissiveStrength,
]

/** Extensions that say how a file looks, not what it holds: without them it looks plainer. */
const harmless = [
  'KHR_materials_clearcoat',
  'KHR_materials_ior',
  'KHR_materials_iridescence',
  'KHR_materials_sheen',
  'KHR_materials_specular',
  'KHR_materials_transmission',
  'KHR_materials_volume',
  'KHR_materials_anisotropy',
  'KHR_materials_dispersion',
  'KHR_xmp_json_ld',
  'KHR_animation_pointer',
  'KHR_technique_webgl',
  'KHR_techniques_webgl',
]

export const harmlessExtensions: ReadonlySet<string> = new Set(harmless)
export const readableExtensions: ReadonlySet<string> = new Set([
  ...readable.map((extension) => extension.EXTENSION_NAME),
  ...harmless,
])

/** Extensions that an item keeps; the others are how a file was packed, and are gone once it is unpacked. */
const kept = new Set<string>(
  [
    KHRLightsPunctual,
    KHRMaterialsEmissiveStrength,
    KHRMaterialsUnlit,
    KHRMaterialsVariants,
    KHRTextureTransform,
    EXTMeshGPUInstancing,
  ].map((extension) => extension.EXTENSION_NAME),
)

let draco: Promise<unknown> | null = null

async function startDraco(): Promise<unknown> {
  const { default: createDraco } = await import('draco3dgltf/draco_decoder_gltf_nodejs.js')
  return createDraco({ wasmBinary: await assetBytes('draco') })
}

/**
 * A reader that knows what a file uses; decoders are loaded only for files that need them.
 * @example const io = await createIntakeIO(json.extensionsUsed)
 */
export async function createIntakeIO(used: readonly string[]): Promise<WebIO> {
  const io = new WebIO().setLogger(new Logger(Logger.Verbosity.SILENT)).registerExtensions(readable)
  if (used.includes(KHRDracoMeshCompression.EXTENSION_NAME)) {
    draco ??= startDraco()
    io.registerDependencies({ 'draco3d.decoder': await draco })
  }
  if (used.includes(EXTMeshoptCompression.EXTENSION_NAME)) {
    const { MeshoptDecoder } = await import('meshoptimizer')
    await MeshoptDecoder.ready
    io.registerDependencies({ 'meshopt.decoder': MeshoptDecoder })
  }
  return io
}

/**
 * Turns a document into plain glTF: whole floats, the usual material model, no packing.
 * @example await makePlain(await io.readJSON(opened))
 */
export async function makePlain(document: Document): Promise<void> {
  for (const material of document.getRoot().listMaterials()) useUsualModel(document, material)
  await document.transform(dequantize())
  for (const extension of document.getRoot().listExtensionsUsed())
    if (!kept.has(extension.extensionName)) extension.dispose()
}

/** The archived specular-glossiness model: its diffuse becomes the base colour, glossiness is roughness turned over. */
function useUsualModel(document: Document, material: Material): void {
  const old = material.getExtension<PBRSpecularGlossiness>(KHRMaterialsPBRSpecularGlossiness.EXTENSION_NAME)
  if (!old) return
  const picture: Texture | null = old.getDiffuseTexture()
  material
    .setBaseColorFactor(old.getDiffuseFactor())
    .setMetallicFactor(0)
    .setRoughnessFactor(1 - old.getGlossinessFactor())
  if (old.getSpecularGlossinessTexture()) {
    noteGivenUp(document, {
      what: 'Shine by map',
      where: material.getName(),
      message:
        `${material.getName()} has a map of gloss and reflection in the archived specular-glossiness model; its ` +
        'overall gloss is kept, the map is left out',
      why: 'Games of this kind read roughness and metalness.',
    })
  }
  if (picture) {
    material.setBaseColorTexture(picture)
    const [from, to] = [old.getDiffuseTextureInfo(), material.getBaseColorTextureInfo()]
    if (from && to) to.copy(from)
  }
}
