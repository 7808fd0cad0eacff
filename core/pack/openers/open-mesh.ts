import type { Document } from '@gltf-transform/core'
import type { Rulebook } from '../../game/schema.ts'
import { assertBoundedGltf } from '../../item/gltf-bounds.ts'
import { createIO, documentFromGlb } from '../../item/io.ts'
import { PlainError } from '../../support/plain-error.ts'
import { openDae } from './open-dae.ts'
import { openObj } from './open-obj.ts'
import { openPartList } from './open-part-list.ts'

/** A mesh file of a pack, with the other files and what the item's entry says beside it. */
export interface PackedMesh {
  path: string
  bytes: Uint8Array
  files: ReadonlyMap<string, Uint8Array>
  beside: unknown
}

const openers: Record<
  Rulebook['files']['mesh']['writer'],
  (mesh: PackedMesh, rulebook: Rulebook) => Promise<Document>
> = {
  dae: openDae,
  glb: ({ bytes }) => documentFromGlb(bytes),
  async gltf({ path, bytes, files }) {
    const json = JSON.parse(new TextDecoder().decode(bytes)) as { buffers?: { uri?: string }[] }
    assertBoundedGltf(json, path)
    const resources: Record<string, Uint8Array<ArrayBuffer>> = {}
    for (const { uri = '' } of json.buffers ?? []) {
      const found = files.get(path.replace(/[^/]*$/, '') + decodeURIComponent(uri))
      if (!found) throw new Error(`${uri} is not beside it`)
      resources[uri] = found as Uint8Array<ArrayBuffer>
    }
    return createIO().readJSON({ json: json as never, resources })
  },
  obj: openObj,
  async 'part-list'(mesh, { halfBlocks, title }) {
    if (!halfBlocks) throw new PlainError('the game describes no half-blocks', title, 'Bring its whole rulebook.')
    return openPartList(mesh, halfBlocks)
  },
}

/**
 * A mesh file of a pack as a document in the game's axes, whatever the game's format.
 * @throws Error when it cannot be read
 *
 * @example const document = await openMesh({ path, bytes, files, beside }, rulebook)
 */
export const openMesh = (mesh: PackedMesh, rulebook: Rulebook): Promise<Document> =>
  openers[rulebook.files.mesh.writer](mesh, rulebook)
