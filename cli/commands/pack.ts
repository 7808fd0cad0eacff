import { existsSync } from 'node:fs'
import { basename } from 'node:path'
import { namedItems } from '../../core/crate/evaluate-items.ts'
import { togetherPacked, type PackedCrate } from '../../core/crate/pack-crate.ts'
import { gameNames } from '../../core/crate/game-names.ts'
import type { Crate } from '../../core/crate/schema.ts'
import { namedAgainst } from '../../core/game/pack-order.ts'
import type { Rulebook } from '../../core/game/schema.ts'
import { packDifference, type FileChange } from '../../core/pack/pack-difference.ts'
import { contentsOfPack, type Pack } from '../../core/pack/pack-files.ts'
import { partOfPack } from '../../core/pack/part-of-pack.ts'
import { readArchive } from '../../core/support/archive.ts'
import { sha256Hex } from '../../core/support/hashing.ts'
import { PlainError } from '../../core/support/plain-error.ts'
import { plural } from '../../core/support/wording.ts'
import { namesFolder, readBytes, writeBytes, writeLoose } from '../bytes.ts'
import { parseCall, print, progressLine, required, type Call, type Command } from '../command.ts'
import { openCrate } from '../files.ts'
import { itemWorkers } from '../item-workers.ts'
import { sourcesOf } from '../sources-of.ts'
import { readFolder } from '../folders.ts'

export const pack: Command = {
  async run(words) {
    const call = parseCall(words, {
      out: { type: 'string' },
      rulebook: { type: 'string' },
      item: { type: 'string', multiple: true },
      over: { type: 'string', multiple: true },
      each: { type: 'boolean' },
    })
    if (call.positionals.length !== 1)
      throw new PlainError('it takes one crate', 'pack', 'Name a crate file or folder.')
    const out = required(call, 'out')
    const { crate, sources } = await openCrate(call.positionals[0], call.values['rulebook'])
    const { rulebook } = crate
    if (crate.items.length === 0)
      throw new PlainError('the crate is empty', call.positionals[0], 'Bring an item first.')
    const warnings = namedWell(out, rulebook)
    const over = call.list('over').map((path) => ({ name: basename(path), files: readArchive(readBytes(path), path) }))
    const items = call.list('item')
    assertItems(items, crate)
    const packed = await packMany(crate, sources, items)
    if (call.values['each'] === true) return writeEach(call, out, packed, crate)
    const made =
      over.length > 0
        ? partOfPack(contentsOfPack(packed.pack, crate.name), packed.head, rulebook, { over })
        : packed.pack
    const { blocks } = packed
    const changes = writeOut(out, made, crate.name)
    const files = made.files.map(({ sha256: _sha256, ...file }) => file)
    print(
      call,
      { out, bytes: made.bytes.length, sha256: made.sha256, files, leftOut: made.leftOut, changes, blocks, warnings },
      [
        ...warnings,
        ...files.map(
          ({ path, bytes, askedBy: [asker], written }) =>
            `${String(bytes).padStart(10)}  ${path}  ← ` +
            `${asker.by}${written === undefined ? '' : `, as written: ${written}`}`,
        ),
        ...made.leftOut.map(({ what, why }) => `  left out  ${what}: ${why}`),
        ...(changes ?? []).map(({ path, change }) => `${change.padStart(10)}  ${path}`),
        `${out}: ${made.bytes.length} bytes, sha256 ${made.sha256}`,
        `${blocks} findings block`,
      ],
    )
    return blocks > 0 ? 1 : 0
  },
}

/** Packs the wanted items of a crate, in workers where there are several. */
async function packMany(
  crate: Crate,
  sources: ReadonlyMap<string, Uint8Array>,
  wanted: readonly string[],
): Promise<PackedCrate> {
  const items = namedItems(crate, wanted.length > 0 ? wanted : undefined)
  const stock = (crate.stock && sources.get(crate.stock.sha256)) ?? null
  const workers = itemWorkers({ game: { rulebook: crate.rulebook, stock: crate.stock }, stock }, items.length)
  let done = 0
  try {
    const ones = await Promise.all(
      items.map(async (named) => {
        const one = await workers.run(
          { do: 'pack', named, sources: sourcesOf(named.item, sources) },
          (fraction, doing) => {
            if (items.length === 1) progressLine(`${Math.round(fraction * 100)} % ${doing}`.trim())
          },
        )
        progressLine(`${++done} of ${items.length} ${named.item.name}`)
        return one
      }),
    )
    return togetherPacked(ones, crate)
  } finally {
    await workers.close()
  }
}

/** Writes a pack for each item into a folder, called like the item. */
function writeEach(call: Call, folder: string, { pack, head, blocks }: PackedCrate, { name, rulebook }: Crate): number {
  const contents = contentsOfPack(pack, name)
  const packs = head.items.map((item) => {
    const { bytes, sha256, files } = partOfPack(contents, { ...head, title: item.name }, rulebook, {
      items: [item.name],
    })
    return { path: `${item.name}.zip`, bytes, sha256, files: files.length }
  })
  writeLoose(folder, packs)
  const told = packs.map(({ bytes, ...facts }) => ({ ...facts, bytes: bytes.length }))
  print(call, { out: folder, packs: told, blocks }, [
    ...told.map(({ path, bytes, files }) => `${String(bytes).padStart(10)}  ${path}, ${plural(files, 'file')}`),
    `${folder}: ${plural(packs.length, 'pack')}`,
    `${blocks} findings block`,
  ])
  return blocks > 0 ? 1 : 0
}

/** @throws PlainError when one of the names is none of the crate's items in the game */
function assertItems(wanted: readonly string[], crate: Crate): void {
  const known = [...gameNames(crate.items, crate.rulebook).values()]
  const stranger = wanted.find((name) => !known.includes(name))
  if (stranger !== undefined)
    throw new PlainError(`it has no item “${stranger}”`, crate.name, `Its items: ${known.join(', ')}.`)
}

/** @throws PlainError when the name is that of the game's own pack */
function namedWell(out: string, { files }: Rulebook): string[] {
  const { base } = files.archive
  if (base !== null && basename(out).toLowerCase() === base.toLowerCase())
    throw new PlainError(`${base} is the game’s own pack, which is never written`, out, 'Give yours a later name.')
  return base === null || namesFolder(out) ? [] : namedAgainst(basename(out), base)
}

/** Writes a pack, and tells what differs from what lay there; null where nothing did. */
function writeOut(out: string, made: Pack, name: string): FileChange[] | null {
  const before = lyingAt(out)
  if (namesFolder(out)) writeLoose(out, contentsOfPack(made, name))
  else writeBytes(out, made.bytes)
  return before && packDifference(before, made.files)
}

function lyingAt(out: string): { path: string; bytes: number; sha256: string }[] | null {
  if (!existsSync(out)) return null
  try {
    const files = namesFolder(out) ? readFolder(out) : readArchive(readBytes(out), out)
    return [...files].map(([path, bytes]) => ({ path, bytes: bytes.length, sha256: sha256Hex(bytes) }))
  } catch (error) {
    if (error instanceof PlainError) return null
    throw error
  }
}
