import type { RecordSort } from '../game/schema-records.ts'
import { readTextRecord, type TextForm } from '../pack/records/text-record.ts'
import { readArchive } from '../support/archive.ts'
import { PlainError } from '../support/plain-error.ts'

/** A file that the game accepts. */
export interface GameFile {
  path: string
  bytes: Uint8Array
}

/** An entry, a look or a list of files, as it is written. */
export interface SeenRecord {
  path: string
  writer: 'json' | 'text'
  text: TextForm
  value: Record<string, unknown>
  /** Every text and number in it with the keys that lead there. */
  leaves: { place: string[]; value: unknown }[]
}

/** What lies together: a pack, or the folder. */
export interface SeenPack {
  name: string
  /** The archive itself; null where files lie loose. */
  archive: Uint8Array | null
  files: Map<string, Uint8Array>
  meshes: string[]
  pictures: string[]
  entries: SeenRecord[]
  looks: SeenRecord[]
  manifest: SeenRecord | null
}

const MESH = /\.(glb|gltf|obj|dae)$/i
const PICTURE = /\.(dds|ktx2|tga|png)$/i
const MOST_LEAVES = 200_000
const LARGEST_RECORD = 8_000_000
/** What names more than this share of the files beside it is the list of them. */
const MANIFEST_SHARE = 0.6

/**
 * Packs and loose files, with what each file of them is for. @throws PlainError when there is nothing to learn from
 * @example const packs = openGameFiles([{ path: 'otterby.zip', bytes }])
 */
export function openGameFiles(files: readonly GameFile[]): SeenPack[] {
  const archives = files.filter(({ bytes }) => bytes[0] === 0x50 && bytes[1] === 0x4b)
  const loose = files.filter((file) => !archives.includes(file))
  const packs = archives.map(({ path, bytes }) => seenPack(path, bytes, readArchive(bytes, path)))
  if (loose.length > 0) packs.push(seenPack('the folder', null, new Map(loose.map(({ path, bytes }) => [path, bytes]))))
  if (packs.every(({ meshes, pictures }) => meshes.length + pictures.length === 0))
    throw new PlainError(
      'there is neither a mesh nor a picture in them',
      'these files',
      'Bring packs that the game accepts, or its folder.',
    )
  return packs
}

function seenPack(name: string, archive: Uint8Array | null, files: Map<string, Uint8Array>): SeenPack {
  const paths = [...files.keys()]
  const pictures = paths.filter((path) => PICTURE.test(path))
  const lists = paths.filter((path) => isPartList(files.get(path)))
  const meshes = [...paths.filter((path) => MESH.test(path)), ...lists]
  const records = paths.flatMap((path) =>
    MESH.test(path) || PICTURE.test(path) || lists.includes(path) ? [] : (readAnyRecord(path, files.get(path)) ?? []),
  )
  const kinds: PathKinds = {
    all: new Set(paths),
    meshes: new Set(meshes),
    records: new Set(records.map(({ path }) => path)),
  }
  const sorted = { manifest: [] as SeenRecord[], entry: [] as SeenRecord[], look: [] as SeenRecord[] }
  for (const record of records) sorted[sortOf(record, kinds)].push(record)
  const [manifest] = sorted.manifest
  return {
    name,
    archive,
    files,
    meshes,
    pictures,
    entries: sorted.entry,
    looks: sorted.look,
    manifest: manifest ?? null,
  }
}

interface PathKinds {
  all: ReadonlySet<string>
  meshes: ReadonlySet<string>
  records: ReadonlySet<string>
}

/** What a record is for, by which files beside it it names. */
function sortOf({ path, leaves }: SeenRecord, { all, meshes, records }: PathKinds): RecordSort {
  const texts = leaves.flatMap(({ value }) => (typeof value === 'string' && value !== path ? value : []))
  const named = [...new Set(texts)].filter((text) => all.has(text))
  const others = all.size - 1
  if (others > 2 && named.length > others * MANIFEST_SHARE) return 'manifest'
  return named.some((each) => meshes.has(each) || records.has(each)) ? 'entry' : 'look'
}

/** A file as JSON, or as lines of text of any of our forms; null when it is neither. */
function readAnyRecord(path: string, bytes: Uint8Array | undefined): SeenRecord | null {
  if (!bytes || bytes.length > LARGEST_RECORD || bytes.includes(0)) return null
  const text = new TextDecoder().decode(bytes)
  const form: TextForm = { between: '=', comment: '#' }
  try {
    return asRecord(path, 'json', form, JSON.parse(text))
  } catch {
    for (const between of ['=', ':', ' '] as const)
      for (const comment of ['#', ';', '//'] as const)
        try {
          return asRecord(path, 'text', { between, comment }, readTextRecord(text, { between, comment }, path))
        } catch {
          continue
        }
  }
  return null
}

function asRecord(path: string, writer: 'json' | 'text', text: TextForm, value: unknown): SeenRecord | null {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return null
  const leaves: SeenRecord['leaves'] = []
  const walk = (at: unknown, place: string[]): void => {
    if (leaves.length >= MOST_LEAVES || place.length > 16) return
    if (typeof at !== 'object' || at === null) leaves.push({ place, value: at })
    else for (const [key, below] of Object.entries(at)) walk(below, [...place, key])
  }
  walk(value, [])
  return { path, writer, text, value: value as Record<string, unknown>, leaves }
}

/** Whether a file is a JSON list of many things set, turned and sized by numbers. */
export function isPartList(bytes: Uint8Array | undefined): boolean {
  return bytes !== undefined && bytes.length < LARGEST_RECORD * 8 && partListWords(bytes) !== null
}

/**
 * The words of a list of half-blocks: what its lists and numbers are called; null for another file.
 * @example const words = partListWords(bytes)
 */
export function partListWords(bytes: Uint8Array): Record<string, string> | null {
  if (bytes[0] !== 0x7b) return null
  let value: unknown
  try {
    value = JSON.parse(new TextDecoder().decode(bytes))
  } catch {
    return null
  }
  const [trays, list] = listIn(value) ?? []
  const [tray] = list ?? []
  const [blocks, inside] = listIn(tray) ?? []
  const [block] = inside ?? []
  if (!trays || !blocks || typeof block !== 'object' || block === null) return null
  const ofLength = (length: number): string | undefined =>
    Object.entries(block).find(([, numbers]) => Array.isArray(numbers) && numbers.length === length)?.[0]
  const [at, turn, size] = [ofLength(3), ofLength(4), ofLength(2)]
  const named = Object.entries(tray as object).filter(([, said]) => typeof said === 'string')
  const [name, finish] = named.map(([key]) => key)
  if (!at || !turn || !size || !name || !finish) return null
  return { trays, tray: name, finish, blocks, at, turn, size }
}

const listIn = (value: unknown): [string, unknown[]] | undefined =>
  typeof value === 'object' && value !== null
    ? Object.entries(value).find((entry): entry is [string, unknown[]] => {
        const [, list] = entry as [string, unknown]
        return Array.isArray(list) && list.length > 0 && typeof list[0] === 'object' && !Array.isArray(list[0])
      })
    : undefined
