import type { Rulebook } from '../../../game/schema.ts'
import { parseLines } from './text.ts'

type Sort = 'entry' | 'look' | 'manifest'
type Words = Readonly<Record<string, string | undefined>>

/**
 * What an entry, a look or a manifest says, by the loader's own names of its fields.
 * @throws Error when it cannot be read
 *
 * @example const manifest = loadRecord('manifest', archive.get(path), rulebook)
 */
export function loadRecord(sort: Sort, bytes: Uint8Array | undefined, rulebook: Rulebook): unknown {
  if (!bytes) throw new Error('it is not there')
  return inFields(sort, loadValues(sort, new TextDecoder().decode(bytes), rulebook), rulebook)
}

/**
 * What the text of a record says, under the game's words. @throws Error when it cannot be read
 * @example const values = loadValues('entry', text, rulebook)
 */
export const loadValues = (sort: Sort, text: string, { files }: Rulebook): unknown =>
  files[sort].writer === 'text' ? parseLines(text, files.text) : (JSON.parse(text) as unknown)

/**
 * The same by the loader's own names of its fields. @throws Error when it has no fields
 * @example const entry = inFields('entry', loadValues('entry', text, rulebook), rulebook)
 */
export function inFields(sort: Sort, value: unknown, { files }: Rulebook): unknown {
  const words = files.words[sort]
  const top = inOwnWords(value, words)
  if (sort === 'look') return { ...top, materials: each(top['materials'], words) }
  if (sort === 'manifest') return { ...top, items: each(top['items'], words), files: each(top['files'], words) }
  return top
}

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

/** The game's words for fields looked up; a field that the game calls otherwise is none. */
function inOwnWords(value: unknown, words: Words): Record<string, unknown> {
  if (!isRecord(value)) throw new Error('it has no fields')
  const fieldOf = new Map(Object.entries(words).map(([field, word = field]) => [word, field]))
  return Object.fromEntries(
    Object.entries(value)
      .filter(([key]) => fieldOf.has(key) || !Object.hasOwn(words, key))
      .map(([key, said]) => [fieldOf.get(key) ?? key, said]),
  )
}

function each(value: unknown, words: Words): unknown {
  if (Array.isArray(value)) return value.map((one: unknown) => inOwnWords(one, words))
  if (!isRecord(value)) return value
  return Object.fromEntries(Object.entries(value).map(([name, one]) => [name, inOwnWords(one, words)]))
}
