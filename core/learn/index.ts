import { builtInRulebooks } from '../game/load.ts'
import { isGameName } from '../game/names.ts'
import { rulebookSchema, type Rulebook } from '../game/schema.ts'
import { bodyRoleSchema } from '../item/body-role.ts'
import { openGameFiles, type GameFile } from './game-files.ts'
import { learnCatalogue } from './learn-catalogue.ts'
import { learnEntryFields, type SeenField } from './learn-entry-fields.ts'
import { itemsOf, learnEntryWords } from './learn-items.ts'
import { learnFiles, withSlashes } from './learn-files.ts'
import { learnMeshes, readMeshes, type KnownHeight } from './learn-meshes.ts'
import { learnSurface } from './learn-surface.ts'
import type { LearnedLine } from './learned.ts'

/** What files of a game say of it. */
export interface Learned {
  lines: LearnedLine[]
  /** What entries say besides what a rulebook has a place for. */
  entryFields: SeenField[]
  /** Paths of the meshes that were read. */
  meshes: string[]
  /** Meshes that could not be read, and why. */
  unread: { file: string; why: string }[]
  /** The rulebook that everything else is taken from: the built-in one whose meshes are written alike. */
  base: Rulebook
}

/**
 * Measures files that a game accepts, and says what a rulebook of it would have in each field, from how many files, how
 * surely, and what contradicts it.
 * @param files packs of the game, or the files of its folder
 * @param known heights of things in them that the modder knows, for the unit
 * @throws PlainError when there is nothing to learn from
 *
 * @example const { lines } = await learnFrom([{ path: 'lamp.zip', bytes }], [{ path: 'street/lamp.dae', metres: 4 }])
 */
export async function learnFrom(files: readonly GameFile[], known: readonly KnownHeight[] = []): Promise<Learned> {
  const packs = openGameFiles(withSlashes(files))
  const words = learnEntryWords(packs)
  const items = itemsOf(packs, words)
  const [firstMesh = ''] = packs.flatMap(({ meshes }) => meshes)
  const base = nearest(firstMesh)
  const { meshes, unread } = await readMeshes(packs, items, base)
  const entryFields = learnEntryFields(packs, words)
  const lines = [
    ...learnFiles(packs, items),
    ...words.lines,
    ...learnMeshes(meshes, items, known, base),
    ...(await learnSurface(packs, items, base)),
    ...learnCatalogue(entryFields),
  ]
  return { lines, entryFields, meshes: meshes.map(({ path }) => path), unread, base }
}

const nearest = (meshPath: string): Rulebook => {
  const ending = meshPath.toLowerCase().split('.').pop()
  const games = builtInRulebooks()
  return (
    games.find(({ files }) => files.mesh.writer === ending) ??
    games.find(({ files }) => (ending === 'json') === (files.mesh.writer === 'part-list')) ??
    games[0]
  )
}

/**
 * A rulebook of what was learned, on what it is taken from otherwise. It may not hold together yet: an editor shows
 * where.
 * @param lines those that the modder keeps
 * @returns as it would be written, and what is wrong with it
 *
 * @example const { rulebook, faults } = rulebookOf(learned, kept, { id: 'reed-harbour', title: 'Reed Harbour' })
 */
export function rulebookOf(
  { base }: Learned,
  lines: readonly LearnedLine[],
  { id, title }: { id: string; title: string },
): { rulebook: unknown; faults: string[] } {
  const { stock: _stock, slots: _slots, ...copy } = structuredClone(base)
  const made: Record<string, unknown> = {
    ...copy,
    id,
    title,
    version: '0.1',
    summary: 'Learned from files that the game accepts.',
    stock: { donors: [], objects: [], textures: [] },
    ...(lines.some(({ value }) => typeof value === 'string' && /\{slot\}/i.test(value))
      ? { slots: slotsFor(base, kindsOf(lines)) }
      : {}),
  }
  const listOf = (path: readonly string[]): unknown[] =>
    lines.filter((line) => line.path.slice(0, -1).join() === path.join()).map(({ value }) => value)
  // Things of a list are learned one by one, and take the place of the whole.
  for (const path of [['maps', 'roles'], ['kinds']]) {
    const list = listOf(path)
    if (list.length > 0) put(made, path, list)
  }
  for (const { path, value } of lines)
    if (path[0] !== 'kinds' && !(path[0] === 'maps' && path[1] === 'roles')) put(made, path, value)
  agree(made, lines)
  const parsed = rulebookSchema.safeParse(made)
  return {
    rulebook: parsed.success ? parsed.data : made,
    faults: parsed.success ? [] : parsed.error.issues.map((issue) => `${issue.path.join('.')}: ${issue.message}`),
  }
}

const kindsOf = (lines: readonly LearnedLine[]): string[] =>
  lines.flatMap(({ path }) => (path[0] === 'kinds' ? path[1] : []))

/** The places of the nearest game, as far as there are kinds to stand there. */
function slotsFor({ slots }: Rulebook, kinds: readonly string[]): Rulebook['slots'] {
  if (!slots || kinds.length === 0) return slots
  const listed = slots.listed
    .map((place) => ({ ...place, kinds: place.kinds.filter((kind) => kinds.includes(kind)) }))
    .filter((place) => place.kinds.length > 0)
  return { ...slots, listed }
}

function put(holder: Record<string, unknown>, path: readonly string[], value: unknown): void {
  const [step, ...rest] = path
  if (rest.length === 0) holder[step] = value
  else {
    const below = holder[step]
    const next = typeof below === 'object' && below !== null ? (below as Record<string, unknown>) : {}
    holder[step] = next
    put(next, rest, value)
  }
}

/** Names that the rulebook words itself. */
const worded = [
  ['solids', 'name'],
  ['levels', 'nameSuffix'],
  ['levels', 'shadow', 'nameSuffix'],
  ['points', 'attach'],
  ['points', 'marker'],
  ...bodyRoleSchema.options.map((is) => ['bodies', is]),
]

/**
 * What follows from what was learned: endings of files, no forward along up, no shading of maps that there are not; and
 * what no file showed is called in a way that the learned names allow.
 */
function agree(made: Record<string, unknown>, lines: readonly LearnedLine[]): void {
  const separator = ['_', '-', '.', ''].find((mark) => isGameName(made as unknown as Rulebook, `elm${mark}elm`))
  for (const path of worded) {
    const wording = path.reduce<unknown>((at, step) => (at as Record<string, unknown> | undefined)?.[step], made)
    const learned = lines.some((line) => line.path.join() === path.join())
    if (separator !== undefined && !learned && typeof wording === 'string')
      put(made, path, wording.replaceAll('_', separator))
  }
  const { files, space, maps, materials } = made as unknown as Rulebook
  const roles = maps.roles.map(({ role }) => role)
  for (const shading of materials.shadingModels) {
    shading.requires = shading.requires.filter((role) => roles.includes(role))
    shading.forbids = shading.forbids.filter((role) => roles.includes(role))
  }
  files.mesh.ending = files.mesh.writer === 'part-list' ? '.json' : `.${files.mesh.writer}`
  files.texture.ending = `.${files.texture.writer}`
  if (space.forward[1] === space.up[1]) space.forward = space.up[1] === 'y' ? '+z' : '-y'
}
