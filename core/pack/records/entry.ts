import { z } from 'zod'
import { fileKeys } from '../../game/catalogue/fields.ts'
import type { Rulebook } from '../../game/schema.ts'
import { itemEventSchema, type ItemEntry } from '../../item/entry.ts'
import { isJsonValue } from '../../support/json-value.ts'
import { inGameWords, inOurWords, readWords, writeWords } from './index.ts'

/**
 * An item's entry as the game writes it: what leads to its files, what its catalogue says of it, what it is like and
 * what happens.
 * @param files under our names
 * @param said under the game's words
 *
 * @example const bytes = writeEntryRecord({ item: 'gate', kind: 'prop' }, entryOf(document), rulebook)
 */
export function writeEntryRecord(files: object, said: ItemEntry, rulebook: Rulebook): Uint8Array {
  const { rows } = rulebook.catalogue
  const { fields, like, events } = said
  const last = { ...(like === undefined ? {} : { like }), ...(events.length > 0 ? { events } : {}) }
  return writeWords(
    'entry',
    {
      ...inGameWords('entry', files, rulebook),
      ...fields,
      ...(rows && said.rows.length > 0
        ? { [rows.key]: said.rows.map(({ look, fields: own }) => ({ [rows.lookKey]: look, ...own })) }
        : {}),
      ...inGameWords('entry', last, rulebook),
    },
    rulebook,
  )
}

const lines = z.record(z.string().max(200), z.json())
const behaviour = z.object({
  like: z.string().optional().catch(undefined),
  events: z.array(itemEventSchema).max(1000).catch([]).default([]),
})
const LONGEST_NAME = 200

/**
 * What an entry says besides its files, right or wrong. Null where it cannot be read.
 *
 * @example const said = saidInEntry(bytes, 'items/gate/entry.json', rulebook)
 */
export function saidInEntry(bytes: Uint8Array, name: string, rulebook: Rulebook): ItemEntry | null {
  try {
    return saidInWords(readWords('entry', bytes, name, rulebook), rulebook)
  } catch {
    return null
  }
}

/**
 * The same of an entry in the game's words; null where it holds what is not kept: keys too long, values too deep.
 * @example const said = saidInWords(JSON.parse(text), rulebook)
 */
export function saidInWords(words: unknown, rulebook: Rulebook): ItemEntry | null {
  const { rows } = rulebook.catalogue
  const { like, events } = rulebook.files.words.entry
  const ofFiles = new Set([...fileKeys(rulebook), like ?? 'like', events ?? 'events'])
  const all = z.record(z.string(), z.unknown()).safeParse(words)
  if (!all.success) return null
  // What leads to files may be all the keys of a motion: it is not looked into.
  const said = Object.fromEntries(Object.entries(all.data).filter(([key]) => !ofFiles.has(key)))
  const own = isJsonValue(said) ? lines.safeParse(said) : null
  if (!own?.success) return null
  const ofRows =
    rows &&
    z
      .array(lines)
      .max(1000)
      .safeParse(own.data[rows.key] ?? [])
  const listed = rows !== null && ofRows?.success === true
  const read = behaviour.safeParse(inOurWords('entry', all.data, rulebook))
  return {
    fields: Object.fromEntries(Object.entries(own.data).filter(([key]) => !(listed && key === rows.key))),
    rows: listed
      ? ofRows.data.map(({ [rows.lookKey]: look, ...line }) => ({
          look: typeof look === 'string' ? look.slice(0, LONGEST_NAME) : '',
          fields: line,
        }))
      : [],
    ...(read.success ? { like: read.data.like?.slice(0, LONGEST_NAME), events: read.data.events } : { events: [] }),
    whole: true,
  }
}
