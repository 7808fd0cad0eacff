import { z } from 'zod'
import type { Rulebook } from '../../game/schema.ts'
import { inFields, loadValues } from '../loaders/record/index.ts'
import type { TrialLog } from '../log.ts'
import { keysTwice } from './keys-twice.ts'

const eventSchema = z.object({
  when: z.string().max(64),
  at: z.string().max(200).optional(),
  do: z.string().max(64),
  to: z.string().max(200).optional(),
})
export type LoadedEvent = z.infer<typeof eventSchema>

const entrySchema = z.object({
  item: z.string(),
  kind: z.string(),
  category: z.string(),
  slot: z.string().optional(),
  /** The object of the game's own that it changes. */
  changes: z.string().max(200).optional(),
  /** How it turns to who looks. */
  turns: z.string().max(64).optional(),
  mesh: z.string().optional(),
  models: z.record(z.string(), z.string()).optional(),
  like: z.string().optional(),
  looks: z.array(z.string()).min(1),
  /** What the mesh file has no word for. */
  nodes: z.unknown().optional(),
  clips: z.unknown().optional(),
  said: z.unknown().optional(),
  ofModels: z.record(z.string(), z.unknown()).optional(),
  events: z.unknown().optional(),
})

/** An entry as the game holds it: what it says of its files, and every line as it stands. */
export interface LoadedEntry extends Omit<z.infer<typeof entrySchema>, 'events'> {
  events: LoadedEvent[]
  /** Under the game's own words. */
  lines: Record<string, unknown>
}

/** What an entry says of its files, of its likeness and of events, in the order in which the game reads it. */
const OF_FILES = [
  'item',
  'kind',
  'category',
  'slot',
  'changes',
  'turns',
  'mesh',
  'models',
  'nodes',
  'clips',
  'said',
  'ofModels',
  'looks',
]

/**
 * Reads an entry; null when it cannot be read.
 * @example const entry = readEntry('items/gate/entry.json', archive, rulebook, log)
 */
export function readEntry(
  path: string,
  archive: Map<string, Uint8Array>,
  rulebook: Rulebook,
  log: TrialLog,
): LoadedEntry | null {
  let entry: z.infer<typeof entrySchema>
  let lines: Record<string, unknown>
  const text = new TextDecoder().decode(archive.get(path))
  const { writer } = rulebook.files.entry
  try {
    if (!archive.has(path)) throw new Error('it is not there')
    const values = loadValues('entry', text, rulebook)
    entry = entrySchema.parse(inFields('entry', values, rulebook))
    lines = z.record(z.string(), z.unknown()).parse(values)
    assertKept(lines, rulebook)
  } catch {
    log.refuse('entry.unreadable', path, 'The entry cannot be read.')
    return null
  }
  if (writer === 'json')
    for (const key of keysTwice(text)) log.refuse('entry.twice', path, `The entry says ${key} twice.`)
  checkOrder(path, lines, rulebook, log)
  return { ...entry, lines, events: readEvents(path, entry.events, rulebook, log) }
}

/** Longer keys than this the game has no room for. */
export const LONGEST_KEY = 200
const MOST_VALUES = 1_000_000
const DEEPEST = 40

/** What the game keeps of an entry has room for so long a key, and is so deep. @throws Error when it has not */
function assertKept(lines: Record<string, unknown>, rulebook: Rulebook): void {
  const ofFiles = new Set([...OF_FILES, 'like', 'events'].map((field) => wordOf(field, rulebook)))
  const open = Object.entries(lines)
    .filter(([key]) => !ofFiles.has(key))
    .map(([key, value]) => ({ key, value, depth: 1 }))
  let count = 0
  for (let next = open.pop(); next; next = open.pop()) {
    const { key, value, depth } = next
    if (depth > DEEPEST || ++count > MOST_VALUES || (depth === 1 && key.length > LONGEST_KEY))
      throw new Error('it has no room for that')
    if (typeof value === 'object' && value !== null)
      for (const [below, each] of Object.entries(value)) open.push({ key: below, value: each, depth: depth + 1 })
  }
}

const wordOf = (field: string, { files }: Rulebook): string => {
  const words: Readonly<Record<string, string | undefined>> = files.words.entry
  return words[field] ?? field
}

/**
 * The keys that an entry of the game may have at its top, in the order in which the game reads them.
 * @example const { files, lines } = keysInOrder(rulebook)
 */
export function keysInOrder(rulebook: Rulebook): { files: string[]; lines: string[]; rows: string[]; last: string[] } {
  const { catalogue, behaviour } = rulebook
  return {
    files: OF_FILES.map((field) => wordOf(field, rulebook)),
    lines: catalogue.fields.map(({ key }) => key),
    rows: catalogue.rows ? [catalogue.rows.key] : [],
    last: [
      ...(behaviour.likeDonor ? [wordOf('like', rulebook)] : []),
      ...(behaviour.events.when.length > 0 ? [wordOf('events', rulebook)] : []),
    ],
  }
}

function checkOrder(path: string, lines: Record<string, unknown>, rulebook: Rulebook, log: TrialLog): void {
  if (!rulebook.catalogue.inOrder) return
  const places = Object.values(keysInOrder(rulebook)).flat()
  const met = Object.keys(lines).filter((key) => places.includes(key))
  const early = met.findIndex((key, index) => index > 0 && places.indexOf(key) < places.indexOf(met[index - 1]))
  if (early > 0)
    log.complain('entry.order', path, `The entry says ${met[early]} after ${met[early - 1]}; it is passed over.`)
}

function readEvents(path: string, said: unknown, rulebook: Rulebook, log: TrialLog): LoadedEvent[] {
  const key = wordOf('events', rulebook)
  if (said === undefined) return []
  if (rulebook.behaviour.events.when.length === 0) {
    if (!Array.isArray(said) || said.length > 0)
      log.complain('entry.unknown', path, `The entry says ${key}; it is passed over.`)
    return []
  }
  const read = z.array(eventSchema).max(1000).safeParse(said)
  if (!read.success) {
    log.refuse('entry.value', path, `The events cannot be read at ${read.error.issues[0].path.join('.') || key}.`)
    return []
  }
  for (const [number, event] of z.array(z.record(z.string(), z.unknown())).parse(said).entries())
    for (const word of Object.keys(event))
      if (!Object.hasOwn(eventSchema.shape, word))
        log.complain('entry.unknown', path, `Event ${number + 1} says ${word}; it is passed over.`)
  return read.data
}
