import type { Rulebook } from '../game/schema.ts'
import { PlainError } from '../support/plain-error.ts'
import { archiveFiles, type Pack, type PackHead } from './pack-files.ts'
import type { LeftOut, PackedFile } from './packed-file.ts'
import { haveEqualValues } from '../support/equal-values.ts'

/** What of a pack is wanted: some of its items, and not what other packs have already. */
export interface PartOfPack {
  /** Names in the game; all when left out. */
  items?: readonly string[]
  /** Packs that are there before it: a file that is the same in one of them is not packed again. */
  over?: readonly { name: string; files: ReadonlyMap<string, Uint8Array> }[]
}

/**
 * A pack of some of the files of another: of one item, or a patch of what is not yet in packs below it. Files that
 * items share stay with each that asks for them.
 * @throws PlainError when it has no such item, or nothing is left
 *
 * @example partOfPack(contentsOfPack(pack, 'landing'), head, rulebook, { items: ['gate'] })
 * @example partOfPack(contentsOfPack(pack, 'landing'), head, rulebook, { over: [{ name: 'landing-1.zip', files }] })
 */
export function partOfPack(
  contents: readonly PackedFile[],
  head: PackHead,
  rulebook: Rulebook,
  { items, over = [] }: PartOfPack,
): Pack {
  const wanted = new Set(items ?? head.items.map(({ name }) => name))
  for (const name of wanted)
    if (!head.items.some((item) => item.name === name))
      throw new PlainError(
        `it has no item “${name}”`,
        head.title,
        `Its items: ${head.items.map((item) => item.name).join(', ')}.`,
      )
  const leftOut: LeftOut[] = []
  const kept = contents.flatMap((file): PackedFile[] => {
    if (file.sort === 'manifest') return []
    const askedBy = file.askedBy.filter(({ item }) => item === null || wanted.has(item))
    const [first] = file.askedBy
    if (askedBy.length === 0) {
      leftOut.push({ what: file.path, item: first?.item ?? null, why: `only ${first?.item ?? 'no item'} asks for it` })
      return []
    }
    // Of several packs below the last one that has the path is what the game sees.
    const below = over.findLast(({ files }) => files.has(file.path))
    if (below && sameBytes(below.files.get(file.path), file.bytes)) {
      leftOut.push({ what: file.path, item: askedBy[0].item, why: `the same as in ${below.name}` })
      return []
    }
    return [{ ...file, askedBy }]
  })
  if (kept.length === 0)
    throw new PlainError(
      'nothing of it is new',
      head.title,
      `All its files are in ${over.map(({ name }) => name).join(', ')}.`,
    )
  const askers = new Set(kept.flatMap(({ askedBy }) => askedBy.map(({ item }) => item)))
  const partHead = { ...head, items: head.items.filter(({ name }) => askers.has(name)) }
  return archiveFiles(kept, partHead, rulebook, leftOut)
}

const sameBytes = (a: Uint8Array | undefined, b: Uint8Array): boolean => a !== undefined && haveEqualValues(a, b)
