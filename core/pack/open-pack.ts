import { turningSchema, type Turning } from '../item/turning.ts'
import { z } from 'zod'
import { readArchive } from '../support/archive.ts'
import { PlainError } from '../support/plain-error.ts'
import type { Rulebook } from '../game/schema.ts'
import type { RecordSort } from '../game/schema-records.ts'
import type { ItemEntry } from '../item/entry.ts'
import { saidInEntry } from './records/entry.ts'
import { isEntryPath } from '../game/templates.ts'
import { readRecord, readRecordOrNothing } from './records/index.ts'

/** What can be taken out of a pack. */
export interface OpenedPack {
  rulebook: Rulebook
  title: string
  items: PackedItem[]
  /** Every map of the pack. */
  textures: { path: string; bytes: Uint8Array }[]
  files: ReadonlyMap<string, Uint8Array>
}
export interface PackedModel {
  /** The model's name; null where the item has one mesh alone. */
  model: string | null
  path: string
  /** What the entry says for it that the mesh file has no word for. */
  beside: unknown
}
export interface PackedItem {
  name: string
  kind: string
  /** The game's place that it stands in for. */
  slot?: string
  /** The object of the game's own that it changes. */
  changes?: string
  /** How it turns to who looks. */
  turns?: Turning
  /** What its entry says besides its files. */
  said: ItemEntry | null
  /** One mesh for each model, none for an item without a mesh. */
  meshes: PackedModel[]
  /** Paths in the pack. */
  looks: string[]
}

const manifestSchema = z.object({
  game: z.string(),
  title: z.string().default(''),
  items: z.array(z.object({ name: z.string(), kind: z.string() })).max(10_000),
})
const entrySchema = z.object({
  item: z.string(),
  kind: z.string(),
  slot: z.string().max(32).optional(),
  /** The object of the game's own that it changes. */
  changes: z.string().max(200).optional(),
  turns: turningSchema.optional().catch(undefined),
  mesh: z.string().optional(),
  models: z.record(z.string(), z.string()).optional(),
  looks: z.array(z.string()).max(100),
  nodes: z.unknown().optional(),
  clips: z.unknown().optional(),
  said: z.unknown().optional(),
  ofModels: z.record(z.string(), z.unknown()).optional(),
})
const TEXTURE = /\.(dds|ktx2|tga|png|jpe?g)$/i

/**
 * An entry, look or manifest of a pack.
 * @throws PlainError when the file is missing or is not what it should be
 *
 * @example const look = parseRecord('look', files, path, packedLookSchema, 'otterby.zip', rulebook)
 */
export function parseRecord<T>(
  sort: RecordSort,
  files: ReadonlyMap<string, Uint8Array>,
  path: string,
  schema: z.ZodType<T>,
  name: string,
  rulebook: Rulebook,
): T {
  const bytes = files.get(path)
  if (!bytes) throw new PlainError(`its ${path} is missing`, name, 'Copy the pack again.')
  try {
    return schema.parse(readRecord(sort, bytes, path, rulebook))
  } catch {
    throw new PlainError(`its ${path} cannot be read`, name, 'Copy the pack again.')
  }
}

const manifestPaths = (games: readonly Rulebook[]): string[] => [
  ...new Set(games.filter(hasManifest).map(({ files }) => files.manifest.path)),
]

const hasManifest = ({ files }: Rulebook): boolean => files.manifest.writer !== 'none'

/** A game without a list of files is known by what lies where its entries do. */
const holdsEntries = (paths: Iterable<string>, game: Rulebook): boolean =>
  !hasManifest(game) && [...paths].some((path) => isEntryPath(path, game))

/**
 * Whether the files of an archive are those of a pack for one of the games.
 * @example isPack(['readme.txt'], [rulebook]) // false
 */
export function isPack(paths: Iterable<string>, games: readonly Rulebook[]): boolean {
  const present = new Set(paths)
  return (
    manifestPaths(games).some((path) => present.has(path)) || games.some((game) => holdsEntries(present.keys(), game))
  )
}

/**
 * The game that an archive's manifest names, read as one of the games writes it, or the first game without manifests
 * whose entries can be read there; null where there is none.
 *
 * @example gameOfPack(new Map(), [rulebook]) // null
 */
export function gameOfPack(files: ReadonlyMap<string, Uint8Array>, games: readonly Rulebook[]): string | null {
  for (const game of games.filter(hasManifest)) {
    const { path } = game.files.manifest
    const named = z.object({ game: z.string() }).safeParse(readRecordOrNothing('manifest', files.get(path), path, game))
    if (named.success) return named.data.game
  }
  const entriesOf = (game: Rulebook): string[] => [...files.keys()].filter((path) => isEntryPath(path, game))
  const reads = (game: Rulebook): boolean =>
    entriesOf(game).some(
      (path) => entrySchema.safeParse(readRecordOrNothing('entry', files.get(path), path, game)).success,
    )
  return games.find((game) => !hasManifest(game) && reads(game))?.id ?? null
}

/**
 * Opens a pack of one of the games given.
 * @param games the crate’s own first, then the built-in ones
 * @throws PlainError when it is no pack, or its game is not known
 *
 * @example const { items } = openPack(bytes, 'otterby.zip', [rulebook])
 */
export function openPack(bytes: Uint8Array, name: string, games: readonly Rulebook[]): OpenedPack {
  const files = readArchive(bytes, name)
  if (!isPack(files.keys(), games))
    throw new PlainError(
      `it holds no ${manifestPaths(games).join(' or ')}, so it is not a pack`,
      name,
      'Choose a pack.',
    )
  const game = gameOfPack(files, games)
  if (game === null) throw new PlainError('its manifest cannot be read', name, 'Copy the pack again.')
  const rulebook = games.find(({ id }) => id === game)
  if (!rulebook)
    throw new PlainError(
      `it is for “${game}”, a game that is not known here`,
      name,
      `Known ones: ${games.map(({ id }) => id).join(', ')}. Or bring that game’s rulebook.`,
    )
  const title = hasManifest(rulebook)
    ? parseRecord('manifest', files, rulebook.files.manifest.path, manifestSchema, name, rulebook).title
    : ''
  const entries = [...files.keys()]
    .filter((path) => isEntryPath(path, rulebook))
    .map((path) => ({
      ...parseRecord('entry', files, path, entrySchema, name, rulebook),
      entry: saidInEntry(files.get(path) ?? new Uint8Array(0), path, rulebook),
    }))
  return {
    rulebook,
    title: title || name,
    items: entries.map((entry) => ({
      name: entry.item,
      kind: entry.kind,
      slot: entry.slot,
      changes: entry.changes,
      turns: entry.turns,
      said: entry.entry,
      meshes:
        entry.mesh !== undefined
          ? [{ model: null, path: entry.mesh, beside: entry }]
          : Object.entries(entry.models ?? {}).map(([model, path]) => ({
              model,
              path,
              beside: entry.ofModels?.[model] ?? entry,
            })),
      looks: entry.looks,
    })),
    textures: [...files].filter(([path]) => TEXTURE.test(path)).map(([path, content]) => ({ path, bytes: content })),
    files,
  }
}
