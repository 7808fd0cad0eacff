import { sha256Hex } from '../support/hashing.ts'
import type { Rulebook } from '../game/schema.ts'
import { writeArchive, type ArchiveFile } from '../support/archive.ts'
import { packItem, type PackableItem } from './pack-item.ts'

export interface Pack {
  bytes: Uint8Array
  sha256: string
  files: { path: string; bytes: number }[]
}

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
  const files: ArchiveFile[] = []
  for (const [index, item] of items.entries()) {
    await progress(index / items.length, item.name)
    files.push(...(await packItem(item, rulebook)))
  }
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
