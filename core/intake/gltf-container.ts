import { GLB_BUFFER, type GLTF, type JSONDocument } from '@gltf-transform/core'
import { z } from 'zod'
import { PlainError } from '../document/plain-error.ts'
import { fileEnding, fileName, sourceText, type SourceFile } from './source-file.ts'

const GLB_MAGIC = 0x46546c67
const JSON_CHUNK = 0x4e4f534a
const BINARY_CHUNK = 0x004e4942

/** The few fields that must have these shapes before anything else looks at them. */
const gltfJsonSchema = z.looseObject({
  asset: z.looseObject({ version: z.string() }),
  extensionsRequired: z.array(z.string()).optional(),
  buffers: z.array(z.looseObject({ uri: z.string().optional(), byteLength: z.number().int().nonnegative() })).optional(),
  images: z.array(z.looseObject({ uri: z.string().optional(), mimeType: z.string().optional() })).optional(),
})

const again = 'Export it again, or copy it again if it was downloaded.'

/**
 * A GLB or glTF taken apart into its JSON and binary (glTF 2.0 specification, section 4.4).
 * @throws PlainError when the container is broken, is glTF 1, or is no glTF at all
 */
export function openGltf(file: SourceFile): JSONDocument {
  const name = fileName(file.path)
  const container = fileEnding(file.path) === 'glb' ? openGlb(file.bytes, name) : { text: sourceText(file), binary: null }
  let data: unknown
  try {
    data = JSON.parse(container.text)
  } catch {
    throw new PlainError('its description is not readable JSON', name, again)
  }
  const parsed = gltfJsonSchema.safeParse(data)
  if (!parsed.success) throw new PlainError(`it is not glTF 2.0 (${parsed.error.issues[0].path.join('.') || 'asset'} is missing or wrong)`, name, again)
  const version = parsed.data.asset.version
  if (!version.startsWith('2.')) throw new PlainError(`it is glTF ${version}; glTF 2.0 is read`, name, 'Export it as glTF 2.0.')
  return {
    json: data as GLTF.IGLTF,
    resources: container.binary ? { [GLB_BUFFER]: container.binary as Uint8Array<ArrayBuffer> } : {},
  }
}

function openGlb(bytes: Uint8Array, name: string): { text: string; binary: Uint8Array | null } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  if (bytes.length < 20 || view.getUint32(0, true) !== GLB_MAGIC) throw new PlainError('it does not begin like a GLB', name, 'Check the ending of its name.')
  const version = view.getUint32(4, true)
  if (version !== 2) throw new PlainError(`it is glTF ${version}; glTF 2.0 is read`, name, 'Export it as glTF 2.0.')
  const promised = view.getUint32(8, true)
  if (promised > bytes.length) throw new PlainError(`it is cut off: ${bytes.length} of ${promised} bytes are there`, name, again)
  let text: string | null = null
  let binary: Uint8Array | null = null
  for (let offset = 12; offset + 8 <= promised; ) {
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

/** Bytes of a base64 data URI, or null when the URI is not one. */
export function dataUriBytes(uri: string): Uint8Array | null {
  const match = /^data:[^,]*;base64,/i.exec(uri)
  if (!match) return null
  const binary = atob(uri.slice(match[0].length))
  return Uint8Array.from(binary, (character) => character.charCodeAt(0))
}
