import { sha256Hex } from '../support/hashing.ts'
import { PlainError } from '../support/plain-error.ts'
import { readArchive } from '../support/archive.ts'
import type { SourceFile } from '../intake/source-file.ts'
import { isPack, openPack, type OpenedPack } from '../pack/open-pack.ts'
import { takeItem } from '../pack/take-item.ts'
import { builtInRulebooks } from '../game/load.ts'
import type { Rulebook } from '../game/schema.ts'
import type { BroughtItem } from './bring-in.ts'
import { readCrateFile } from './file.ts'
import { identifierFor } from './schema.ts'

/** What one of our own archives holds that can be taken out. */
export interface Contents {
  kind: 'pack' | 'crate'
  title: string
  items: { name: string; kind: string }[]
  textures: string[]
}

/**
 * Whether an archive is one of ours, and what is in it; null for any other.
 * @example const contents = contentsOf(bytes, 'otterby.zip')
 */
export function contentsOf(
  bytes: Uint8Array,
  name: string,
  games: readonly Rulebook[] = builtInRulebooks(),
): Contents | null {
  const paths = [...readArchive(bytes, name).keys()]
  if (paths.includes('crate.json')) {
    const { crate } = readCrateFile(bytes, name)
    const textures = crate.items
      .flatMap((item) => item.sources.map((source) => source.path))
      .filter((path) => /\.(png|jpe?g|tga|bmp|webp|dds|ktx2)$/i.test(path))
    return {
      kind: 'crate',
      title: crate.name,
      items: crate.items.map((item) => ({ name: item.name, kind: item.kind })),
      textures: [...new Set(textures)],
    }
  }
  if (!isPack(paths, games)) return null
  const pack = openPack(bytes, name, games)
  return {
    kind: 'pack',
    title: pack.title,
    items: pack.items.map((item) => ({ name: item.name, kind: item.kind })),
    textures: pack.textures.map((texture) => texture.path),
  }
}

/** An item taken out, with the files to keep for it. */
export type TakenItem = Pick<BroughtItem, 'item' | 'files'>

/**
 * Takes one item out of a pack or crate file. From a crate it comes with its sources and worklist; from a pack as the
 * mesh and maps that the game reads, in game units.
 * @throws PlainError when there is no such item
 *
 * @example const { item } = await takeOutOfArchive(bytes, 'otterby.zip', 'boathouse_gate', [])
 */
export async function takeOutOfArchive(
  bytes: Uint8Array,
  name: string,
  itemName: string,
  taken: readonly string[],
  games: readonly Rulebook[] = builtInRulebooks(),
): Promise<TakenItem> {
  const contents = contentsOf(bytes, name, games)
  if (contents?.kind === 'crate') return takeFromCrate(bytes, name, itemName, taken)
  if (contents?.kind === 'pack') return takeFromPack(openPack(bytes, name, games), itemName, taken)
  throw new PlainError('it is neither a pack nor a crate file', name, 'Choose one that Gentle Crate wrote.')
}

function takeFromCrate(bytes: Uint8Array, name: string, itemName: string, taken: readonly string[]): TakenItem {
  const { crate, sources } = readCrateFile(bytes, name)
  const item = crate.items.find((each) => each.name === itemName)
  if (!item)
    throw new PlainError(
      `it has no item “${itemName}”`,
      name,
      `Its items: ${crate.items.map((each) => each.name).join(', ')}.`,
    )
  const files = item.sources.map(({ path, sha256 }) => {
    const found = sources.get(sha256)
    if (!found) throw new PlainError(`its source ${path} is missing or damaged`, name, 'Copy the crate file again.')
    return { sha256, file: { path, bytes: found } }
  })
  return { item: { ...item, id: identifierFor(item.name, taken) }, files }
}

/**
 * An item of a pack as one of a crate: its source is the state that it was packed from, so that it is packed the same
 * without a step.
 * @param taken ids of items that are there already
 *
 * @example const { item } = await takeFromPack(pack, 'boathouse_gate', ids)
 */
export async function takeFromPack(pack: OpenedPack, itemName: string, taken: readonly string[]): Promise<TakenItem> {
  const packed = pack.items.find((each) => each.name === itemName)
  const file: SourceFile = { path: `${itemName}.glb`, bytes: await takeItem(pack, itemName) }
  const sha256 = sha256Hex(file.bytes)
  const item = {
    id: identifierFor(itemName, taken),
    name: itemName,
    kind: packed?.kind ?? '',
    ...(packed?.slot === undefined ? {} : { slot: packed.slot }),
    main: file.path,
    sources: [{ path: file.path, sha256, bytes: file.bytes.length }],
    reading: { metresPerUnit: pack.rulebook.space.unit.metres, links: {}, asState: true },
    worklist: [],
    waivers: [],
  }
  return { item, files: [{ sha256, file }] }
}

/**
 * A texture of a pack or crate file.
 * @example const { bytes: picture } = textureOf(bytes, 'otterby.zip', 'maps/gate_oak_col.dds')
 */
export function textureOf(
  bytes: Uint8Array,
  name: string,
  path: string,
): { path: string; bytes: Uint8Array; sha256: string } {
  const files = readArchive(bytes, name)
  const direct = files.get(path)
  const found = direct ?? (files.has('crate.json') ? sourceOfCrate(bytes, name, path) : undefined)
  if (!found) throw new PlainError(`it has no texture “${path}”`, name, 'Choose one that is in it.')
  return { path: path.split('/').pop() ?? path, bytes: found, sha256: sha256Hex(found) }
}

function sourceOfCrate(bytes: Uint8Array, name: string, path: string): Uint8Array | undefined {
  const { crate, sources } = readCrateFile(bytes, name)
  const source = crate.items.flatMap((item) => item.sources).find((each) => each.path === path)
  return source && sources.get(source.sha256)
}
