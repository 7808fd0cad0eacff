import type { Rulebook } from '../game/schema.ts'
import { writeArchive } from '../support/archive.ts'
import { sha256Hex } from '../support/hashing.ts'
import type { FileFacts, LeftOut, PackedFile } from './packed-file.ts'
import { writeRecord } from './records/index.ts'

/** An archive of the game with what is known of its files. */
export interface Pack {
  bytes: Uint8Array
  sha256: string
  /** In the order in which they lie in the archive. */
  files: FileFacts[]
  /** The same with their bytes. */
  contents: PackedFile[]
  leftOut: LeftOut[]
}

/** What a manifest says of the pack as a whole. */
export interface PackHead {
  title: string
  items: { name: string; kind: string }[]
}

/**
 * One archive of files, with a manifest of sizes and checksums where the game has one. Equal files give equal bytes.
 */
export function archiveFiles(
  made: readonly PackedFile[],
  { title, items }: PackHead,
  rulebook: Rulebook,
  leftOut: LeftOut[],
): Pack {
  const { manifest: asked, archive } = rulebook.files
  const facts = made.map(({ path, bytes, sort, askedBy, written }): FileFacts => ({
    path,
    bytes: bytes.length,
    sha256: sha256Hex(bytes),
    sort,
    askedBy,
    ...(written === undefined ? {} : { written }),
  }))
  const contents = [...made]
  if (asked.writer !== 'none') {
    const manifest = {
      game: rulebook.id,
      version: rulebook.version,
      title,
      items,
      files: facts.map(({ path, bytes, sha256 }) => ({
        path,
        bytes,
        ...(asked.checksums === 'sha256' ? { sha256 } : {}),
      })),
    }
    const bytes = writeRecord('manifest', manifest, rulebook)
    const askedBy = [{ item: null, by: 'the loader, before anything else' }]
    contents.unshift({ path: asked.path, bytes, sort: 'manifest', askedBy })
    facts.unshift({ path: asked.path, bytes: bytes.length, sha256: sha256Hex(bytes), sort: 'manifest', askedBy })
  }
  const bytes = writeArchive(contents, archive.writer, archive.folders)
  return { bytes, sha256: sha256Hex(bytes), files: facts, contents, leftOut }
}
