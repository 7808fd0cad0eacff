import type { Document } from '@gltf-transform/core'
import type { AxisName } from '../maths/axes.ts'
import type { SourceFile } from './source-file.ts'

/** What the modder says about a source that the file itself does not. */
export interface ReadOptions {
  metresPerUnit?: number
  up?: AxisName
  forward?: AxisName
  /** Written texture path → path of the file that was pointed to by hand. */
  links?: Readonly<Record<string, string>>
  /** Whether a file that holds nodes and no triangles is read too: bones for a game's stock. */
  bonesAlone?: boolean
  /** The source is an item's state, written by us: read as it stands, with its units, roles and looks. */
  asState?: boolean
  /** Names of the models that the item's kind has, where it has several: each is a mesh file of its own. */
  models?: readonly string[]
  /** Told as the reading goes on: a share from 0 to 1 and what is being done. */
  onProgress?: (fraction: number, doing: string) => void
}

/** A mesh file read into an item document, and the files that went into it. */
export interface MeshReading {
  document: Document
  usedPaths: Set<string>
}

/** Reads one mesh format. Every reader is bounded and throws PlainError for what it cannot take. */
export type MeshReader = (main: SourceFile, files: readonly SourceFile[], options: ReadOptions) => Promise<MeshReading>
