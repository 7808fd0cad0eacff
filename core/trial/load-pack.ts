import { sha256 } from '@noble/hashes/sha2.js'
import { bytesToHex } from '@noble/hashes/utils.js'
import { unzipSync } from 'fflate'
import { z } from 'zod'
import type { Rulebook } from '../game/schema.ts'
import { checkTogether } from './entry/check-together.ts'
import { readEntry } from './entry/read-entry.ts'
import { loadItem, type LoadedItem } from './load-item.ts'
import { loadRecord } from './loaders/record/index.ts'
import { announcesItem } from './sorted-nodes.ts'
import { TrialLog, type LogLine } from './log.ts'

export interface TrialResult {
  /** Whether the game would take the pack. */
  loads: boolean
  log: LogLine[]
  items: LoadedItem[]
}

const manifestSchema = z.object({
  game: z.string(),
  version: z.string(),
  files: z.array(z.object({ path: z.string(), bytes: z.number().int().nonnegative(), sha256: z.string().optional() })),
})

const MOST_UNPACKED_BYTES = 600 * 1024 * 1024

/**
 * Loads a pack as the game's programmers would have written it, from the rulebook alone.
 * @param bytes a ZIP, or the files themselves by path where they lie loose
 * @param below packs that are read before it: what it does not have is looked for there, and items of all are told
 *
 * @example const { loads, log, items } = loadPack(bytes, rulebook)
 */
export function loadPack(
  bytes: Uint8Array | ReadonlyMap<string, Uint8Array>,
  rulebook: Rulebook,
  below: readonly Uint8Array[] = [],
): TrialResult {
  const log = new TrialLog()
  const items: LoadedItem[] = []
  const own = openArchive(bytes, rulebook, log)
  const lower = below.map((each) => openArchive(each, rulebook, log))
  if (own && lower.every((each) => each !== null)) {
    for (const each of [...lower, own]) checkManifest(each, rulebook, log)
    const archive = new Map([...lower, own].flatMap((each) => [...each]))
    const entries = [...archive.keys()].filter((path) => announcesItem(path, rulebook))
    if (entries.length === 0)
      log.refuse(
        'pack.empty',
        rulebook.files.manifest.path,
        `The pack has no item: no ${rulebook.files.paths.entry} was found.`,
      )
    const names = new Set<string>()
    const announced = entries.flatMap((path) => {
      const entry = readEntry(path, archive, rulebook, log)
      return entry ? [{ path, entry }] : []
    })
    const known = new Map(announced.map(({ entry }) => [entry.item, entry.kind]))
    for (const { path, entry } of announced) {
      log.about(entry.item)
      const item = loadItem(path, entry, known, archive, rulebook, log)
      if (!item) continue
      if (names.has(item.name)) log.refuse('item.twice', path, `The item ${item.name} is in the pack twice.`)
      names.add(item.name)
      items.push(item)
      log.tell(
        'item.loaded',
        path,
        rulebook.halfBlocks
          ? `${item.name}: ${counted(item.triangles, 'half-block')} in ${counted(item.view.length, 'tray')}.`
          : `${item.name}: ${counted(item.triangles, 'triangle')}, ${counted(item.solids.length, 'solid')}, ` +
              `${counted(item.textures, 'texture')}.`,
      )
    }
    log.about(null)
    checkTogether(
      items.map(({ entryPath, entry, ...item }) => ({
        ...item,
        path: entryPath,
        lines: entry.lines,
        events: entry.events,
      })),
      rulebook,
      log,
    )
  }
  return { loads: !log.refused, log: log.lines, items: log.refused ? [] : items }
}

const counted = (count: number, thing: string): string => `${count} ${thing}${count === 1 ? '' : 's'}`

function openArchive(
  bytes: Uint8Array | ReadonlyMap<string, Uint8Array>,
  rulebook: Rulebook,
  log: TrialLog,
): Map<string, Uint8Array> | null {
  const size =
    bytes instanceof Uint8Array ? bytes.length : [...bytes.values()].reduce((sum, { length }) => sum + length, 0)
  if (size > rulebook.files.archive.largestBytes) {
    log.refuse(
      'pack.size',
      '',
      `The pack has ${(size / 1024 / 1024).toFixed(1)} MiB; ` +
        `${rulebook.files.archive.largestBytes / 1024 / 1024} MiB are read.`,
    )
    return null
  }
  if (!(bytes instanceof Uint8Array)) return new Map(bytes)
  let unpacked = 0
  try {
    // Nothing is unpacked before all that the archive promises was added up.
    unzipSync(bytes, {
      filter: (file) => {
        unpacked += file.originalSize
        if (unpacked > MOST_UNPACKED_BYTES) throw new Error('it unpacks to more than 600 MB')
        return false
      },
    })
    const files = unzipSync(bytes, { filter: (file) => !file.name.endsWith('/') })
    const outside = Object.keys(files).find(
      (path) => path.split(/[\\/]/).includes('..') || /^([\\/]|[a-z]:)/i.test(path),
    )
    if (outside !== undefined) {
      log.refuse('pack.path', outside, 'The path leads out of the pack.')
      return null
    }
    return new Map(Object.entries(files))
  } catch (error) {
    log.refuse(
      'pack.archive',
      '',
      `The archive cannot be opened: ${error instanceof Error ? error.message : String(error)}.`,
    )
    return null
  }
}

function checkManifest(archive: Map<string, Uint8Array>, rulebook: Rulebook, log: TrialLog): void {
  const { path, writer } = rulebook.files.manifest
  if (writer === 'none') return
  const bytes = archive.get(path)
  if (!bytes) return log.refuse('manifest.missing', path, 'The manifest is missing.')
  let data: unknown
  try {
    data = loadRecord('manifest', bytes, rulebook)
  } catch (error) {
    const why = error instanceof Error ? error.message : String(error)
    return log.refuse('manifest.unreadable', path, `The manifest cannot be read: ${why}.`)
  }
  const parsed = manifestSchema.safeParse(data)
  if (!parsed.success)
    return log.refuse('manifest.unreadable', path, `The manifest is wrong at ${parsed.error.issues[0].path.join('.')}.`)
  const manifest = parsed.data
  if (manifest.game !== rulebook.id)
    log.refuse('manifest.game', path, `The pack is for ${manifest.game}, this is ${rulebook.id}.`)
  if (manifest.version !== rulebook.version)
    log.complain(
      'manifest.version',
      path,
      `The pack was made for version ${manifest.version}, this is ${rulebook.version}.`,
    )
  const listed = new Set(manifest.files.map((file) => file.path))
  for (const file of manifest.files) {
    const found = archive.get(file.path)
    if (!found) log.refuse('manifest.file', file.path, 'The manifest lists this file; it is not in the pack.')
    else if (
      found.length !== file.bytes ||
      (rulebook.files.manifest.checksums === 'sha256' && bytesToHex(sha256(found)) !== file.sha256)
    )
      log.refuse('manifest.checksum', file.path, 'The file is not the one the manifest lists.')
  }
  for (const present of archive.keys())
    if (present !== path && !listed.has(present))
      log.complain('manifest.unlisted', present, 'The manifest does not list this file; it is skipped.')
}
