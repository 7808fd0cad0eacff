import { recordFields } from '../game/schema-records.ts'
import type { SeenPack } from './game-files.ts'
import type { EntryWords } from './learn-items.ts'

/** A field of the game's entries that is no path and no name of ours: what it holds, and between which values. */
export interface SeenField {
  /** The keys that lead to it; `*` for places in a list. */
  place: string
  entries: number
  of: number
  holds:
    | { sort: 'number'; least: number; most: number; whole: boolean }
    | { sort: 'yes-no' }
    | { sort: 'file' }
    | { sort: 'word'; words: string[] }
    | { sort: 'text'; longest: number }
    | { sort: 'various' }
}

const MOST_FIELDS = 500
/** More different texts than this are no choice of words. */
const MOST_WORDS = 12

/**
 * What entries say besides what packing writes into every entry: numbers with their ranges, words with all that were
 * seen, texts, files.
 *
 * @example learnEntryFields(packs, learnEntryWords(packs))[0] // { place: 'price', holds: { sort: 'number', least: 2, … } }
 */
export function learnEntryFields(packs: readonly SeenPack[], { words }: EntryWords): SeenField[] {
  const ours = new Set([...Object.values(words), ...Object.keys(recordFields.entry)])
  const values = new Map<string, unknown[]>()
  const entriesWith = new Map<string, Set<string>>()
  const entries = packs.flatMap((pack) => pack.entries.map((entry) => ({ pack, entry })))
  const files = new Set(packs.flatMap((pack) => [...pack.files.keys()]))
  for (const { pack, entry } of entries)
    for (const { place, value } of entry.leaves) {
      if (ours.has(place[0])) continue
      const key = place.map((step) => (/^\d+$/.test(step) ? '*' : step)).join('.')
      if (!values.has(key) && values.size >= MOST_FIELDS) continue
      values.set(key, [...(values.get(key) ?? []), value])
      entriesWith.set(key, (entriesWith.get(key) ?? new Set()).add(`${pack.name} ${entry.path}`))
    }
  return [...values].map(([place, seen]) => ({
    place,
    entries: entriesWith.get(place)?.size ?? 0,
    of: entries.length,
    holds: holds(seen, files),
  }))
}

function holds(seen: readonly unknown[], files: ReadonlySet<string>): SeenField['holds'] {
  const numbers = seen.map(asNumber)
  if (numbers.every((number) => number !== null))
    return {
      sort: 'number',
      least: Math.min(...numbers),
      most: Math.max(...numbers),
      whole: numbers.every(Number.isInteger),
    }
  if (seen.every((value) => /^(?:true|false|yes|no|on|off)$/i.test(String(value)))) return { sort: 'yes-no' }
  if (!seen.every((value): value is string => typeof value === 'string')) return { sort: 'various' }
  if (seen.every((value) => files.has(value))) return { sort: 'file' }
  const words = [...new Set(seen)].sort()
  // Each word once says nothing of which there are; words that come again are a choice.
  return words.length <= MOST_WORDS && (words.length < seen.length || words.length === 1)
    ? { sort: 'word', words }
    : { sort: 'text', longest: Math.max(...words.map(({ length }) => length)) }
}

/** Text records hold numbers as they are written. */
function asNumber(value: unknown): number | null {
  if (typeof value === 'number') return value
  return typeof value === 'string' && /^-?\d+(?:\.\d+)?$/.test(value.trim()) ? Number(value) : null
}

/**
 * What a field was seen to hold, in words.
 * @example const words = learnEntryFields(packs, entryWords).map(fieldSentence)
 */
export function fieldSentence({ holds: held, entries, of }: SeenField): string {
  const seen = entries === of ? `in all ${of}` : `in ${entries} of ${of}`
  switch (held.sort) {
    case 'number':
      return (
        `a ${held.whole ? 'whole number' : 'number'}, ` +
        `${held.least === held.most ? `always ${held.least}` : `${held.least} to ${held.most}`}, ${seen}`
      )
    case 'yes-no':
      return `yes or no, ${seen}`
    case 'file':
      return `a file of the pack, ${seen}`
    case 'word':
      return (
        `${held.words.length === 1 ? 'always ' : 'one of '}${held.words.map((word) => `“${word}”`).join(', ')}, ` +
        `${seen}`
      )
    case 'text':
      return `a text of up to ${held.longest} letters, ${seen}`
    case 'various':
      return `not always the same sort of value, ${seen}`
  }
}
