import type { Rulebook } from '../game/schema.ts'
import { readArchive } from '../support/archive.ts'
import { archivePiece, joinPieces, type ArchivePiece } from '../support/archive-pieces.ts'
import { sha256Hex } from '../support/hashing.ts'
import type { FileFacts, LeftOut, PackedFile } from './packed-file.ts'
import { writeRecord } from './records/index.ts'

/** An archive of the game with what is known of its files. */
export interface Pack {
  bytes: Uint8Array
  sha256: string
  /** In the order in which they lie in the archive. */
  files: FileFacts[]
  leftOut: LeftOut[]
}

/** What a manifest says of the pack as a whole. */
export interface PackHead {
  title: string
  items: { name: string; kind: string }[]
}

/** A file that is ready to lie in an archive: what is known of it, and the piece of the archive that it is. */
export interface ReadyFile extends FileFacts {
  piece: ArchivePiece
}

/**
 * Makes a file ready for the game's archive; its bytes are not needed after that.
 * @example const ready = files.map((file) => readyFile(file, rulebook))
 */
export const readyFile = (
  { path, bytes, sort, askedBy, written }: PackedFile,
  { files: { archive } }: Rulebook,
): ReadyFile => ({
  path,
  bytes: bytes.length,
  sha256: sha256Hex(bytes),
  sort,
  askedBy,
  ...(written === undefined ? {} : { written }),
  piece: archivePiece(path, bytes, archive.writer),
})

/**
 * One archive of files, with a manifest of sizes and checksums where the game has one. Equal files give equal bytes.
 *
 * @example const pack = archiveFiles(made, head, rulebook, [])
 */
export const archiveFiles = (
  made: readonly PackedFile[],
  head: PackHead,
  rulebook: Rulebook,
  leftOut: LeftOut[],
): Pack =>
  archiveReady(
    made.map((file) => readyFile(file, rulebook)),
    head,
    rulebook,
    leftOut,
  )

/**
 * The same of files that are ready.
 * @example const { bytes } = archiveReady(ready, { title, items }, rulebook, [])
 */
export function archiveReady(
  made: readonly ReadyFile[],
  { title, items }: PackHead,
  rulebook: Rulebook,
  leftOut: LeftOut[],
): Pack {
  const { manifest: asked, archive } = rulebook.files
  const all = [...made]
  if (asked.writer !== 'none') {
    const manifest = {
      game: rulebook.id,
      version: rulebook.version,
      title,
      items,
      files: made.map(({ path, bytes, sha256 }) => ({
        path,
        bytes,
        ...(asked.checksums === 'sha256' ? { sha256 } : {}),
      })),
    }
    const bytes = writeRecord('manifest', manifest, rulebook)
    const askedBy = [{ item: null, by: 'the loader, before anything else' }]
    all.unshift(readyFile({ path: asked.path, bytes, sort: 'manifest', askedBy }, rulebook))
  }
  const bytes = joinPieces(
    all.map(({ piece }) => piece),
    archive.folders,
  )
  return { bytes, sha256: sha256Hex(bytes), files: all.map(({ piece: _piece, ...facts }) => facts), leftOut }
}

/**
 * The files of a pack with their bytes, in their order.
 * @example const files = contentsOfPack(pack, 'otterby.zip')
 */
export function contentsOfPack({ bytes, files }: Pick<Pack, 'bytes' | 'files'>, name: string): PackedFile[] {
  const contents = readArchive(bytes, name)
  return files.flatMap(({ path, sort, askedBy, written }) => {
    const own = contents.get(path)
    return own ? [{ path, bytes: own, sort, askedBy, ...(written === undefined ? {} : { written }) }] : []
  })
}
