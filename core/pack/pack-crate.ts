import { PlainError } from '../support/plain-error.ts'
import type { Rulebook } from '../game/schema.ts'
import { leftOutOf } from './left-out.ts'
import { archiveReady, readyFile, type Pack, type ReadyFile } from './pack-files.ts'
import { packItem, type PackableItem } from './pack-item.ts'
import type { LeftOut } from './packed-file.ts'

/** An item's files, ready to lie in a pack beside those of others; nothing else of it is needed any more. */
export interface ReadyItem {
  name: string
  kind: string
  files: ReadyFile[]
  leftOut: LeftOut[]
}

/**
 * Writes the files of one item. Its document can be let go then.
 * @example const ready = await readyItem({ name: 'gate', kind, document }, rulebook)
 */
export async function readyItem(item: PackableItem, rulebook: Rulebook): Promise<ReadyItem> {
  const files = (await packItem(item, rulebook)).map((file) => readyFile(file, rulebook))
  return { name: item.name, kind: item.kind.id, files, leftOut: leftOutOf(item, rulebook) }
}

/**
 * Adds a file that is not there yet; one that several items share is packed once, and all of them ask for it.
 * @throws PlainError when another item has another file of that path
 */
function addFile(files: Map<string, ReadyFile>, file: ReadyFile, item: string): void {
  const known = files.get(file.path)
  if (known && known.sha256 !== file.sha256)
    throw new PlainError(
      `${file.path} is another file for an item before it`,
      item,
      'Rename the map or material in one of them: the game’s paths keep them apart by name alone.',
    )
  files.set(file.path, known ? { ...known, askedBy: [...known.askedBy, ...file.askedBy] } : file)
}

/**
 * One archive with every item's files and a manifest of sizes and checksums. Equal items give equal bytes.
 * @throws PlainError when two items want different files at one path
 *
 * @example const { bytes } = packReady([await readyItem(item, rulebook)], rulebook, 'Otterby Landing')
 */
export function packReady(items: readonly ReadyItem[], rulebook: Rulebook, title: string): Pack {
  const made = new Map<string, ReadyFile>()
  for (const { name, files } of items) for (const file of files) addFile(made, file, name)
  const head = { title, items: items.map(({ name, kind }) => ({ name, kind })) }
  return archiveReady(
    [...made.values()],
    head,
    rulebook,
    items.flatMap(({ leftOut }) => leftOut),
  )
}

/**
 * The same from documents.
 *
 * @example const { bytes, files } = await packItems([{ name: 'gate', kind, document }], rulebook, 'Otterby Landing')
 */
export async function packItems(items: readonly PackableItem[], rulebook: Rulebook, title: string): Promise<Pack> {
  const ready: ReadyItem[] = []
  for (const item of items) ready.push(await readyItem(item, rulebook))
  return packReady(ready, rulebook, title)
}
