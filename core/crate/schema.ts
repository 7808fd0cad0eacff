import { keptFileSchema, type Game } from '../game/game.ts'
import { rulebookSchema } from '../game/schema.ts'
import { upgradeCrate } from './upgrade.ts'
import { z } from 'zod'
import { presetsSchema } from './preset.ts'
import { axisNameSchema } from '../maths/axes.ts'
import { worklistSchema } from '../worklist/entry.ts'

const identifier = z.string().regex(/^[a-z0-9][a-z0-9-]{0,63}$/)

/** A file as it was brought, by its checksum; the bytes are kept beside the crate. */
export const sourceReferenceSchema = z.object({
  path: z.string().min(1).max(4096),
  ...keptFileSchema.shape,
})
export type SourceReference = z.infer<typeof sourceReferenceSchema>

/** What the modder said about a source. */
export const readingSchema = z.object({
  metresPerUnit: z.number().positive().optional(),
  up: axisNameSchema.optional(),
  forward: axisNameSchema.optional(),
  links: z.record(z.string(), z.string()).default({}),
  /** The source is an item's state, as one taken out of a pack is: read as it stands. */
  asState: z.boolean().optional(),
})

/** A finding that is accepted, with the reason. */
export const waiverSchema = z.object({
  rule: z.string().max(100),
  where: z.string().max(500),
  reason: z.string().min(1).max(2000),
})
export type Waiver = z.infer<typeof waiverSchema>

export const itemSchema = z.object({
  id: identifier,
  name: z.string().min(1).max(200),
  kind: z.string().max(64),
  /** Path of the mesh file among the sources. */
  main: z.string().min(1).max(4096),
  /** For kinds with several models: the mesh file of each. */
  models: z.record(z.string().max(64), z.string().max(4096)).optional(),
  sources: z.array(sourceReferenceSchema).max(2000),
  reading: readingSchema,
  worklist: worklistSchema,
  waivers: z.array(waiverSchema).max(1000),
  /** What a person answered to what preparing may not decide, by question. */
  answers: z.record(z.string().max(64), z.string().max(200)).optional(),
  /** The place of the game that it stands in for, in games that have such places. */
  slot: z.string().max(32).optional(),
})
export type CrateItem = z.infer<typeof itemSchema>

const MOST_ITEMS = 1000

const shape = z.object({
  format: z.literal('gentle-crate'),
  formatVersion: z.literal(2),
  id: identifier,
  name: z.string().min(1).max(200),
  /** The whole rulebook, so that the crate means the same wherever it is opened. */
  rulebook: rulebookSchema,
  /** The pack of what the game has in stock, kept with the sources; null when it has none. */
  stock: keptFileSchema.nullable(),
  /** What is done with files of certain names when they are brought. */
  presets: presetsSchema.optional(),
  items: z
    .array(itemSchema)
    .max(MOST_ITEMS)
    .refine((items) => new Set(items.map(({ id }) => id)).size === items.length, 'two items have one id'),
})
const headSchema = shape.omit({ rulebook: true, items: true })
export type Crate = z.infer<typeof shape>

/** A crate; one of the first format, which only named its rulebook, gets the one that ships with the program. */
export const crateSchema = z.preprocess(upgradeCrate, shape)

/**
 * A crate that a command made of another, read where it is other: what is the same object was read when the crate was.
 * @throws ZodError when what is new is not whole, or the items do not go together
 *
 * @example const crate = readChanged(before, applyCommand(before, command))
 */
export function readChanged(before: Crate, after: Crate): Crate {
  const known = new Set(before.items)
  const { rulebook, items, ...head } = after
  const fresh = items.filter((item) => !known.has(item))
  const togetherWrong = items.length > MOST_ITEMS || new Set(items.map(({ id }) => id)).size < items.length
  // Whatever is wrong between them is said by who reads all of it.
  if (togetherWrong || fresh.length === items.length) return crateSchema.parse(after)
  const read = new Map(fresh.map((item) => [item, itemSchema.parse(item)]))
  return {
    ...after,
    ...headSchema.parse(head),
    rulebook: rulebook === before.rulebook ? rulebook : rulebookSchema.parse(rulebook),
    items: items.map((item) => read.get(item) ?? item),
  }
}

/**
 * Lower-case letters, digits and hyphens from any name; numbered until nothing in `taken` has it.
 * @example identifierFor('Boathouse Gate', ['boathouse-gate']) // 'boathouse-gate-2'
 */
export function identifierFor(name: string, taken: readonly string[]): string {
  const base =
    name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 48) || 'item'
  for (let number = 1; ; number++) {
    const candidate = number === 1 ? base : `${base}-${number}`
    if (!taken.includes(candidate)) return candidate
  }
}

/**
 * An empty crate for a game.
 *
 * @example const crate = newCrate('Otterby Landing', game, shelf.map(({ id }) => id))
 */
export const newCrate = (name: string, { rulebook, stock }: Game, taken: readonly string[]): Crate => ({
  format: 'gentle-crate',
  formatVersion: 2,
  id: identifierFor(name, taken),
  name,
  rulebook,
  stock,
  items: [],
})
