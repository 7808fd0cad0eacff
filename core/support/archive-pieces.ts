import { writeArchive, type ArchiveWriter } from './archive.ts'

/** What of an archive one file is: its record with its bytes as they are stored, and its line of the directory. */
export interface ArchivePiece {
  path: string
  record: Uint8Array
  line: Uint8Array
}

/** Sizes and places of a ZIP (APPNOTE 6.3, sections 4.3.12 and 4.3.16). */
const END_BYTES = 22
const END_ENTRIES_HERE = 8
const END_ENTRIES = 10
const END_DIRECTORY_BYTES = 12
const END_DIRECTORY_AT = 16
const LINE_RECORD_AT = 42

/**
 * One file of an archive, packed by itself. Pieces can be made apart, in several workers or long before, and be joined.
 *
 * @example joinPieces([archivePiece('a.txt', bytes, 'zip-deflated')])
 */
export function archivePiece(path: string, bytes: Uint8Array, writer: ArchiveWriter): ArchivePiece {
  const alone = writeArchive([{ path, bytes }], writer)
  const end = new DataView(alone.buffer, alone.byteOffset + alone.length - END_BYTES)
  const directory = end.getUint32(END_DIRECTORY_AT, true)
  return { path, record: alone.slice(0, directory), line: alone.slice(directory, alone.length - END_BYTES) }
}

/**
 * The archive that `writeArchive` makes of the same files in the same order, from their pieces.
 * @param folders whether each folder has an entry of its own before what is in it
 *
 * @example const zip = joinPieces(await Promise.all(files.map(pieceOf)), true)
 */
export function joinPieces(given: readonly ArchivePiece[], folders = false): Uint8Array {
  const pieces = folders ? withFolders(given) : given
  const records = pieces.reduce((sum, { record }) => sum + record.length, 0)
  const lines = pieces.reduce((sum, { line }) => sum + line.length, 0)
  const archive = new Uint8Array(records + lines + END_BYTES)
  const view = new DataView(archive.buffer)
  let at = 0
  let line = records
  for (const piece of pieces) {
    archive.set(piece.record, at)
    archive.set(piece.line, line)
    view.setUint32(line + LINE_RECORD_AT, at, true)
    at += piece.record.length
    line += piece.line.length
  }
  view.setUint32(line, 0x06054b50, true)
  view.setUint16(line + END_ENTRIES_HERE, pieces.length, true)
  view.setUint16(line + END_ENTRIES, pieces.length, true)
  view.setUint32(line + END_DIRECTORY_BYTES, lines, true)
  view.setUint32(line + END_DIRECTORY_AT, records, true)
  return archive
}

function withFolders(pieces: readonly ArchivePiece[]): ArchivePiece[] {
  const known = new Set<string>()
  return pieces.flatMap((piece) => {
    const above = piece.path.split('/').slice(0, -1)
    const fresh = above
      .map((_step, depth) => `${above.slice(0, depth + 1).join('/')}/`)
      .filter((folder) => !known.has(folder))
    for (const folder of fresh) known.add(folder)
    return [...fresh.map((folder) => archivePiece(folder, new Uint8Array(0), 'zip-stored')), piece]
  })
}
