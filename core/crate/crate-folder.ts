import { z } from 'zod'
import { sha256Hex } from '../support/hashing.ts'
import { climbsOut, pathSafe } from '../support/paths.ts'
import { PlainError } from '../support/plain-error.ts'
import type { Crate, CrateItem } from './schema.ts'

/**
 * A crate as a folder that a repository can keep: `crate.json` says what it is, `rulebook.json` what its game demands,
 * `items/` has a file an item and `sources/` a folder an item, with the files as they were brought. Whoever changes one
 * item changes no file of another. Items stand in the order of their names.
 */
const FORMAT = 'gentle-crate-folder'
const HEAD = 'crate.json'
const RULEBOOK = 'rulebook.json'
const STOCK = 'stock.zip'
const ITEMS = 'items/'
const SOURCES = 'sources/'

const headSchema = z.object({
  format: z.literal(FORMAT),
  formatVersion: z.literal(1),
  id: z.string(),
  name: z.string(),
  presets: z.unknown().optional(),
})
const itemFileSchema = z.looseObject({
  id: z.string(),
  sources: z.array(z.looseObject({ path: z.string(), file: z.string() })),
})

const text = (value: unknown): Uint8Array => new TextEncoder().encode(`${JSON.stringify(value, null, 2)}\n`)

/**
 * Whether files by path are those of a crate folder.
 * @example isCrateFolder(new Map()) // false
 */
export function isCrateFolder(files: ReadonlyMap<string, Uint8Array>): boolean {
  const head = files.get(HEAD)
  return head !== undefined && z.object({ format: z.literal(FORMAT) }).safeParse(jsonOrNothing(head)).success
}

/**
 * The files of a crate folder. The same crate gives the same bytes.
 * @throws PlainError when a source is missing
 *
 * @example for (const [path, bytes] of writeCrateFolder({ crate, sources })) writeFileSync(join(folder, path), bytes)
 */
export function writeCrateFolder({
  crate,
  sources,
}: {
  crate: Crate
  sources: ReadonlyMap<string, Uint8Array>
}): Map<string, Uint8Array> {
  const bytesOf = (sha256: string): Uint8Array => {
    const bytes = sources.get(sha256)
    if (!bytes)
      throw new PlainError('a source is missing', sha256.slice(0, 12), 'Bring the file again, then save the crate.')
    return bytes
  }
  const files = new Map<string, Uint8Array>([
    [
      HEAD,
      text({
        format: FORMAT,
        formatVersion: 1,
        id: crate.id,
        name: crate.name,
        ...(crate.presets ? { presets: crate.presets } : {}),
      }),
    ],
    [RULEBOOK, text(crate.rulebook)],
  ])
  if (crate.stock) files.set(STOCK, bytesOf(crate.stock.sha256))
  for (const item of [...crate.items].sort((a, b) => (a.id < b.id ? -1 : 1))) {
    const places = sourcePlaces(item)
    files.set(
      `${ITEMS}${item.id}.json`,
      text({ ...item, sources: item.sources.map((source, at) => ({ path: source.path, file: places[at] })) }),
    )
    for (const [at, { sha256 }] of item.sources.entries())
      files.set(`${SOURCES}${item.id}/${places[at]}`, bytesOf(sha256))
  }
  return files
}

/** Where the sources of an item stand in its folder: by their own paths, safe on any disk, none over another. */
function sourcePlaces({ sources }: Pick<CrateItem, 'sources'>): string[] {
  const taken = new Set<string>()
  return sources.map(({ path }) => {
    const safe = safePath(path)
    const dot = safe.lastIndexOf('.') > safe.lastIndexOf('/') ? safe.lastIndexOf('.') : safe.length
    let place = safe
    for (let number = 2; taken.has(place.toLowerCase()); number++)
      place = `${safe.slice(0, dot)}~${number}${safe.slice(dot)}`
    taken.add(place.toLowerCase())
    return place
  })
}

const LONGEST_STEP = 100

const safePath = (path: string): string =>
  path
    .split(/[\\/]/)
    .filter((step) => step !== '' && step !== '.' && step !== '..')
    .map((step) =>
      pathSafe(step)
        .replace(/[. ]+$/, '_')
        .slice(-LONGEST_STEP),
    )
    .join('/') || 'source'

/** What the files of a crate folder say, as the description of a crate, and its sources by their checksums. */
export interface FolderContent {
  /** Not looked at yet: items may be broken one by one. */
  description: unknown
  sources: Map<string, Uint8Array>
}

/**
 * Reads a crate folder. A source that was saved anew counts as it is now; one that is gone is told by whoever looks for
 * its checksum.
 * @throws PlainError when the folder does not say what it is
 *
 * @example const { description, sources } = readCrateFolder(files, 'otterby')
 */
export function readCrateFolder(files: ReadonlyMap<string, Uint8Array>, name: string): FolderContent {
  const head = headSchema.safeParse(jsonOrNothing(files.get(HEAD)))
  if (!head.success)
    throw new PlainError(
      `its ${HEAD} is wrong at ${head.error.issues[0].path.join('.') || 'its beginning'}`,
      name,
      'Take that file from the repository again.',
    )
  const sources = new Map<string, Uint8Array>()
  const keep = (bytes: Uint8Array): { sha256: string; bytes: number } => {
    const sha256 = sha256Hex(bytes)
    sources.set(sha256, bytes)
    return { sha256, bytes: bytes.length }
  }
  const stock = files.get(STOCK)
  const items = [...files.keys()]
    .filter((path) => path.startsWith(ITEMS) && path.endsWith('.json') && !path.slice(ITEMS.length).includes('/'))
    .sort()
    .map((path) => {
      const read = itemFileSchema.safeParse(jsonOrNothing(files.get(path)))
      // What is no item is told as such by whoever reads the description.
      if (!read.success) return new TextDecoder().decode(files.get(path))
      const item = read.data
      return {
        ...item,
        sources: item.sources.map(({ path: written, file }) => {
          const place = `${SOURCES}${item.id}/${file}`
          const bytes = climbsOut(place) ? undefined : files.get(place)
          return { path: written, ...(bytes ? keep(bytes) : { sha256: sha256Hex(text(place)), bytes: 0 }) }
        }),
      }
    })
  return {
    description: {
      format: 'gentle-crate',
      formatVersion: 2,
      id: head.data.id,
      name: head.data.name,
      rulebook: jsonOrNothing(files.get(RULEBOOK)),
      ...(head.data.presets === undefined ? {} : { presets: head.data.presets }),
      stock: stock ? keep(stock) : null,
      items,
    },
    sources,
  }
}

function jsonOrNothing(bytes: Uint8Array | undefined): unknown {
  if (!bytes) return undefined
  try {
    return JSON.parse(new TextDecoder().decode(bytes)) as unknown
  } catch {
    return undefined
  }
}
