import { visit } from 'jsonc-parser'
import { z } from 'zod'
import { entryKeys } from '../game/catalogue/fields.ts'
import { nearest, orNearest } from '../game/nearest.ts'
import { wordFor } from '../game/schema-records.ts'
import type { Rulebook } from '../game/schema.ts'
import { itemEventSchema } from '../item/entry.ts'
import { saidInWords } from '../pack/records/entry.ts'
import { inOurWords, readWords } from '../pack/records/index.ts'
import type { Finding } from '../rules/rule.ts'
import { fileFinding } from './file-finding.ts'

/**
 * What only the text of an entry tells: keys that stand twice, or out of order, and values that are none.
 * @example findings.push(...entryTextFaults('items/gate/entry.json', bytes, rulebook))
 */
export function entryTextFaults(path: string, bytes: Uint8Array, rulebook: Rulebook): Finding[] {
  let words: unknown
  try {
    words = readWords('entry', bytes, path, rulebook)
  } catch {
    // Told as an entry that cannot be read.
    return []
  }
  const keys = typeof words === 'object' && words !== null ? Object.keys(words) : []
  return [
    ...twice(path, bytes, rulebook),
    ...outOfOrder(path, keys, rulebook),
    ...brokenEvents(path, words, rulebook),
    ...(saidInWords(words, rulebook) === null ? [notKept(path)] : []),
  ]
}

const fault = (
  severity: 'blocks' | 'risky',
  rule: string,
  title: string,
  where: string,
  limit: string,
  message: string,
  why: string,
): Finding => fileFinding({ rule, severity, title, where, limit, message, why })

/** More keys than these are not told one by one. */
const MOST_TWICE = 20

/** A key that an object has twice: readers keep one of both, and not all the same. */
function twice(path: string, bytes: Uint8Array, { files }: Rulebook): Finding[] {
  // Lines of text that say a thing twice cannot be read at all.
  if (files.entry.writer !== 'json') return []
  const found: string[] = []
  const open: Set<string>[] = []
  // Read as it goes by: an entry may hold all the keys of a motion.
  visit(new TextDecoder().decode(bytes), {
    onObjectBegin: () => void open.push(new Set()),
    onObjectEnd: () => void open.pop(),
    onObjectProperty(key, _offset, _length, _line, _character, pathOf) {
      const keys = open[open.length - 1]
      if (keys.has(key) && found.length < MOST_TWICE) found.push([...pathOf(), key].join('.'))
      keys.add(key)
    },
  })
  return found.map((key) =>
    fault(
      'blocks',
      'entry-key-twice',
      'Line said twice',
      path,
      'once',
      `The entry says “${key}” twice`,
      'Of two lines with one key nobody knows which counts.',
    ),
  )
}

function outOfOrder(path: string, keys: readonly string[], rulebook: Rulebook): Finding[] {
  if (!rulebook.catalogue.inOrder) return []
  const order = entryKeys(rulebook)
  let furthest = -1
  for (const key of keys) {
    const at = order.indexOf(key)
    if (at < 0) continue
    if (at < furthest)
      return [
        fault(
          'risky',
          'entry-order',
          'Line out of order',
          path,
          `before “${order[furthest]}”`,
          `The entry says “${key}” after “${order[furthest]}”; the game reads on and passes over it`,
          'The game reads an entry once, from top to bottom, in one order.',
        ),
      ]
    furthest = at
  }
  return []
}

/** What is kept of an entry has keys of a bounded length, and is so and so deep. */
const notKept = (path: string): Finding =>
  fault(
    'blocks',
    'entry-type',
    'Value of the wrong sort',
    path,
    'keys of up to 200 signs, values up to 40 deep',
    'The entry has a key that is too long, or values that lie too deep',
    'The game reads an entry into fields of its own.',
  )

function brokenEvents(path: string, said: unknown, rulebook: Rulebook): Finding[] {
  const words = rulebook.files.words.entry
  const record = z.object({ events: z.unknown() }).safeParse(inOurWords('entry', said, rulebook))
  const events = record.success ? record.data.events : undefined
  if (events === undefined) return []
  const key = wordFor('events', words)
  const read = z.array(itemEventSchema).max(1000).safeParse(events)
  if (rulebook.behaviour.events.when.length === 0)
    return read.success
      ? []
      : [
          fault(
            'risky',
            'entry-unknown',
            'Line the game does not know',
            path,
            'none',
            `The game passes over “${key}”: it has no events`,
            'The game passes over what it does not know, and says nothing.',
          ),
        ]
  if (!read.success)
    return [
      fault(
        'blocks',
        'entry-type',
        'Value of the wrong sort',
        path,
        'when, do and to, each a word',
        `“${key}” cannot be read${read.error.issues[0].path.length > 0 ? ` at ${read.error.issues[0].path.join('.')}` : ''}`,
        'The game reads this line as it stands, and refuses what does not fit.',
      ),
    ]
  const known = Object.keys(itemEventSchema.shape)
  return z
    .array(z.record(z.string(), z.unknown()))
    .parse(events)
    .flatMap((event, number) =>
      Object.keys(event)
        .filter((each) => !known.includes(each))
        .map((each) =>
          fault(
            'risky',
            'entry-unknown',
            'Line the game does not know',
            path,
            known.map((field) => wordFor(field, words)).join(', '),
            `The game passes over “${key}[${number}].${each}”${orNearest(
              nearest(
                each,
                known.map((field) => wordFor(field, words)),
              ),
            )}`,
            'The game passes over what it does not know, and says nothing.',
          ),
        ),
    )
}
