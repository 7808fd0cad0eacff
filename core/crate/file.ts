import { z } from 'zod'
import { sha256Hex } from '../support/hashing.ts'
import { PlainError } from '../support/plain-error.ts'
import { readArchive, writeArchive, type ArchiveFile } from '../support/archive.ts'
import { crateSchema, type Crate, type SourceReference } from './schema.ts'

const CRATE_PATH = 'crate.json'
/** Where a source stands in a crate file: under its checksum, so that two items share one. */
export const sourcePath = (sha256: string): string => `sources/${sha256}`

/** A crate with all its sources: what a crate file holds. */
export interface CrateWithSources {
  crate: Crate
  sources: Map<string, Uint8Array>
}

/** Whether the files of an archive are those of a crate. */
export const isCrateFile = (paths: Iterable<string>): boolean => [...paths].includes(CRATE_PATH)

/** Every file that a crate needs beside itself: its items' sources, and what its game has in stock. */
export const keptFilesOf = ({ stock, items }: Crate): SourceReference[] => [
  ...(stock ? [{ path: 'the game’s stock', ...stock }] : []),
  ...items.flatMap((item) => item.sources),
]

/** A crate file: a ZIP with `crate.json` and each source by its checksum. The same crate gives the same bytes. */
export function writeCrateFile({ crate, sources }: CrateWithSources): Uint8Array {
  const files: ArchiveFile[] = [
    { path: CRATE_PATH, bytes: new TextEncoder().encode(`${JSON.stringify(crate, null, 2)}\n`) },
  ]
  for (const sha256 of [...new Set(keptFilesOf(crate).map(({ sha256 }) => sha256))].sort()) {
    const bytes = sources.get(sha256)
    if (!bytes)
      throw new PlainError('a source is missing', sha256.slice(0, 12), 'Bring the file again, then save the crate.')
    files.push({ path: sourcePath(sha256), bytes })
  }
  return writeArchive(files, 'zip-deflated')
}

/**
 * Opens a crate file and proves that its sources are whole.
 * @throws PlainError when it is no crate file, or a source is missing or damaged
 */
export function readCrateFile(bytes: Uint8Array, name: string): CrateWithSources {
  return assembleCrate(readArchive(bytes, name), name)
}

/** A crate from files by path, such as those of a folder. */
export function assembleCrate(files: ReadonlyMap<string, Uint8Array>, name: string): CrateWithSources {
  const description = files.get(CRATE_PATH)
  if (!description)
    throw new PlainError(
      'it holds no crate.json, so it is not a crate file',
      name,
      'Choose a file that Gentle Crate saved.',
    )
  const crate = parseCrate(new TextDecoder().decode(description), name)
  const sources = new Map<string, Uint8Array>()
  for (const source of keptFilesOf(crate)) {
    const found = files.get(sourcePath(source.sha256))
    if (!found)
      throw new PlainError(`the source ${source.path} is missing`, name, 'Save the crate again where it was made.')
    if (sha256Hex(found) !== source.sha256)
      throw new PlainError(`the source ${source.path} is damaged`, name, 'Copy the crate file again.')
    sources.set(source.sha256, found)
  }
  return { crate, sources }
}

function parseCrate(text: string, name: string): Crate {
  let data: unknown
  try {
    data = JSON.parse(text)
  } catch {
    throw new PlainError('its crate.json is not readable', name, 'Save the crate again where it was made.')
  }
  const version = z.object({ formatVersion: z.number() }).safeParse(data)
  if (version.success && version.data.formatVersion > 2)
    throw new PlainError('it was saved by a newer version', name, 'Open it with that version.')
  const parsed = crateSchema.safeParse(data)
  if (parsed.success) return parsed.data
  const issue = parsed.error.issues[0]
  throw new PlainError(
    `its crate.json is wrong at ${issue.path.join('.') || 'the top'} (${issue.message})`,
    name,
    'Save the crate again where it was made.',
  )
}
