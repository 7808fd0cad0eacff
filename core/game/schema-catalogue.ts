import { z } from 'zod'
import { isLinearPattern } from '../support/pattern.ts'

/** What a field of an entry may point to: things of the item itself, other items of the pack, what is in stock. */
export const referenceTargets = ['part', 'group', 'point', 'marker', 'clip', 'light', 'look', 'item', 'stock'] as const
export type ReferenceTarget = (typeof referenceTargets)[number]

const pattern = z.string().max(200).refine(isLinearPattern, {
  error: 'this is no regular expression, or one that looks back or ahead, which is not read',
  abort: true,
})

/** What one value may be. */
const textValue = z.object({
  sort: z.literal('text'),
  longest: z.number().int().min(1).max(2000).default(200),
  /** Regular expression source that a text must match as a whole. */
  pattern: pattern.nullable().default(null),
})
const numberValue = z
  .object({
    sort: z.literal('number'),
    /** What it is counted in: “shillings”, “s”; empty for a bare number. */
    unit: z.string().max(40).default(''),
    least: z.number(),
    most: z.number(),
    whole: z.boolean().default(false),
  })
  .refine(({ least, most }) => least <= most, { error: 'the least is more than the most', path: ['least'] })
const switchValue = z.object({ sort: z.literal('yes-no') })
const choiceValue = z.object({
  sort: z.literal('choice'),
  of: z
    .array(z.object({ word: z.string().min(1).max(64), title: z.string().max(100) }))
    .min(1)
    .max(200),
})
const referenceValue = z.object({
  sort: z.literal('reference'),
  to: z.array(z.enum(referenceTargets)).min(1),
  /** Of items and stock: which kinds; null for all. */
  ofKinds: z.array(z.string()).nullable().default(null),
})
export const singleValueSchema = z.discriminatedUnion('sort', [
  textValue,
  numberValue,
  switchValue,
  choiceValue,
  referenceValue,
])
export type SingleValue = z.infer<typeof singleValueSchema>
const listValue = z.object({
  sort: z.literal('list'),
  of: singleValueSchema,
  least: z.number().int().min(0).default(0),
  most: z.number().int().min(1).max(1000),
})
export const fieldValueSchema = z.discriminatedUnion('sort', [...singleValueSchema.options, listValue])
export type FieldValue = z.infer<typeof fieldValueSchema>

const scalar = z.union([z.string().max(2000), z.number(), z.boolean()])
/** What a line of an entry says. */
export const lineValueSchema = z.union([scalar, z.array(scalar).max(1000)])

/** A line of an entry, under the game's own word. */
export const catalogueFieldSchema = z.object({
  key: z
    .string()
    .regex(/^[A-Za-z][A-Za-z0-9_-]*$/)
    .max(60),
  title: z.string().min(1).max(100),
  described: z.string().max(300).default(''),
  value: fieldValueSchema,
  /** Kinds that have it; null for all. */
  kinds: z.array(z.string()).nullable().default(null),
  needed: z.boolean().default(false),
  /** Whether no two things of the game, in a pack or in stock, may say the same. */
  unique: z.boolean().default(false),
  /** What it says where nobody said anything; null where that is left to the modder. */
  usual: lineValueSchema.nullable().default(null),
  /** Whether it begins as the item's name in words. */
  fromName: z.boolean().default(false),
})
export type CatalogueField = z.infer<typeof catalogueFieldSchema>

/** What an item's entry says besides its files: the game's catalogue. */
export const catalogueSchema = z.object({
  fields: z.array(catalogueFieldSchema).max(200).default([]),
  /** Whether the game reads an entry in one order, and passes over what comes out of it. */
  inOrder: z.boolean().default(false),
  /** Lines for each look of an item, “one for each colour”; null where the game has none. */
  rows: z
    .object({
      key: z
        .string()
        .regex(/^[A-Za-z][A-Za-z0-9_-]*$/)
        .max(60),
      title: z.string().min(1).max(100),
      /** The game's word for which look a row is of. */
      lookKey: z.string().min(1).max(60).default('look'),
      fields: z.array(catalogueFieldSchema).min(1).max(50),
      kinds: z.array(z.string()).nullable().default(null),
      /** Whether every look needs a row. */
      everyLook: z.boolean().default(false),
    })
    .nullable()
    .default(null),
  /** Where things of each category stand in the game, in a few words. */
  categories: z
    .array(z.object({ category: z.string(), stands: z.string().min(1).max(200) }))
    .max(200)
    .default([]),
})
export type Catalogue = z.infer<typeof catalogueSchema>

/** What sets an event off. `other` is known to the game alone, and neither checked nor played. */
export const eventCauses = ['walked-into', 'handled', 'hit', 'marker-reached', 'follows', 'other'] as const
export type EventCause = (typeof eventCauses)[number]
/** What an event does. */
export const eventEffects = ['plays-motion', 'plays-back', 'sounds', 'lights-up', 'hides', 'other'] as const
export type EventEffect = (typeof eventEffects)[number]

const word = z.string().min(1).max(64)

/** Earlier rulebooks listed words alone. */
const named = <T extends z.ZodType>(schema: T) =>
  z.preprocess((value) => (typeof value === 'string' ? { word: value, title: value } : value), schema)

export const eventsSchema = z.object({
  /** How many an item may have. */
  most: z.number().int().min(0).max(1000).default(32),
  when: z
    .array(
      named(
        z.object({
          word,
          title: z.string().max(100),
          cause: z.enum(eventCauses).default('other'),
          /** Of what follows: the word of `do` that it follows on. */
          after: word.nullable().default(null),
        }),
      ),
    )
    .max(100),
  do: z
    .array(
      named(
        z.object({
          word,
          title: z.string().max(100),
          effect: z.enum(eventEffects).default('other'),
        }),
      ),
    )
    .max(100),
})
