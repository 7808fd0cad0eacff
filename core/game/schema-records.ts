import { z } from 'zod'

/** How what is said of an item, of what it shows and of a pack is written: an entry, a look, a manifest. */
export const recordWriters = ['json', 'text'] as const
export const manifestWriters = [...recordWriters, 'none'] as const

/**
 * The fields of each record under our names, in the order in which they are written; `*` stands for names that an item
 * gives, and for places in a list. What a game calls them is said by `files.words`.
 */
export interface Fields {
  readonly [field: string]: Fields | null
}
export const recordFields = {
  entry: {
    item: null,
    kind: null,
    category: null,
    slot: null,
    changes: null,
    turns: null,
    mesh: null,
    models: null,
    nodes: null,
    clips: null,
    said: null,
    ofModels: null,
    looks: null,
    like: null,
    events: { '*': { when: null, at: null, do: null, to: null } },
  },
  look: {
    look: null,
    materials: { '*': { shading: null, surface: null, flags: null, tint: null, maps: null } },
  },
  manifest: {
    game: null,
    version: null,
    title: null,
    items: { '*': { name: null, kind: null } },
    files: { '*': { path: null, bytes: null, sha256: null } },
  },
} as const satisfies Record<string, Fields>

export type RecordSort = keyof typeof recordFields

const fieldsOf = (fields: Fields): string[] =>
  Object.entries(fields).flatMap(([name, below]) => [
    ...(name === '*' ? [] : [name]),
    ...(below ? fieldsOf(below) : []),
  ])

/** A game's words by our fields. */
export type Words = Readonly<Record<string, string | undefined>>

/**
 * What a game calls a field.
 * @example wordFor('title', { title: 'titel' }) // 'titel'
 */
export const wordFor = (field: string, words: Words): string =>
  (Object.hasOwn(words, field) ? words[field] : undefined) ?? field

const wordsOf = (fields: Fields) => {
  const known = fieldsOf(fields)
  return z
    .strictObject(Object.fromEntries(known.map((field) => [field, z.string().min(1).max(60).optional()])))
    .refine((words) => new Set(known.map((field) => wordFor(field, words))).size === known.length, {
      error: 'two fields have one word',
    })
    .prefault({})
}

/** What a game calls the fields of its records, for those that it does not call as we do. */
export const wordsSchema = z.object({
  entry: wordsOf(recordFields.entry),
  look: wordsOf(recordFields.look),
  manifest: wordsOf(recordFields.manifest),
})

/** How lines of text are written: what stands between a key and its value, and what begins a comment. */
export const textSchema = z.object({
  between: z.enum(['=', ':', ' ']).default('='),
  comment: z.enum(['#', ';', '//']).default('#'),
})
