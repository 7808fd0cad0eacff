import { recordFields, wordFor, type Fields, type RecordSort, type Words } from '../../game/schema-records.ts'
import type { Rulebook } from '../../game/schema.ts'
import { PlainError } from '../../support/plain-error.ts'
import { readTextRecord, writeTextRecord } from './text-record.ts'

type Writer = Rulebook['files']['entry']['writer']

const writers: Record<Writer, (value: unknown, rulebook: Rulebook) => string> = {
  json: (value) => `${JSON.stringify(value, null, 2)}\n`,
  text: (value, { files }) => writeTextRecord(value, files.text),
}

const readers: Record<Writer, (text: string, name: string, rulebook: Rulebook) => unknown> = {
  json: (text) => JSON.parse(text) as unknown,
  text: (text, name, { files }) => readTextRecord(text, files.text, name),
}

const writerOf = (sort: RecordSort, { files }: Rulebook): Writer => {
  const { writer } = files[sort]
  if (writer === 'none') throw new Error(`the game has no ${sort}`)
  return writer
}

/**
 * An entry, a look or a manifest as the game writes it, in the game's words.
 *
 * @example writeRecord('entry', { item: 'gate', kind: 'prop' }, rulebook)
 */
export const writeRecord = (sort: RecordSort, value: object, rulebook: Rulebook): Uint8Array =>
  writeWords(sort, inGameWords(sort, value, rulebook), rulebook)

/**
 * A record under the game's words.
 * @example const words = inGameWords('look', look, rulebook)
 */
export const inGameWords = (sort: RecordSort, value: object, { files }: Rulebook): object =>
  Object(rename(value, recordFields[sort], files.words[sort])) as object

/**
 * A record that stands in the game's words already, as the game writes it.
 * @example const bytes = writeWords('look', inGameWords('look', look, rulebook), rulebook)
 */
export const writeWords = (sort: RecordSort, words: object, rulebook: Rulebook): Uint8Array =>
  new TextEncoder().encode(writers[writerOf(sort, rulebook)](words, rulebook))

/**
 * What a record says, in the game's words.
 * @throws PlainError, SyntaxError when it cannot be read
 *
 * @example const words = readWords('entry', bytes, 'items/gate/entry.json', rulebook)
 */
export const readWords = (sort: RecordSort, bytes: Uint8Array, name: string, rulebook: Rulebook): unknown =>
  readers[writerOf(sort, rulebook)](new TextDecoder().decode(bytes), name, rulebook)

/**
 * What a game's entry, look or manifest says, under our names; a schema has to look at it.
 * @throws PlainError, SyntaxError when it cannot be read
 *
 * @example const look = lookSchema.parse(readRecord('look', bytes, path, rulebook))
 */
export const readRecord = (sort: RecordSort, bytes: Uint8Array, name: string, rulebook: Rulebook): unknown =>
  inOurWords(sort, readWords(sort, bytes, name, rulebook), rulebook)

/**
 * A record that was read in the game's words, under our names.
 * @example const entry = inOurWords('entry', words, rulebook)
 */
export function inOurWords(sort: RecordSort, value: unknown, rulebook: Rulebook): unknown {
  const words = rulebook.files.words[sort]
  const renamed = Object.keys(words).filter((field) => wordFor(field, words) !== field)
  const ours = Object.fromEntries(renamed.map((field) => [wordFor(field, words), field]))
  // What the game calls otherwise is not read under our name for it.
  const strangers = renamed.filter((field) => !Object.hasOwn(ours, field))
  return rename(value, gameFields(recordFields[sort], words), ours, new Set(strangers))
}

/**
 * The same, or undefined where there is none or it cannot be read.
 * @example const manifest = readRecordOrNothing('manifest', files.get(path), path, rulebook)
 */
export function readRecordOrNothing(
  sort: RecordSort,
  bytes: Uint8Array | undefined,
  name: string,
  rulebook: Rulebook,
): unknown {
  if (!bytes) return undefined
  try {
    return readRecord(sort, bytes, name, rulebook)
  } catch (error) {
    if (error instanceof PlainError || error instanceof SyntaxError) return undefined
    throw error
  }
}

/** The fields under the game's words. */
const gameFields = (fields: Fields, words: Words): Fields =>
  Object.fromEntries(
    Object.entries(fields).map(([field, below]) => [wordFor(field, words), below && gameFields(below, words)]),
  )

/** Fields under other words, at every place where a field may stand; what stands below others is left alone. */
function rename(
  value: unknown,
  fields: Fields | null,
  words: Words,
  leftOut: ReadonlySet<string> = new Set(),
): unknown {
  if (fields === null || typeof value !== 'object' || value === null) return value
  const every = fields['*']
  if (Array.isArray(value))
    return every === undefined ? value : value.map((each: unknown) => rename(each, every, words, leftOut))
  return Object.fromEntries(
    Object.entries(value).flatMap(([key, each]): [string, unknown][] => {
      if (every !== undefined) return [[key, rename(each, every, words, leftOut)]]
      if (leftOut.has(key)) return []
      return [[wordFor(key, words), rename(each, Object.hasOwn(fields, key) ? fields[key] : null, words, leftOut)]]
    }),
  )
}
