import { z } from 'zod'
import { cleanName, uniqueName } from '../game/clean-name.ts'
import { stockSchema, type Kind, type Rulebook } from '../game/schema.ts'
import { unpackSources } from '../intake/archives.ts'
import { isImageFile } from '../intake/images.ts'
import { isCompanionFile, isMeshFile, readItem } from '../intake/read-item.ts'
import { fileName, fileStem, type SourceFile } from '../intake/source-file.ts'
import { listAllParts } from '../item/parts.ts'
import { skeletonOf } from '../operations/motion/skeletons.ts'
import { isPack, openPack } from '../pack/open-pack.ts'
import { archiveFiles } from '../pack/pack-files.ts'
import { packItem } from '../pack/pack-item.ts'
import type { PackedFile } from '../pack/packed-file.ts'
import { parseRulebook } from '../game/load.ts'
import { readArchive } from '../support/archive.ts'
import { nameInWords } from '../support/wording.ts'
import { PlainError } from '../support/plain-error.ts'
import { gameWith, type BroughtGame } from './brought-game.ts'
import { inGameSpace } from './official.ts'

type Stock = Rulebook['stock']

/** What was put into a game's stock. */
export interface OwnStock {
  game: BroughtGame
  added: Stock
  /** Files that are no use there. */
  passedOver: string[]
}

const DONORS = 'donors.json'
const ENTRIES = 'entries.json'
const FOLDER = 'stock/'

/**
 * A game with more in stock: meshes become official objects (or hosts, which others are put into), pictures become the
 * game's own textures, packs of the game bring their items, a `donors.json` its donors. What was there stays; what has
 * the name of something that was there takes its place.
 * @param hosts names of objects that are hosts
 * @throws PlainError when nothing of it can be used, or a file is broken
 *
 * @example const { game } = await withOwnStock(brought, [{ path: 'ferry.glb', bytes }])
 */
export async function withOwnStock(
  { game: { rulebook }, stock }: BroughtGame,
  files: readonly SourceFile[],
  hosts: readonly string[] = [],
): Promise<OwnStock> {
  const made = new Map<string, PackedFile>()
  const objects = new Map(rulebook.stock.objects.map((each) => [each.id, each]))
  const textures = new Map(rulebook.stock.textures.map((each) => [each.path, each]))
  const donors = new Map(rulebook.stock.donors.map((each) => [each.id, each]))
  const entries = new Map(rulebook.stock.entries.map((each) => [each.id, each]))
  const skeletons = new Map(rulebook.stock.skeletons.map((each) => [each.id, each]))
  const added: Stock = { objects: [], textures: [], donors: [], skeletons: [], entries: [] }
  const addObject = (id: string, title: string): void => {
    const object = { id, title, role: hosts.includes(id) ? ('host' as const) : ('official' as const) }
    objects.set(id, object)
    added.objects.push(object)
  }
  const put = (files: readonly PackedFile[]): void => {
    for (const file of files) if (file.sort !== 'manifest') made.set(file.path, file)
  }
  if (stock) put(asPacked(readArchive(stock, 'stock'), rulebook))

  const packs = files.filter(({ bytes, path }) => isZip(bytes) && isPack(readArchive(bytes, path).keys(), [rulebook]))
  for (const { path, bytes } of packs) {
    const pack = openPack(bytes, fileName(path), [rulebook])
    put(asPacked(pack.files, rulebook))
    for (const { name } of pack.items) addObject(name, nameInWords(name))
  }
  const loose = unpackSources(files.filter((file) => !packs.includes(file)))
  const used = new Set<string>()
  const kind = rulebook.kinds.find((each) => each.mesh !== null && each.models.length < 2)
  for (const mesh of loose.filter(({ path }) => isMeshFile(path))) {
    const { document, usedPaths } = await readItem(mesh.path, loose, { bonesAlone: true })
    for (const path of usedPaths) used.add(path)
    const name = uniqueName(
      rulebook,
      cleanName(rulebook, fileStem(mesh.path), 'object'),
      new Set(added.objects.map(({ id }) => id)),
    )
    const title = nameInWords(fileStem(mesh.path))
    const inGame = inGameSpace(document, rulebook)
    const skeleton = skeletonOf(inGame, name, title, rulebook.space)
    if (skeleton) {
      skeletons.set(name, skeleton)
      added.skeletons.push(skeleton)
    }
    // A file may hold bones alone.
    if (listAllParts(inGame).length === 0) continue
    put(await packObject(name, inGame, rulebook, kind))
    addObject(name, title)
  }
  for (const { path, bytes } of loose.filter((file) => isImageFile(file.path) && !used.has(file.path))) {
    const place = `${FOLDER}${fileName(path)}`
    const texture = { path: place, role: roleOf(path, rulebook) }
    made.set(place, { path: place, bytes, sort: 'map', askedBy: [] })
    textures.set(place, texture)
    added.textures.push(texture)
  }
  for (const { path, bytes } of loose.filter((file) => fileName(file.path) === DONORS))
    for (const donor of readListed(
      path,
      bytes,
      stockSchema.shape.donors,
      'A donor has id, title, surface, toughness and remains.',
    )) {
      donors.set(donor.id, donor)
      added.donors.push(donor)
    }
  for (const { path, bytes } of loose.filter((file) => fileName(file.path) === ENTRIES))
    for (const entry of readListed(
      path,
      bytes,
      stockSchema.shape.entries.unwrap(),
      'An entry has id, title, kind and fields.',
    )) {
      entries.set(entry.id, entry)
      added.entries.push(entry)
    }
  if (Object.values(added).every((list) => list.length === 0))
    throw new PlainError(
      'there is nothing for a stock in them',
      'these files',
      `Bring meshes, skeletons, pictures, packs of ${rulebook.title}, a ${DONORS} or ${ENTRIES}.`,
    )
  const passedOver = loose
    .filter(({ path }) => !isMeshFile(path) && !isCompanionFile(path) && ![DONORS, ENTRIES].includes(fileName(path)))
    .map(({ path }) => path)
  const listed = {
    objects: [...objects.values()],
    textures: [...textures.values()],
    donors: [...donors.values()],
    skeletons: [...skeletons.values()],
    entries: [...entries.values()],
  }
  const whole = parseRulebook(JSON.stringify({ ...rulebook, stock: listed }), rulebook.title)
  const head = { title: `Stock of ${rulebook.title}`, items: [] }
  const { bytes } = archiveFiles([...made.values()], head, whole, [])
  return { game: gameWith(whole, made.size > 0 ? bytes : null), added, passedOver }
}

const isZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b

/** Files of a pack as they are packed again. */
const asPacked = (files: ReadonlyMap<string, Uint8Array>, { files: { manifest } }: Rulebook): PackedFile[] =>
  [...files].map(([path, bytes]) => ({ path, bytes, sort: path === manifest.path ? 'manifest' : 'map', askedBy: [] }))

async function packObject(
  name: string,
  document: Parameters<typeof inGameSpace>[0],
  rulebook: Rulebook,
  kind: Kind | undefined,
): Promise<PackedFile[]> {
  if (!kind) throw new PlainError('no kind of the game has a mesh', rulebook.title, 'Bring pictures alone.')
  return packItem({ name, kind, document }, rulebook)
}

/** The role that a picture's name ends in; the game's first where it ends in none. */
function roleOf(path: string, { maps }: Rulebook): string {
  const stem = fileStem(path).toLowerCase()
  return (maps.roles.find(({ ending }) => stem.endsWith(ending.toLowerCase())) ?? maps.roles[0])?.role ?? 'colour'
}

function readListed<T>(path: string, bytes: Uint8Array, schema: z.ZodType<T>, mends: string): T {
  try {
    return schema.parse(JSON.parse(new TextDecoder().decode(bytes)))
  } catch (error) {
    const [issue] = error instanceof z.ZodError ? error.issues : []
    throw new PlainError(issue ? `at ${issue.path.join('.')}: ${issue.message}` : 'it is no JSON', path, mends)
  }
}
