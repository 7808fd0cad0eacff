import type { Document } from '@gltf-transform/core'
import { branchesOf } from '../item/branches.ts'
import { hashValue, sha256Hex } from '../support/hashing.ts'
import { PlainError } from '../support/plain-error.ts'
import { isImageFile } from '../intake/images.ts'
import { readModels } from '../intake/models.ts'
import { isMeshFile, readItem } from '../intake/read-item.ts'
import type { ReadOptions } from '../intake/reader.ts'
import { fileName, type SourceFile } from '../intake/source-file.ts'
import { surveyDocument, type Survey } from '../intake/survey.ts'
import type { Kind } from '../game/schema.ts'
import type { Host, OfficialWithin, SourceImage } from '../operations/context.ts'
import type { StartState } from '../worklist/run.ts'
import { officialWithin } from './official.ts'
import { itemTitle, planItems, type PlannedItem } from './plan-items.ts'
import { identifierFor, type CrateItem } from './schema.ts'
import { takeOutParts } from './take-parts.ts'
import { stockHosts, stockPictures, type BytesOf } from './stock.ts'
import type { Game } from '../game/game.ts'

/** One mesh file that was brought: the new item, its survey, and the files to keep. */
export interface BroughtItem {
  item: CrateItem
  survey: Survey
  document: Document
  files: { sha256: string; file: SourceFile }[]
}

/** Raised when reading the same bytes gives another document than before. */
const READING_VERSION = 6

/**
 * Makes an item of each mesh file among `files`. All or nothing: when one cannot be read, none is brought.
 * @param taken ids of items that are there already
 * @throws PlainError when there is no mesh, or a file cannot be read
 *
 * @example const [{ item, document }] = await bringIn(files, 'prop', {}, [])
 */
export async function bringIn(
  brought: readonly SourceFile[],
  kind: string,
  options: ReadOptions,
  taken: readonly string[],
  wantedName?: string,
): Promise<BroughtItem[]> {
  const items: BroughtItem[] = []
  const ids = [...taken]
  const plan = planItems(brought, options.models ?? [])
  for (const [number, planned] of plan.entries()) {
    const onProgress = (fraction: number, doing: string): void =>
      options.onProgress?.((number + fraction) / plan.length, `${fileName(planned.main)}: ${doing}`)
    items.push(...(await readPlanned(planned, kind, { ...options, onProgress }, ids, { wantedName })))
    ids.push(...items.slice(ids.length - taken.length).map(({ item }) => item.id))
  }
  return items
}

/**
 * Reads what was planned as an item, or as one for each thing of its scene.
 * @throws PlainError when it cannot be read
 *
 * @example const [item] = await readPlanned(planned, 'prop', {}, [])
 */
export async function readPlanned(
  { main, files, models, title, alone }: PlannedItem,
  kind: string,
  options: ReadOptions,
  taken: readonly string[],
  { wantedName, split = false }: { wantedName?: string; split?: boolean } = {},
): Promise<BroughtItem[]> {
  const { document, usedPaths } = await (models ? readModels(models, files, options) : readItem(main, files, options))
  const name = wantedName ?? title
  // Images that somebody chose are kept too: they may be pointed to by hand later. What only lay beside the mesh is
  // not.
  const kept = files
    .filter((file) => usedPaths.has(file.path) || (alone && !isMeshFile(file.path) && file.beside !== true))
    .map((file) => ({ sha256: sha256Hex(file.bytes), file }))
  const item: CrateItem = {
    id: identifierFor(name, taken),
    name,
    kind,
    main,
    ...(models ? { models: { ...models } } : {}),
    sources: kept.map(({ sha256, file }) => ({ path: file.path, sha256, bytes: file.bytes.length })),
    reading: {
      metresPerUnit: options.metresPerUnit,
      up: options.up,
      forward: options.forward,
      links: { ...options.links },
    },
    worklist: [],
    waivers: [],
  }
  const survey = surveyDocument(
    document,
    kept.map(({ sha256, file }) => ({ path: file.path, sha256 })),
  )
  const whole = { item, survey, document, files: kept }
  const branches = split ? branchesOf(document) : []
  if (branches.length < 2) return [whole]
  const ids = [...taken]
  return branches.map((branch) => {
    const own = takeOutParts(item, branch.parts, itemTitle(branch.name), kind, ids)
    ids.push(own.id)
    return { ...whole, item: own }
  })
}

/**
 * Key of an item's state before its first step.
 * @example const kept = await store.read(startKey(item))
 */
export const startKey = (item: CrateItem): string =>
  hashValue([READING_VERSION, item.main, item.models ?? null, item.sources, item.reading])

/**
 * Pictures that steps may take by name: those that were brought, then the game's own.
 * @example const images = await picturesOf(files, game, bytesOf)
 */
export const picturesOf = async (
  files: readonly SourceFile[],
  game: Game | null,
  bytesOf: BytesOf,
): Promise<SourceImage[]> => [
  ...files.filter((file) => isImageFile(file.path)),
  ...(game ? await stockPictures(game, bytesOf) : []),
]

/**
 * The state before an item's first step, from what was just read.
 * @example const start = await startFrom(item, reading.document, files, game, bytesOf)
 */
export async function startFrom(
  item: CrateItem,
  document: Document,
  files: readonly SourceFile[],
  game: Game | null,
  bytesOf: BytesOf,
): Promise<StartState> {
  const start = { key: startKey(item), document, images: await picturesOf(files, game, bytesOf) }
  if (!game) return start
  // Compared once, however many steps are proposed.
  const found = new Map<string, Promise<OfficialWithin | null>>()
  const official = (kind: Kind): Promise<OfficialWithin | null> => {
    const answer = found.get(kind.id) ?? officialWithin(document, game, kind, bytesOf)
    found.set(kind.id, answer)
    return answer
  }
  let opened: Promise<readonly Host[]> | null = null
  const hosts = (kind: Kind): Promise<readonly Host[]> =>
    kind.addsTo === 'host' ? (opened ??= stockHosts(game, bytesOf)) : Promise.resolve([])
  return { ...start, official, hosts }
}

/**
 * Reads an item's sources again into the state before its first step.
 * @param bytesOf bytes of a kept source by checksum, or null when they are gone
 * @param game whose stock pictures steps may take; null where no step will run
 *
 * @example const start = await startOf(item, async (sha256) => sources.get(sha256) ?? null, game)
 */
export async function startOf(item: CrateItem, bytesOf: BytesOf, game: Game | null = null): Promise<StartState> {
  const files: SourceFile[] = []
  for (const source of item.sources) {
    const bytes = await bytesOf(source.sha256)
    if (!bytes) throw new PlainError('this source is missing from the crate', source.path, 'Bring the file again.')
    files.push({ path: source.path, bytes })
  }
  const { document } = await (item.models
    ? readModels(item.models, files, item.reading)
    : readItem(item.main, files, item.reading))
  return startFrom(item, document, files, game, bytesOf)
}
