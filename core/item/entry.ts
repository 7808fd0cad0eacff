import { z } from 'zod'

/** An event of an entry by the game's words: when, at which thing of the item, do what, to which thing. */
export const itemEventSchema = z.object({
  when: z.string().max(64),
  /** A part or group of the item; left out for the item as a whole. */
  at: z.string().max(200).optional(),
  do: z.string().max(64),
  /** A part or group of the item, or another item; left out for the item as a whole. */
  to: z.string().max(200).optional(),
})
export type ItemEvent = z.infer<typeof itemEventSchema>

/** The lines for one look. */
export const entryRowSchema = z.object({ look: z.string().max(200), fields: z.record(z.string().max(200), z.json()) })
export type EntryRow = z.infer<typeof entryRowSchema>

/** What an entry says besides its files, under the game's words: right or wrong, as it was written. */
export const itemEntrySchema = z.object({
  /** The stock entry that it was started from. */
  from: z.string().max(64).optional(),
  fields: z.record(z.string().max(200), z.json()).default({}),
  rows: z.array(entryRowSchema).max(1000).default([]),
  /** The stock thing whose behaviour it borrows. */
  like: z.string().max(200).optional(),
  events: z.array(itemEventSchema).max(1000).default([]),
  /** Whether it is the whole of an entry that was read, to which packing adds nothing of its own. */
  whole: z.boolean().optional(),
})
export type ItemEntry = z.infer<typeof itemEntrySchema>
