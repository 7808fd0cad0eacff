import { sha256Hex } from '../support/hashing.ts'
import { PlainError } from '../support/plain-error.ts'
import type { Rulebook } from '../game/schema.ts'
import { writeArchive, type ArchiveFile } from '../support/archive.ts'
import { packItem, type PackableItem } from './pack-item.ts'

export interface Pack {
  bytes: Uint8Array
  sha256: string
  files: { path: string; bytes: number }[]
}

/**
 * Adds a file that is not there yet; one that several items share is packed once.
 * @throws PlainError when another item has another file of that path
 */
function addFile(files: Map<string, ArchiveFile>, file: ArchiveFile, item: string): void {
  const known = files.get(file.path)
  if (known && !equalBytes(known.bytes, file.bytes))
    throw new PlainError(
      `${file.path} is another file for an item before it`,
      item,
      'Rename the map or material in one of them: the game’s paths keep them apart by name alone.',
    )
  files.set(file.path, known ?? file)
}

const equalBytes = (a: Uint8Array, b: Uint8Array): boolean =>
  a.length === b.length && a.every((value, at) => value === b[at])

/**
 * One archive with every item's files and a manifest of sizes and checksums. Equal items give equal bytes.
 *
 * @example const { bytes, files } = await packItems([{ name: 'gate', kind, document }], rulebook, 'Otterby Landing')
 */
export async function packItems(
  items: readonly PackableItem[],
  rulebook: Rulebook,
  title: string,
  progress: (fraction: number, doing: string) => Promise<void> = async () => undefined,
): Promise<Pack> {
  const made = new Map<string, ArchiveFile>()
  for (const [index, item] of items.entries()) {
    await progress(index / items.length, item.name)
    for (const file of await packItem(item, rulebook)) addFile(made, file, item.name)
  }
  const files = [...made.values()]
  const manifest = {
    game: rulebook.id,
    version: rulebook.version,
    title,
    items: items.map((item) => ({ name: item.name, kind: item.kind.id })),
    files: files.map(({ path, bytes }) => ({
      path,
      bytes: bytes.length,
      ...(rulebook.files.manifest.checksums === 'sha256' ? { sha256: sha256Hex(bytes) } : {}),
    })),
  }
  files.unshift({
    path: rulebook.files.manifest.path,
    bytes: new TextEncoder().encode(`${JSON.stringify(manifest, null, 2)}\n`),
  })
  await progress(1, 'archive')
  const bytes = writeArchive(files, rulebook.files.archive.writer, rulebook.files.archive.folders)
  return {
    bytes,
    sha256: sha256Hex(bytes),
    files: files.map((file) => ({ path: file.path, bytes: file.bytes.length })),
  }
}
