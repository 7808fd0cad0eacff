import { gltfSchema, type LoadedGltf } from './gltf-schema.ts'

const MAGIC = 0x46546c67
const JSON_CHUNK = 0x4e4f534a
const BINARY_CHUNK = 0x004e4942

/**
 * The two chunks of a GLB (glTF 2.0, section 4.4): a header of twelve bytes, the JSON, and the one buffer that it
 * speaks of.
 * @throws Error with a short reason
 *
 * @example const { gltf, binary } = openContainer(bytes)
 */
export function openContainer(bytes: Uint8Array): { gltf: LoadedGltf; binary: Uint8Array } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  if (bytes.length < 20 || view.getUint32(0, true) !== MAGIC || view.getUint32(4, true) !== 2)
    throw new Error('not a binary glTF 2')
  if (view.getUint32(8, true) > bytes.length) throw new Error('cut off')
  if (view.getUint32(8, true) < bytes.length)
    throw new Error(`${bytes.length - view.getUint32(8, true)} bytes more than its header says`)
  const jsonLength = view.getUint32(12, true)
  if (view.getUint32(16, true) !== JSON_CHUNK || jsonLength % 4 !== 0 || 20 + jsonLength > bytes.length)
    throw new Error('its first chunk is not whole')
  const parsed = gltfSchema.safeParse(
    JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes.subarray(20, 20 + jsonLength))),
  )
  if (!parsed.success) throw new Error(`wrong at ${parsed.error.issues[0].path.join('.') || 'its beginning'}`)
  const gltf = parsed.data
  const binary = binaryChunk(bytes, view, 20 + jsonLength)
  if (gltf.buffers.length > 1 || gltf.buffers.some((buffer) => buffer.uri !== undefined))
    throw new Error('it keeps its numbers in another file')
  const promised = gltf.buffers[0]?.byteLength ?? 0
  if (promised > binary.length) throw new Error('its buffer is cut off')
  return { gltf, binary: binary.subarray(0, promised) }
}

function binaryChunk(bytes: Uint8Array, view: DataView, start: number): Uint8Array {
  if (start === bytes.length) return new Uint8Array(0)
  if (start + 8 > bytes.length || view.getUint32(start + 4, true) !== BINARY_CHUNK)
    throw new Error('its second chunk is not whole')
  const end = start + 8 + view.getUint32(start, true)
  if (end > bytes.length) throw new Error('its second chunk is not whole')
  return bytes.subarray(start + 8, end)
}
