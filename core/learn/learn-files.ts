import type { GameFile, SeenPack, SeenRecord } from './game-files.ts'
import { Tally, type LearnedLine } from './learned.ts'

/** An item as its entry names it. */
export interface SeenItem {
  pack: SeenPack
  entry: SeenRecord
  item: string
  kind: string
  category: string
  slot: string | null
  meshes: string[]
  looks: SeenRecord[]
}

const lines = (...found: (LearnedLine | null)[]): LearnedLine[] => found.flatMap((line) => line ?? [])

/**
 * How files lie: archive, list of files, which texts there are and where.
 * @example const lines = learnFiles(packs, items)
 */
export function learnFiles(packs: readonly SeenPack[], items: readonly SeenItem[]): LearnedLine[] {
  const archive = new Tally<string>()
  const folders = new Tally<boolean>()
  const manifest = new Tally<string>()
  const manifestPath = new Tally<string>()
  const checksums = new Tally<string>()
  for (const { name, archive: bytes, manifest: list, files } of packs) {
    archive.add(bytes === null ? 'folder' : isStored(bytes) ? 'zip-stored' : 'zip-deflated', name)
    if (bytes) folders.add(hasFolders(bytes, files), name)
    manifest.add(list?.writer ?? 'none', name)
    if (list) {
      manifestPath.add(list.path, name)
      const hashed = list.leaves.some(({ value }) => typeof value === 'string' && /^[0-9a-f]{64}$/i.test(value))
      checksums.add(hashed ? 'sha256' : 'none', name)
    }
  }
  const entry = new Tally<string>()
  const look = new Tally<string>()
  const between = new Tally<string>()
  const texts = (records: readonly SeenRecord[], tally: Tally<string>): void => {
    for (const { path, writer, text } of records) {
      tally.add(writer, path)
      if (writer === 'text') between.add(text.between, path)
    }
  }
  const entries = packs.flatMap((pack) => pack.entries)
  const shown = items.flatMap(({ looks }) => looks)
  texts(entries, entry)
  texts(shown, look)
  return [
    ...lines(
      archive.line(['files', 'archive', 'writer'], 'how the archives are written', true),
      folders.line(['files', 'archive', 'folders'], 'whether folders have entries of their own in the archive', true),
      manifest.line(['files', 'manifest', 'writer'], 'whether a file lists the others', true),
      manifestPath.line(['files', 'manifest', 'path'], 'where that list lies', true),
      checksums.line(['files', 'manifest', 'checksums'], 'whether it has checksums', true),
      entry.line(['files', 'entry', 'writer'], 'how entries are written', true),
      look.line(['files', 'look', 'writer'], 'how looks are written', true),
      between.line(['files', 'text', 'between'], 'what stands between keys and values'),
    ),
    ...learnPaths(items),
  ]
}

/** Whether the first file of an archive lies in it as it is (APPNOTE.TXT of PKWARE, 4.3.7: method 0). */
function isStored(bytes: Uint8Array): boolean {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  for (let at = 0; at + 30 < bytes.length && view.getUint32(at, true) === 0x04034b50;) {
    const size = view.getUint32(at + 18, true)
    if (size > 0) return view.getUint16(at + 8, true) === 0
    at += 30 + view.getUint16(at + 26, true) + view.getUint16(at + 28, true) + size
  }
  return false
}

/** Whether an archive names a folder of its files (an entry that ends in a slash). */
function hasFolders(bytes: Uint8Array, files: ReadonlyMap<string, Uint8Array>): boolean {
  const [folder] = [...files.keys()].flatMap((path) => (path.includes('/') ? path.slice(0, path.indexOf('/') + 1) : []))
  if (folder === undefined) return false
  const name = new TextEncoder().encode(folder)
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  for (let at = 0; at + 30 + name.length <= bytes.length; at++)
    if (
      view.getUint32(at, true) === 0x04034b50 &&
      view.getUint16(at + 26, true) === name.length &&
      name.every((letter, index) => bytes[at + 30 + index] === letter)
    )
      return true
  return false
}

/** A path with the words of its item in braces. */
function templateOf(path: string, { item, category, slot }: SeenItem): string {
  const words: [string, string][] = [
    ...(slot === null || slot === ''
      ? []
      : ([
          [slot, '{slot}'],
          [slot.toUpperCase(), '{SLOT}'],
        ] as [string, string][])),
    [item, '{item}'],
    [category, '{category}'],
  ]
  return words.reduce((text, [word, name]) => (word === '' ? text : replaceWhole(text, word, name)), path)
}

/** A word replaced where no letter or digit stands before or after it. */
const replaceWhole = (text: string, word: string, name: string): string =>
  text
    .split(word)
    .reduce((before, after) =>
      /[\p{L}\p{N}]$/u.test(before) || /^[\p{L}\p{N}]/u.test(after) ? before + word + after : before + name + after,
    )

/** The last step of a template with what is left of its name as a word: “{slot}_bark_s.tga” as “{slot}_{map}.tga”. */
export function withOwnName(template: string, word: string): string {
  const [, folder, stem, ending] = /^(.*\/)?([^/]*?)(\.[^./]*)?$/.exec(template) ?? []
  const [, fixed] = /^(.*\}[^\p{L}\p{N}{}]+)/u.exec(stem ?? '') ?? []
  return `${folder ?? ''}${fixed ?? ''}{${word}}${ending ?? ''}`
}

/** Where a look lies: by the name that it says of itself, where its path has that. */
function lookTemplate({ path, value }: SeenRecord, seen: SeenItem): string {
  const template = templateOf(path, seen)
  for (const name of Object.values(value))
    if (typeof name === 'string' && name !== '') {
      const named = replaceWhole(template, name, '{look}')
      if (named.slice(named.lastIndexOf('/')).includes('{look}')) return named
    }
  return withOwnName(template, 'look')
}

function learnPaths(items: readonly SeenItem[]): LearnedLine[] {
  const mesh = new Tally<string>()
  const entry = new Tally<string>()
  const look = new Tally<string>()
  const map = new Tally<string>()
  for (const seen of items) {
    entry.add(templateOf(seen.entry.path, seen), seen.entry.path)
    // Of several models each has its own name after the item's.
    if (seen.meshes.length === 1) mesh.add(templateOf(seen.meshes[0], seen), seen.meshes[0])
    for (const each of seen.looks) {
      look.add(lookTemplate(each, seen), each.path)
      for (const { value } of each.leaves)
        if (typeof value === 'string' && seen.pack.pictures.includes(value))
          map.add(withOwnName(templateOf(value, seen), 'map'), value)
    }
  }
  return lines(
    mesh.line(['files', 'paths', 'mesh'], 'where meshes lie'),
    entry.line(['files', 'paths', 'entry'], 'where entries lie'),
    look.line(['files', 'paths', 'look'], 'where looks lie'),
    map.line(['files', 'paths', 'map'], 'where maps lie'),
  )
}

/**
 * Files as they are brought, with forward slashes.
 * @example withSlashes([{ path: 'maps\\oak.png', bytes: new Uint8Array(0) }])[0].path // 'maps/oak.png'
 */
export const withSlashes = (files: readonly GameFile[]): GameFile[] =>
  files.map(({ path, bytes }) => ({ path: path.replaceAll('\\', '/'), bytes }))
