import { readGltfNodes } from './gltf-nodes.ts'
import { gltfSchema } from './gltf-schema.ts'
import type { MeshLoader } from './loaded-mesh.ts'

/**
 * glTF 2.0 as JSON, its numbers in one file beside it.
 * @example const { nodes, clips } = loadGltf({ ...files, rulebook })
 */
export const loadGltf: MeshLoader = ({ path, bytes, archive }) => {
  const parsed = gltfSchema.safeParse(JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes)))
  if (!parsed.success) throw new Error(`wrong at ${parsed.error.issues[0].path.join('.') || 'its beginning'}`)
  const { buffers } = parsed.data
  if (buffers.length > 1) throw new Error('it keeps its numbers in several files')
  const { uri, byteLength } = buffers[0] ?? {}
  if (buffers.length > 0 && (uri === undefined || /^data:|[\\/]/.test(uri)))
    throw new Error('its numbers are not beside it')
  const binary =
    uri === undefined ? new Uint8Array(0) : archive.get(path.replace(/[^/]*$/, '') + decodeURIComponent(uri))
  if (!binary) throw new Error(`${uri} is not beside it`)
  if ((byteLength ?? 0) > binary.length) throw new Error('its buffer is cut off')
  return readGltfNodes(parsed.data, binary.subarray(0, byteLength ?? 0))
}
