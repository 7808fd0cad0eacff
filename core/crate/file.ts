import { z } from 'zod'
import type { Game } from '../game/game.ts'
import { sha256Hex } from '../support/hashing.ts'
import { PlainError } from '../support/plain-error.ts'
import { readArchive, writeArchive, type ArchiveFile } from '../support/archive.ts'
import { isCrateFolder, readCrateFolder } from './crate-folder.ts'
import { salvageCrate, type SetAside } from './salvage.ts'
import type { Crate, SourceReference } from './schema.ts'

const CRATE_PATH = 'crate.json'
/** Where a source stands in a crate file: under its checksum, so that two items share one. */
export const sourcePath = (sha256: string): string => `sources/${sha256}`

/** A crate with all its sources: what a crate file holds. */
export interface CrateWithSources {
  crate: Crate
  sources: Map<string, Uint8Array>
}

/** A crate as a file holds it, and what of the file cannot be used. */
export interface OpenedCrate extends CrateWithSources {
  /** Pieces of the crate that cannot be read. */
  setAside: SetAside[]
  /** Sources that are missing or not what they were: they have to be brought again. */
  lost: (SourceReference & { reason: 'missing' | 'damaged' })[]
}

/** A crate whose rulebook cannot be read: it opens once a game is given with it. */
export class UnknownGameError extends PlainError {
  constructor(what: string, where: string) {
    super(what, where, 'Open it with a rulebook of its game: --rulebook ID|FILE.')
  }
}

/**
 * Whether the files of an archive are those of a crate.
 * @example isCrateFile(['crate.json']) // true
 */
export const isCrateFile = (paths: Iterable<string>): boolean => [...paths].includes(CRATE_PATH)

/**
 * Every file that a crate needs beside itself: its items' sources, and what its game has in stock.
 * @example const wanted = new Set(keptFilesOf(crate).map(({ sha256 }) => sha256))
 */
export const keptFilesOf = ({ stock, items }: Crate): SourceReference[] => [
  ...(stock ? [{ path: 'the game’s stock', ...stock }] : []),
  ...items.flatMap((item) => item.sources),
]

/** Files that compressing again takes time for and nothing off. */
const COMPRESSED = /\.(png|jpe?g|webp|zip)$/i

/**
 * A crate file: a ZIP with `crate.json` and each source by its checksum. The same crate gives the same bytes.
 * @param without checksums of sources that are lost, and left out; whoever opens the file is told
 * @throws PlainError when another source is missing
 *
 * @example writeFileSync('otterby.crate.zip', writeCrateFile({ crate, sources }))
 */
export function writeCrateFile(
  { crate, sources }: CrateWithSources,
  without: ReadonlySet<string> = new Set(),
): Uint8Array {
  const files: ArchiveFile[] = [
    { path: CRATE_PATH, bytes: new TextEncoder().encode(`${JSON.stringify(crate, null, 2)}\n`) },
  ]
  const pathOf = new Map(keptFilesOf(crate).map(({ sha256, path }) => [sha256, path]))
  for (const sha256 of [...pathOf.keys()].sort()) {
    if (without.has(sha256)) continue
    const bytes = sources.get(sha256)
    if (!bytes)
      throw new PlainError('a source is missing', sha256.slice(0, 12), 'Bring the file again, then save the crate.')
    files.push({ path: sourcePath(sha256), bytes, stored: COMPRESSED.test(pathOf.get(sha256) ?? '') })
  }
  // It is written far more often than it is sent.
  return writeArchive(files, 'zip-deflated', false, 3)
}

/**
 * Opens a crate file. What of it is whole is used; what is not is told.
 * @param game stands in for a rulebook that cannot be read
 * @throws PlainError when it is no crate file, or nothing of the crate can be read
 *
 * @example const { crate, setAside } = readCrateFile(bytes, 'otterby.crate.zip')
 */
export function readCrateFile(bytes: Uint8Array, name: string, game: Game | null = null): OpenedCrate {
  return assembleCrate(withoutTopFolder(readArchive(bytes, name)), name, game)
}

/**
 * Files by their paths in the folder of a crate, where all of them lie below one: a folder that was dropped or archived
 * has its own name before them.
 *
 * @example withoutTopFolder(new Map([['otterby/crate.json', new Uint8Array(0)]])).has('crate.json') // true
 */
export function withoutTopFolder(files: ReadonlyMap<string, Uint8Array>): ReadonlyMap<string, Uint8Array> {
  const [first = ''] = files.keys()
  const top = `${first.split('/')[0]}/`
  if (files.has(CRATE_PATH) || !files.has(top + CRATE_PATH) || ![...files.keys()].every((path) => path.startsWith(top)))
    return files
  return new Map([...files].map(([path, bytes]) => [path.slice(top.length), bytes]))
}

/**
 * A crate from files by path: an unpacked crate file, or a crate folder as a repository keeps it.
 * @example const { crate, sources } = assembleCrate(withoutTopFolder(files), 'otterby')
 */
export function assembleCrate(
  files: ReadonlyMap<string, Uint8Array>,
  name: string,
  game: Game | null = null,
): OpenedCrate {
  const description = files.get(CRATE_PATH)
  if (!description)
    throw new PlainError(
      'it holds no crate.json, so it is not a crate file',
      name,
      'Choose a file that Gentle Crate saved.',
    )
  const folder = isCrateFolder(files) ? readCrateFolder(files, name) : null
  const { crate, setAside } = folder
    ? salvaged(folder.description, name, game)
    : parseCrate(new TextDecoder().decode(description), name, game)
  const opened: OpenedCrate = { crate, setAside, sources: new Map(), lost: [] }
  for (const source of keptFilesOf(crate)) {
    const found = folder ? folder.sources.get(source.sha256) : files.get(sourcePath(source.sha256))
    if (found && (folder || sha256Hex(found) === source.sha256)) opened.sources.set(source.sha256, found)
    else opened.lost.push({ ...source, reason: found ? 'damaged' : 'missing' })
  }
  return opened
}

/**
 * What of a file could not be used, a sentence each.
 * @example for (const sentence of lossesOf(opened)) console.error(sentence)
 */
export const lossesOf = ({ setAside, lost }: Pick<OpenedCrate, 'setAside' | 'lost'>): string[] => [
  ...setAside.map(({ what, reason }) => `${what} cannot be read and is left out: ${reason}`),
  ...lost.map(({ path, reason }) => `the source ${path} is ${reason}: bring it again`),
]

function parseCrate(text: string, name: string, game: Game | null): Pick<OpenedCrate, 'crate' | 'setAside'> {
  let data: unknown
  try {
    data = JSON.parse(text)
  } catch {
    throw new PlainError('its crate.json is not readable', name, 'Save the crate again where it was made.')
  }
  const version = z.object({ formatVersion: z.number() }).safeParse(data)
  if (version.success && version.data.formatVersion > 2)
    throw new PlainError('it was saved by a newer version', name, 'Open it with that version.')
  return salvaged(data, name, game)
}

function salvaged(data: unknown, name: string, game: Game | null): Pick<OpenedCrate, 'crate' | 'setAside'> {
  const read = salvageCrate(data, 'crate', game)
  if (read.crate) return read
  if (read.wantsGame) throw new UnknownGameError(read.reason, name)
  throw new PlainError(`its crate.json is ${read.reason}`, name, 'Save the crate again where it was made.')
}
