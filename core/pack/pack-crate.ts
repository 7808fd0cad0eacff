import { PlainError } from '../support/plain-error.ts'
import type { Rulebook } from '../game/schema.ts'
import { leftOutOf } from './left-out.ts'
import { archiveFiles, type Pack } from './pack-files.ts'
import { packItem, type PackableItem } from './pack-item.ts'
import type { LeftOut, PackedFile } from './packed-file.ts'

/**
 * Adds a file that is not there yet; one that several items share is packed once, and all of them ask for it.
 * @throws PlainError when another item has another file of that path
 */
function addFile(files: Map<string, PackedFile>, file: PackedFile, item: string): void {
  const known = files.get(file.path)
  if (known && !equalBytes(known.bytes, file.bytes))
    throw new PlainError(
      `${file.path} is another file for an item before it`,
      item,
      'Rename the map or material in one of them: the game’s paths keep them apart by name alone.',
    )
  files.set(file.path, known ? { ...known, askedBy: [...known.askedBy, ...file.askedBy] } : file)
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
  const made = new Map<string, PackedFile>()
  const leftOut: LeftOut[] = []
  for (const [index, item] of items.entries()) {
    await progress(index / items.length, item.name)
    for (const file of await packItem(item, rulebook)) addFile(made, file, item.name)
    leftOut.push(...leftOutOf(item, rulebook))
  }
  const head = { title, items: items.map((item) => ({ name: item.name, kind: item.kind.id })) }
  const pack = archiveFiles([...made.values()], head, rulebook, leftOut)
  await progress(1, 'archive')
  return pack
}
