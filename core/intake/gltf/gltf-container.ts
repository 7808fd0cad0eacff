import { GLB_BUFFER, type GLTF, type JSONDocument } from '@gltf-transform/core'
import { z } from 'zod'
import { PlainError } from '../../support/plain-error.ts'
import { fileEnding, fileName, sourceText, type SourceFile } from '../source-file.ts'

const GLB_MAGIC = 0x46546c67
const JSON_CHUNK = 0x4e4f534a
const BINARY_CHUNK = 0x004e4942

/** The few fields that must have these shapes before anything else looks at them. */
const gltfJsonSchema = z.looseObject({
  asset: z.looseObject({ version: z.string() }),
  extensionsRequired: z.array(z.string()).optional(),
  buffers: z
    .array(z.looseObject({ uri: z.string().optional(), byteLength: z.number().int().nonnegative() }))
    .optional(),
  images: z.array(z.looseObject({ uri: z.string().optional(), mimeType: z.string().optional() })).optional(),
})

/** glTF 1 keeps its lists as objects by name; later versions say so in a number or a text. */
const olderVersionSchema = z.union([
  z.looseObject({ asset: z.looseObject({ version: z.union([z.string().regex(/^[013-9]/), z.literal(1)]) }) }),
  z.looseObject({
    asset: z.looseObject({ version: z.string().optional() }).optional(),
    meshes: z.record(z.string(), z.unknown()),
    accessors: z.record(z.string(), z.unknown()),
  }),
])

const again = 'Export it again, or copy it again if it was downloaded.'

/**
 * A GLB or glTF taken apart into its JSON and binary (glTF 2.0 specification, section 4.4).
 * @throws PlainError when the container is broken, is glTF 1, or is no glTF at all
 *
 * @example const { json, resources } = openGltf(file)
 */
export function openGltf(file: SourceFile): JSONDocument {
  const name = fileName(file.path)
  const container =
    fileEnding(file.path) === 'glb' ? openGlb(file.bytes, name) : { text: sourceText(file), binary: null }
  let data: unknown
  try {
    data = JSON.parse(container.text)
  } catch {
    throw new PlainError('its description is not readable JSON', name, again)
  }
  const older = olderVersionSchema.safeParse(data)
  if (older.success)
    throw new PlainError(
      `it is glTF ${older.data.asset?.version ?? 1}; glTF 2.0 is read`,
      name,
      'Export it as glTF 2.0.',
    )
  const parsed = gltfJsonSchema.safeParse(data)
  if (!parsed.success)
    throw new PlainError(
      `it is not glTF 2.0 (${parsed.error.issues[0].path.join('.') || 'asset'} is missing or wrong)`,
      name,
      again,
    )
  return {
    json: data as GLTF.IGLTF,
    resources: container.binary ? { [GLB_BUFFER]: container.binary as Uint8Array<ArrayBuffer> } : {},
  }
}

function openGlb(bytes: Uint8Array, name: string): { text: string; binary: Uint8Array | null } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  if (bytes.length < 20 || view.getUint32(0, true) !== GLB_MAGIC)
    throw new PlainError('it does not begin like a GLB', name, 'Check the ending of its name.')
  const version = view.getUint32(4, true)
  if (version !== 2) throw new PlainError(`it is glTF ${version}; glTF 2.0 is read`, name, 'Export it as glTF 2.0.')
  const promised = view.getUint32(8, true)
  if (promised > bytes.length)
    throw new PlainError(`it is cut off: ${bytes.length} of ${promised} bytes are there`, name, again)
  let text: string | null = null
  let binary: Uint8Array | null = null
  for (let offset = 12; offset + 8 <= promised;) {
    const length = view.getUint32(offset, true)
    const type = view.getUint32(offset + 4, true)
    const end = offset + 8 + length
    if (end > promised) throw new PlainError('one of its chunks runs past the end', name, again)
    if (type === JSON_CHUNK && text === null) text = new TextDecoder().decode(bytes.subarray(offset + 8, end))
    if (type === BINARY_CHUNK && binary === null) binary = bytes.slice(offset + 8, end)
    offset = end
  }
  if (text === null) throw new PlainError('it has no description chunk', name, again)
  return { text, binary }
}

/**
 * The JSON and the binary chunk, where there is one, as a GLB.
 * @example const glb = packGlb(openGltf(file))
 */
export function packGlb({ json, resources }: JSONDocument): Uint8Array {
  const text = new TextEncoder().encode(JSON.stringify(json))
  const binary = resources[GLB_BUFFER]
  const padded = (length: number): number => Math.ceil(length / 4) * 4
  const binaryBytes = binary ? 8 + padded(binary.length) : 0
  const file = new Uint8Array(20 + padded(text.length) + binaryBytes)
  const view = new DataView(file.buffer)
  const put = (offset: number, values: number[]): void =>
    values.forEach((value, index) => view.setUint32(offset + index * 4, value, true))
  put(0, [GLB_MAGIC, 2, file.length, padded(text.length), JSON_CHUNK])
  file.fill(32, 20, 20 + padded(text.length))
  file.set(text, 20)
  if (binary) {
    put(20 + padded(text.length), [padded(binary.length), BINARY_CHUNK])
    file.set(binary, 28 + padded(text.length))
  }
  return file
}

/**
 * Bytes of a base64 data URI, or null when the URI is not one.
 * @example dataUriBytes('gate.bin') // null
 */
export function dataUriBytes(uri: string): Uint8Array | null {
  const match = /^data:[^,]*;base64,/i.exec(uri.slice(0, 400))
  if (!match) return null
  const binary = atob(uri.slice(match[0].length))
  return Uint8Array.from(binary, (character) => character.charCodeAt(0))
}
