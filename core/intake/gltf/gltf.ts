import { Logger, type JSONDocument } from '@gltf-transform/core'
import { getRootExtras, setRootExtras } from '../../item/extras.ts'
import { assertBoundedGltf } from '../../item/gltf-bounds.ts'
import { noteGivenUp } from '../../item/given-up.ts'
import { dropFalsePolygons } from '../../item/polygons.ts'
import { PlainError } from '../../support/plain-error.ts'
import { createIntakeIO, harmlessExtensions, makePlain, readableExtensions } from './extensions.ts'
import { dataUriBytes, openGltf, packGlb } from './gltf-container.ts'
import { collectTextures, type ImageSources } from './textures.ts'
import { bakeMorphTargets, makeInstancesReal } from './plain-meshes.ts'
import type { MeshReading, ReadOptions } from '../reader.ts'
import { fileName, type SourceFile } from '../source-file.ts'
import { findTexture } from '../texture-search.ts'

/** Validator codes after which a file cannot be trusted to be what it says; all others are tolerated. */
const fatalCodes =
  /^(GLB_|INVALID_JSON|TYPE_MISMATCH|ARRAY_TYPE|UNDEFINED_PROPERTY|UNRESOLVED_REFERENCE|NODE_LOOP|NODE_PARENT_OVERRIDE|SCENE_NON_ROOT|BUFFER_|ACCESSOR_(TOO_LONG|INDEX_OOB|INVALID_FLOAT|SPARSE_INDEX)|VALUE_NOT_IN|UNKNOWN_ASSET_MAJOR|GLTF_INVALID)/

/**
 * Reads GLB, and glTF with its binary and images beside it or inside. Unit (1 m) and axes (+Y up, +Z forward) are those
 * of the standard.
 *
 * @example const { document } = await readGltf(main, files, {})
 */
export async function readGltf(
  main: SourceFile,
  files: readonly SourceFile[],
  options: ReadOptions,
): Promise<MeshReading> {
  const name = fileName(main.path)
  const opened = openGltf(main)
  assertBoundedGltf(opened.json, name)
  const unknown = opened.json.extensionsRequired?.find((extension) => !readableExtensions.has(extension))
  if (unknown) throw new PlainError(`it needs ${unknown}, which is not read`, name, 'Export it without that extension.')
  // What only says how it looks is not needed to read it, whatever the file demands.
  if (opened.json.extensionsRequired)
    opened.json.extensionsRequired = opened.json.extensionsRequired.filter(
      (extension) => !harmlessExtensions.has(extension),
    )
  const used = new Set([main.path])
  const document = await orSayWhy(name, async () => {
    options.onProgress?.(0, 'Finding data and images')
    const images = await resolveResources(opened, files, options, used, name)
    options.onProgress?.(0.2, 'Checking the file')
    await validate(name, opened)
    options.onProgress?.(0.6, 'Unpacking')
    const io = await createIntakeIO(opened.json.extensionsUsed ?? [])
    const read = (await io.readJSON(opened)).setLogger(new Logger(Logger.Verbosity.SILENT))
    await makePlain(read)
    for (const extension of opened.json.extensionsUsed ?? []) {
      if (harmlessExtensions.has(extension) && extension.startsWith('KHR_materials_'))
        noteGivenUp(read, {
          what: 'A finer material',
          where: extension,
          message: `The file uses ${extension}; materials look plainer without it`,
          why: 'Games of this kind read colour, relief, gloss, metal and glow.',
        })
    }
    await makeInstancesReal(read, name)
    bakeMorphTargets(read)
    dropFalsePolygons(read)
    await collectTextures(read, images, options.links ?? {})
    return read
  })
  const root = document.getRoot()
  if (root.listScenes().length === 0) throw new PlainError('it has no scene', name, 'Export it with its scene.')
  setRootExtras(root, {
    ...getRootExtras(root),
    units: { metresPerUnit: 1, from: 'declared' },
    axes: { up: '+y', forward: '+z', from: 'declared' },
  })
  return { document, usedPaths: used }
}

/** The libraries below throw all sorts of things at malformed JSON; the modder gets a sentence. */
async function orSayWhy<T>(name: string, read: () => Promise<T>): Promise<T> {
  try {
    return await read()
  } catch (error) {
    if (error instanceof PlainError) throw error
    // A TypeError here is a library stumbling over parts that are not what they should be; its wording helps nobody.
    const reason =
      error instanceof TypeError
        ? 'it refers to things that are not there'
        : (error instanceof Error ? error.message : String(error)).split('\n')[0].slice(0, 160)
    throw new PlainError(`it cannot be read (${reason})`, name, 'Export it again.')
  }
}

/** Puts the bytes of every buffer and image under its URI; tells for each image URI what was found. */
async function resolveResources(
  opened: JSONDocument,
  files: readonly SourceFile[],
  options: ReadOptions,
  used: Set<string>,
  name: string,
): Promise<ImageSources> {
  const images: ImageSources = new Map()
  for (const [index, buffer] of (opened.json.buffers ?? []).entries()) {
    if (buffer.uri === undefined) continue
    const bytes = dataUriBytes(buffer.uri) ?? take(findTexture(decodePath(buffer.uri), files), used)
    if (!bytes)
      throw new PlainError(
        `its data file “${buffer.uri.slice(0, 80)}” is missing`,
        name,
        'Bring that file along with it.',
      )
    if (bytes.length < buffer.byteLength)
      throw new PlainError(`its data file has ${bytes.length} of ${buffer.byteLength} bytes`, name, 'Copy it again.')
    buffer.uri = `buffer-${index}.bin`
    opened.resources[buffer.uri] = bytes as Uint8Array<ArrayBuffer>
  }
  for (const [index, image] of (opened.json.images ?? []).entries()) {
    if (image.uri === undefined) continue
    const embedded = dataUriBytes(image.uri)
    const written = embedded ? `image-${index}` : decodePath(image.uri)
    const file = embedded ? null : findTexture(written, files, options.links)
    const bytes = embedded ?? take(file, used)
    image.uri = `${index}/${written}`
    images.set(image.uri, { written, found: embedded ? 'inside the file' : (file?.path ?? null) })
    opened.resources[image.uri] = (bytes ?? new Uint8Array(1)) as Uint8Array<ArrayBuffer>
  }
  return images
}

/** URIs are percent-encoded; one that is not rightly so is taken as it stands. */
function decodePath(uri: string): string {
  try {
    return decodeURIComponent(uri)
  } catch {
    return uri
  }
}

function take(file: SourceFile | null, used: Set<string>): Uint8Array | null {
  if (file) used.add(file.path)
  return file?.bytes ?? null
}

/** Checks what will be read: the JSON with its URIs rewritten to what was found, and the binary chunk. */
async function validate(name: string, opened: JSONDocument): Promise<void> {
  const { validateBytes } = await import('gltf-validator')
  const report = await validateBytes(packGlb(opened), {
    maxIssues: 1000,
    writeTimestamp: false,
    externalResourceFunction: (uri) => {
      const resource = opened.resources[uri]
      return resource && uri.startsWith('buffer-')
        ? Promise.resolve(resource)
        : Promise.reject(new Error('not checked'))
    },
  })
  const fatal = report.issues.messages.find((message) => message.severity === 0 && fatalCodes.test(message.code))
  if (fatal)
    throw new PlainError(
      `it is broken at ${fatal.pointer || 'its start'}: ${fatal.message.replace(/\.$/, '')}`,
      name,
      'Export it again.',
    )
}
