import { z } from 'zod'
import { builtInRulebooks } from '../game/load.ts'
import { keptFileSchema, type Game } from '../game/game.ts'
import { rulebookSchema } from '../game/schema.ts'
import { worklistEntrySchema } from '../worklist/entry.ts'
import { presetSchema } from './preset.ts'
import { crateSchema, identifierFor, itemSchema, readingSchema, waiverSchema, type Crate } from './schema.ts'
import { upgradeCrate } from './upgrade.ts'

/** A piece of a crate that cannot be read, as it was found. */
export interface SetAside {
  /** What it is, for the modder: “a step of Gate”. */
  what: string
  /** What is wrong with it. */
  reason: string
  value: unknown
}

/**
 * A crate with what could be read of it; or why nothing could, and whether it opens once a game is given with it.
 */
export type Salvaged = { crate: Crate; setAside: SetAside[] } | { crate: null; reason: string; wantsGame: boolean }

/** What has no list of items is no crate, whatever else it holds. */
const itemsMark = z.object({ items: z.array(z.unknown()) })

const MOST_PIECES = 10_000

/** What is wrong, in the words of the first issue. */
export function issueOf(error: z.ZodError): string {
  const [{ path, message }] = error.issues
  return `wrong at ${path.map(String).join('.') || 'the top'} (${message})`
}

/**
 * Reads a crate that something has damaged: what is whole stays, each piece that is not is set aside with its reason.
 * @param data what was kept, of whatever shape
 * @param id what it was kept under, for a crate whose own id or name cannot be read
 * @param game stands in for a rulebook that cannot be read
 * @example
 *   const salvaged = salvageCrate(JSON.parse(text), 'otterby-landing', null)
 *   if (salvaged.crate) for (const { what, reason } of salvaged.setAside) console.log(what, reason)
 */
export function salvageCrate(data: unknown, id: string, game: Game | null): Salvaged {
  const whole = crateSchema.safeParse(data)
  if (whole.success) return { crate: whole.data, setAside: [] }
  const fields = itemsMark.safeParse(data).success
    ? z.record(z.string(), z.unknown()).safeParse(upgradeCrate(data))
    : null
  if (!fields?.success) return { crate: null, reason: issueOf(whole.error), wantsGame: false }
  const setAside: SetAside[] = []
  const { rulebook, stock, presets, items, name } = fields.data
  const read = game ? { rulebook: game.rulebook, reason: '' } : rulebookOf(rulebook)
  if (!read.rulebook) return { crate: null, reason: `its rulebook is ${read.reason}`, wantsGame: true }
  if (!rulebookSchema.safeParse(rulebook).success)
    setAside.push({ what: 'its rulebook', reason: 'cannot be read', value: rulebook })
  const crate = crateSchema.safeParse({
    format: 'gentle-crate',
    formatVersion: 2,
    id: z.string().safeParse(fields.data['id']).data ?? id,
    name: z.string().min(1).max(200).safeParse(name).data ?? id,
    rulebook: read.rulebook,
    stock: game ? game.stock : (keptFileSchema.nullable().safeParse(stock).data ?? null),
    ...(presets === undefined ? {} : { presets: presetsOf(presets, setAside) }),
    items: itemsOf(items, setAside),
  })
  if (crate.success) return { crate: crate.data, setAside }
  return { crate: null, reason: issueOf(crate.error), wantsGame: false }
}

/** A rulebook as it is kept; the one that ships under its id where only that can be read. */
function rulebookOf(value: unknown) {
  const parsed = rulebookSchema.safeParse(value)
  if (parsed.success) return { rulebook: parsed.data, reason: '' }
  const named = z.object({ id: z.string() }).safeParse(value)
  const shipped = named.success ? builtInRulebooks().find((each) => each.id === named.data.id) : undefined
  return { rulebook: shipped ?? null, reason: issueOf(parsed.error) }
}

/** The presets that can be read. */
const presetsOf = (value: unknown, setAside: SetAside[]): unknown[] =>
  listOf(value, 'its presets', setAside).filter((each) => {
    const parsed = presetSchema.safeParse(each)
    if (!parsed.success) setAside.push({ what: 'a preset', reason: issueOf(parsed.error), value: each })
    return parsed.success
  })

/** The items that can be read, each id once. */
function itemsOf(value: unknown, setAside: SetAside[]): unknown[] {
  const list = listOf(value, 'its items', setAside)
  const ids: string[] = []
  return list.flatMap((each, at) => {
    const parsed = itemSchema.safeParse(withoutBadPieces(each, setAside))
    if (!parsed.success) {
      setAside.push({ what: nameOf(each, `item ${at + 1}`), reason: issueOf(parsed.error), value: each })
      return []
    }
    const id = ids.includes(parsed.data.id) ? identifierFor(parsed.data.id, ids) : parsed.data.id
    ids.push(id)
    return [{ ...parsed.data, id }]
  })
}

/** An item without those of its steps and waivers that cannot be read; a reading that cannot starts anew. */
function withoutBadPieces(item: unknown, setAside: SetAside[]): unknown {
  const fields = z.record(z.string(), z.unknown()).safeParse(item)
  if (!fields.success) return item
  const of = nameOf(item, 'an item')
  const good = (key: string, what: string, schema: z.ZodType): unknown[] =>
    listOf(fields.data[key] ?? [], `${what}s of ${of}`, setAside).filter((piece) => {
      const parsed = schema.safeParse(piece)
      if (!parsed.success) setAside.push({ what: `a ${what} of ${of}`, reason: issueOf(parsed.error), value: piece })
      return parsed.success
    })
  const reading = readingSchema.safeParse(fields.data['reading'])
  if (!reading.success)
    setAside.push({
      what: `unit, axes and textures as set for ${of}`,
      reason: issueOf(reading.error),
      value: fields.data['reading'],
    })
  return {
    ...fields.data,
    worklist: good('worklist', 'step', worklistEntrySchema),
    waivers: good('waivers', 'waiver', waiverSchema),
    reading: reading.success ? reading.data : { links: {} },
  }
}

function listOf(value: unknown, what: string, setAside: SetAside[]): unknown[] {
  if (Array.isArray(value) && value.length <= MOST_PIECES) return value as unknown[]
  setAside.push({ what, reason: 'they are no list that can be read', value })
  return []
}

const nameOf = (value: unknown, otherwise: string): string =>
  z.object({ name: z.string().min(1).max(200) }).safeParse(value).data?.name ?? otherwise
