import { ImageUtils, type Document, type JSONDocument, type Material, type Texture } from '@gltf-transform/core'
import { validateBytes } from 'gltf-validator'
import { setMaterialExtras, setRootExtras, setTextureExtras, type TextureReference, type TextureRole } from '../document/extras.ts'
import { createIO } from '../document/io.ts'
import { PlainError } from '../document/plain-error.ts'
import { dataUriBytes, openGltf } from './gltf-container.ts'
import { provenHeader } from './images.ts'
import type { MeshReading, ReadOptions } from './reader.ts'
import { fileName, type SourceFile } from './source-file.ts'
import { findTexture } from './texture-search.ts'

/** Validator codes after which a file cannot be trusted to be what it says; all others are tolerated. */
const fatalCodes =
  /^(GLB_|INVALID_JSON|TYPE_MISMATCH|ARRAY_TYPE|UNDEFINED_PROPERTY|UNRESOLVED_REFERENCE|NODE_LOOP|NODE_PARENT_OVERRIDE|SCENE_NON_ROOT|BUFFER_|ACCESSOR_(TOO_LONG|INDEX_OOB|INVALID_FLOAT|SPARSE_INDEX)|VALUE_NOT_IN|UNKNOWN_ASSET_MAJOR|GLTF_INVALID)/

/** Extensions without which a file means something else, and which this reader knows. */
const knownRequired = new Set(['KHR_texture_transform', 'KHR_mesh_quantization', 'KHR_materials_unlit', 'KHR_lights_punctual', 'EXT_mesh_gpu_instancing'])

/** Reads GLB, and glTF with its binary and images beside it or inside. Unit (1 m) and axes (+Y up, +Z forward) are those of the standard. */
export async function readGltf(main: SourceFile, files: readonly SourceFile[], options: ReadOptions): Promise<MeshReading> {
  const name = fileName(main.path)
  const opened = openGltf(main)
  const unknown = opened.json.extensionsRequired?.find((extension) => !knownRequired.has(extension))
  if (unknown) throw new PlainError(`it needs ${unknown}, which is not read`, name, 'Export it without compression.')
  const used = new Set([main.path])
  const document = await orSayWhy(name, async () => {
    const missing = await resolveResources(opened, main, files, options, used)
    await validate(main, opened)
    const read = await createIO().readJSON(opened)
    collectReferences(read, missing)
    return read
  })
  const root = document.getRoot()
  if (root.listScenes().length === 0) throw new PlainError('it has no scene', name, 'Export it with its scene.')
  setRootExtras(root, { units: { metresPerUnit: 1, from: 'declared' }, axes: { up: '+y', forward: '+z', from: 'declared' } })
  return { document, usedPaths: used }
}

/** The libraries below throw all sorts of things at malformed JSON; the modder gets a sentence. */
async function orSayWhy<T>(name: string, read: () => Promise<T>): Promise<T> {
  try {
    return await read()
  } catch (error) {
    if (error instanceof PlainError) throw error
    const reason = (error instanceof Error ? error.message : String(error)).split('\n')[0].slice(0, 160)
    throw new PlainError(`it cannot be read (${reason})`, name, 'Export it again.')
  }
}

/** Puts the bytes of every buffer and image under its URI; returns the written paths of images that are not there. */
async function resolveResources(opened: JSONDocument, main: SourceFile, files: readonly SourceFile[], options: ReadOptions, used: Set<string>): Promise<Set<string>> {
  const missing = new Set<string>()
  const name = fileName(main.path)
  for (const [index, buffer] of (opened.json.buffers ?? []).entries()) {
    if (buffer.uri === undefined) continue
    const bytes = dataUriBytes(buffer.uri) ?? take(findTexture(decodeURI(buffer.uri), files), used)
    if (!bytes) throw new PlainError(`its data file “${buffer.uri.slice(0, 80)}” is missing`, name, 'Bring that file along with it.')
    if (bytes.length < buffer.byteLength) throw new PlainError(`its data file has ${bytes.length} of ${buffer.byteLength} bytes`, name, 'Copy it again.')
    buffer.uri = `buffer-${index}.bin`
    opened.resources[buffer.uri] = bytes as Uint8Array<ArrayBuffer>
  }
  for (const [index, image] of (opened.json.images ?? []).entries()) {
    if (image.uri === undefined) continue
    const embedded = dataUriBytes(image.uri)
    const written = embedded ? `image-${index}.png` : decodeURI(image.uri)
    const bytes = embedded ?? take(findTexture(written, files, options.links), used)
    image.uri = `${index}/${written}`
    if (bytes) opened.resources[image.uri] = bytes as Uint8Array<ArrayBuffer>
    else {
      opened.resources[image.uri] = new Uint8Array(1)
      missing.add(image.uri)
    }
  }
  return missing
}

function take(file: SourceFile | null, used: Set<string>): Uint8Array | null {
  if (file) used.add(file.path)
  return file?.bytes ?? null
}

async function validate(main: SourceFile, opened: JSONDocument): Promise<void> {
  // Where data stands beside the file, its URIs were rewritten to the bytes that were found: the rewritten text is what is checked.
  const dataBeside = opened.json.buffers?.some((buffer) => buffer.uri !== undefined) === true
  const bytes = dataBeside ? new TextEncoder().encode(JSON.stringify(opened.json)) : main.bytes
  const report = await validateBytes(bytes, {
    maxIssues: 1000,
    writeTimestamp: false,
    externalResourceFunction: (uri) => {
      const resource = opened.resources[uri]
      return resource ? Promise.resolve(resource) : Promise.reject(new Error('not checked'))
    },
  })
  const fatal = report.issues.messages.find((message) => message.severity === 0 && fatalCodes.test(message.code))
  if (fatal) throw new PlainError(`it is broken at ${fatal.pointer || 'its start'}: ${fatal.message}`, fileName(main.path), 'Export it again.')
}

function collectReferences(document: Document, missing: Set<string>): void {
  for (const material of document.getRoot().listMaterials()) {
    const references: TextureReference[] = []
    const note = (role: TextureRole, texture: Texture | null): void => {
      if (!texture) return
      const uri = texture.getURI()
      const written = uri.replace(/^\d+\//, '') || texture.getName()
      references.push({ role, path: written, found: missing.has(uri) ? null : written })
    }
    note('colour', material.getBaseColorTexture())
    note('normal', material.getNormalTexture())
    note('mixed', material.getMetallicRoughnessTexture() ?? material.getOcclusionTexture())
    note('other', material.getEmissiveTexture())
    setMaterialExtras(material, { references })
  }
  for (const texture of document.getRoot().listTextures()) {
    const uri = texture.getURI()
    if (missing.has(uri)) {
      texture.dispose()
      continue
    }
    const written = uri.replace(/^\d+\//, '')
    const image = texture.getImage()
    const name = texture.getName() || written.replace(/\.[^.]*$/, '') || 'texture'
    if (image) {
      const header = provenHeader(image, written || name)
      texture.setMimeType(header.type).setURI(written || `${name}.${ImageUtils.mimeTypeToExtension(header.type)}`)
    }
    setTextureExtras(texture.setName(name), { role: roleOf(texture), written: written || name })
  }
}

function roleOf(texture: Texture): TextureRole {
  for (const parent of texture.listParents()) {
    if (parent.propertyType !== 'Material') continue
    const material = parent as Material
    if (material.getBaseColorTexture() === texture) return 'colour'
    if (material.getNormalTexture() === texture) return 'normal'
    if (material.getMetallicRoughnessTexture() === texture || material.getOcclusionTexture() === texture) return 'mixed'
  }
  return 'other'
}
