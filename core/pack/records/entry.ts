import { z } from 'zod'
import { wordFor } from '../../game/schema-records.ts'
import { behaviourKeys, fileKeys } from '../../game/catalogue/fields.ts'
import type { Rulebook } from '../../game/schema.ts'
import { itemEventSchema, type ItemEntry } from '../../item/entry.ts'
import { inGameWords, readRecord, readWords, writeWords } from './index.ts'

/**
 * An item's entry as the game writes it: what leads to its files, what its catalogue says of it, what it is like and
 * what happens.
 * @param files under our names
 * @param said under the game's words
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
  like: z.string().max(200).optional().catch(undefined),
  events: z.array(itemEventSchema).max(1000).catch([]).default([]),
})

/**
 * What an entry says besides its files, right or wrong; lines that would not be said of an item are left as lines. Null
 * where it cannot be read.
 */
export function saidInEntry(bytes: Uint8Array, name: string, rulebook: Rulebook): ItemEntry | null {
  let all: Record<string, z.infer<ReturnType<typeof z.json>>>
  try {
    all = lines.parse(readWords('entry', bytes, name, rulebook))
  } catch {
    return null
  }
  const { rows } = rulebook.catalogue
  const ofFiles = new Set([
    ...fileKeys(rulebook),
    ...behaviourKeys(rulebook),
    // Told as what the game has none of, and not as a line.
    wordFor('like', rulebook.files.words.entry),
    wordFor('events', rulebook.files.words.entry),
  ])
  const ofRows = rows && z.array(lines).max(1000).safeParse(all[rows.key])
  if (rows && ofRows?.success) ofFiles.add(rows.key)
  const read = behaviour.safeParse(readRecord('entry', bytes, name, rulebook))
  return {
    fields: Object.fromEntries(Object.entries(all).filter(([key]) => !ofFiles.has(key))),
    rows:
      rows && ofRows?.success
        ? ofRows.data.map(({ [rows.lookKey]: look, ...fields }) => ({
            look: typeof look === 'string' ? look.slice(0, 200) : '',
            fields,
          }))
        : [],
    ...(read.success ? { like: read.data.like, events: read.data.events } : { events: [] }),
    whole: true,
  }
}
