import type { Document } from '@gltf-transform/core'
import { hashValue, sha256Hex } from '../support/hashing.ts'
import { subjectOfName } from '../item/map-roles.ts'
import { PlainError } from '../support/plain-error.ts'
import { unpackSources } from '../intake/archives.ts'
import { isImageFile } from '../intake/images.ts'
import { findModels, nameWithoutModel, readModels } from '../intake/models.ts'
import { groupPictures } from '../intake/picture.ts'
import { isMeshFile, meshEndings, readItem } from '../intake/read-item.ts'
import type { ReadOptions } from '../intake/reader.ts'
import { fileStem, fileName, type SourceFile } from '../intake/source-file.ts'
import { surveyDocument, type Survey } from '../intake/survey.ts'
import type { Kind } from '../game/schema.ts'
import type { Host, OfficialWithin, SourceImage } from '../operations/context.ts'
import type { StartState } from '../worklist/run.ts'
import { officialWithin } from './official.ts'
import { identifierFor, type CrateItem } from './schema.ts'
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
 */
export async function bringIn(
  brought: readonly SourceFile[],
  kind: string,
  options: ReadOptions,
  taken: readonly string[],
  wantedName?: string,
): Promise<BroughtItem[]> {
  const files = unpackSources(brought)
  const models = findModels(
    files.filter((file) => isMeshFile(file.path)),
    options.models ?? [],
  )
  const mains = models ? files.filter((file) => file.path === Object.values(models)[0]) : mainFiles(files)
  const sets = pictureSets(mains, files)
  const items: BroughtItem[] = []
  const ids = [...taken]
  for (const [number, main] of mains.entries()) {
    const own = sets?.get(main) ?? files
    const onProgress = (fraction: number, doing: string): void =>
      options.onProgress?.((number + fraction) / mains.length, `${fileName(main.path)}: ${doing}`)
    const { document, usedPaths } = await (models
      ? readModels(models, files, { ...options, onProgress })
      : readItem(main.path, own, { ...options, onProgress }))
    const name =
      wantedName ??
      titleOf(
        models
          ? nameWithoutModel(main.path, options.models ?? [])
          : sets
            ? subjectOfName(fileStem(main.path))
            : fileStem(main.path),
      )
    const id = identifierFor(name, ids)
    ids.push(id)
    // Images that somebody chose are kept too: they may be pointed to by hand later. What only lay beside the mesh is
    // not.
    const kept = files.filter(
      (file) => usedPaths.has(file.path) || (mains.length === 1 && !isMeshFile(file.path) && file.beside !== true),
    )
    const sources = kept.map((file) => ({ sha256: sha256Hex(file.bytes), file }))
    items.push({
      item: {
        id,
        name,
        kind,
        main: main.path,
        ...(models ? { models: { ...models } } : {}),
        sources: sources.map(({ sha256, file }) => ({ path: file.path, sha256, bytes: file.bytes.length })),
        reading: {
          metresPerUnit: options.metresPerUnit,
          up: options.up,
          forward: options.forward,
          links: { ...options.links },
        },
        worklist: [],
        waivers: [],
      },
      survey: surveyDocument(
        document,
        sources.map(({ sha256, file }) => ({ path: file.path, sha256 })),
      ),
      document,
      files: sources,
    })
  }
  return items
}

/** Where pictures came without a mesh, the pictures of each item; null where there are meshes. */
const pictureSets = (
  mains: readonly SourceFile[],
  files: readonly SourceFile[],
): Map<SourceFile, SourceFile[]> | null =>
  mains.every((main) => isImageFile(main.path)) ? groupPictures(files.filter((file) => isImageFile(file.path))) : null

/** Each mesh is an item; pictures that come without any mesh are one for each colour map among them. */
function mainFiles(files: readonly SourceFile[]): SourceFile[] {
  const meshes = files.filter((file) => isMeshFile(file.path))
  if (meshes.length > 0) return meshes
  const pictures = files.filter((file) => isImageFile(file.path))
  if (pictures.length > 0) return [...groupPictures(pictures).keys()]
  const names = files
    .map((file) => fileName(file.path))
    .slice(0, 3)
    .join(', ')
  throw new PlainError(
    'there is neither a mesh nor a picture among them',
    names || 'what was brought',
    `Bring ${meshEndings.join(', ').toUpperCase()}, with its textures, or a picture.`,
  )
}

/** Names of files may be longer than names of items. */
const LONGEST_TITLE = 120

/** “boathouse_gate.v2” → “Boathouse gate v2”. */
function titleOf(stem: string): string {
  const words = stem.replace(/[_.-]+/g, ' ').trim() || 'Item'
  return (words.charAt(0).toUpperCase() + words.slice(1)).slice(0, LONGEST_TITLE)
}

/** Key of an item's state before its first step. */
export const startKey = (item: CrateItem): string =>
  hashValue([READING_VERSION, item.main, item.models ?? null, item.sources, item.reading])

/** Pictures that steps may take by name: those that were brought, then the game's own. */
export const picturesOf = async (
  files: readonly SourceFile[],
  game: Game | null,
  bytesOf: BytesOf,
): Promise<SourceImage[]> => [
  ...files.filter((file) => isImageFile(file.path)),
  ...(game ? await stockPictures(game, bytesOf) : []),
]

/** The state before an item's first step, from what was just read. */
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
