import type { Document } from '@gltf-transform/core'
import type { Rulebook } from '../../../game/schema.ts'
import type { ArchiveFile } from '../../../support/archive.ts'

/** What a mesh is written from: a document that is the game's already, and where its files go. */
export interface MeshToWrite {
  document: Document
  /** The path of the mesh file in the pack. */
  path: string
  /** The game's words for what the format holds. */
  rulebook: Rulebook
}

/** The files of a mesh, the mesh itself first, and what they cannot hold, for the item's entry. */
export interface WrittenMesh {
  files: ArchiveFile[]
  entry: Record<string, unknown>
}

/** Writes a mesh in one format. */
export type MeshWriter = (mesh: MeshToWrite) => Promise<WrittenMesh>

/**
 * A path with another ending.
 * @example withEnding('items/gate.obj', '.mtl') // 'items/gate.mtl'
 */
export const withEnding = (path: string, ending: string): string => path.replace(/(\.[^./]*)?$/, ending)
