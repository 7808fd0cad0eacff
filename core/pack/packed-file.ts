import type { ArchiveFile } from '../support/archive.ts'

/** What a file of a pack is for. */
export const fileSorts = ['manifest', 'entry', 'mesh', 'look', 'material', 'map'] as const
export type FileSort = (typeof fileSorts)[number]

/** Who asks for a file: an item of the pack, and what of it names the file. */
export interface Asker {
  /** The item's name in the game; null where the pack as a whole asks. */
  item: string | null
  by: string
}

/** A file of a pack with why it is there. */
export interface PackedFile extends ArchiveFile {
  sort: FileSort
  askedBy: Asker[]
  /** Where the source said that it lies, for a map that came with one. */
  written?: string
}

/** What is known of a file that was packed, without its bytes. */
export interface FileFacts {
  path: string
  bytes: number
  sha256: string
  sort: FileSort
  askedBy: Asker[]
  written?: string
}

/** Something that could have been in a pack and is not. */
export interface LeftOut {
  /** A path, or a name where it never had one. */
  what: string
  item: string | null
  why: string
}
