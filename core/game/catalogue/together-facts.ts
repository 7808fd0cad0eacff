import { z } from 'zod'
import { itemEventSchema } from '../../item/entry.ts'

/** What the other items of a pack have to know of one. */
export const togetherFactsSchema = z.object({
  name: z.string(),
  kind: z.string(),
  /** Lines that no other thing may say as well, by their keys. */
  unique: z.record(z.string(), z.string()),
  /** Its parts and groups, where it has events. */
  things: z.array(z.string()),
  events: z.array(itemEventSchema),
  /** Names in its entry that may be those of other items. */
  names: z.array(
    z.object({
      where: z.string(),
      name: z.string(),
      /** Kinds that it may be of; null for all. */
      ofKinds: z.array(z.string()).nullable(),
      /** The line that says it: of which look, under which key, where in a list. */
      look: z.string().nullable(),
      key: z.string(),
      list: z.array(z.json()).nullable(),
      at: z.number(),
    }),
  ),
})
export type TogetherFacts = z.infer<typeof togetherFactsSchema>
