import { parseTree, type Node as JsonNode } from 'jsonc-parser'
import { z } from 'zod'
import { entryKeys } from '../game/catalogue/fields.ts'
import { nearest, orNearest } from '../game/nearest.ts'
import { wordFor } from '../game/schema-records.ts'
import type { Rulebook } from '../game/schema.ts'
import { itemEventSchema } from '../item/entry.ts'
import { readRecordOrNothing, readWords } from '../pack/records/index.ts'
import type { Finding } from '../rules/rule.ts'
import { fileFinding } from './file-finding.ts'

/** What only the text of an entry tells: keys that stand twice, or out of order, and events that are no events. */
export function entryTextFaults(path: string, bytes: Uint8Array, rulebook: Rulebook): Finding[] {
  return [...twice(path, bytes, rulebook), ...outOfOrder(path, bytes, rulebook), ...brokenEvents(path, bytes, rulebook)]
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

/** A key that an object has twice: readers keep one of both, and not all the same. */
function twice(path: string, bytes: Uint8Array, { files }: Rulebook): Finding[] {
  // Lines of text that say a thing twice cannot be read at all.
  if (files.entry.writer !== 'json') return []
  const found: string[] = []
  const look = (node: JsonNode | undefined, place: string): void => {
    const seen = new Set<string>()
    for (const child of node?.children ?? []) {
      if (node?.type === 'array') look(child, `${place}[${node.children?.indexOf(child) ?? 0}]`)
      if (child.type !== 'property') continue
      const [key, value] = child.children ?? []
      const name = String(key.value)
      if (seen.has(name)) found.push(`${place}${place === '' ? '' : '.'}${name}`)
      seen.add(name)
      look(value, `${place}${place === '' ? '' : '.'}${name}`)
    }
  }
  look(parseTree(new TextDecoder().decode(bytes)), '')
  return found
    .slice(0, 20)
    .map((key) =>
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

function outOfOrder(path: string, bytes: Uint8Array, rulebook: Rulebook): Finding[] {
  if (!rulebook.catalogue.inOrder) return []
  const order = entryKeys(rulebook)
  let furthest = -1
  for (const key of keysOf(path, bytes, rulebook)) {
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

function keysOf(path: string, bytes: Uint8Array, rulebook: Rulebook): string[] {
  try {
    return Object.keys(readWords('entry', bytes, path, rulebook) as object)
  } catch {
    return []
  }
}

function brokenEvents(path: string, bytes: Uint8Array, rulebook: Rulebook): Finding[] {
  const words = rulebook.files.words.entry
  const record = z.object({ events: z.unknown() }).safeParse(readRecordOrNothing('entry', bytes, path, rulebook))
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
