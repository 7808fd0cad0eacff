import { z } from 'zod'
import { itemEntrySchema } from '../../core/item/entry'

const names = z.array(z.string())

/** What the desk of an entry shows of an item. */
export const entryReportSchema = z.object({
  /** As it is packed: with what is usual where nothing was said. */
  said: itemEntrySchema,
  /** As it came from its source, before any step of the worklist says something of it. */
  fromSource: itemEntrySchema.nullable(),
  /** Where the entry goes in the pack. */
  path: z.string(),
  /** What the entry may name of the item. */
  names: z.object({
    part: names,
    group: names,
    point: names,
    marker: names,
    clip: names,
    light: names,
    look: names,
  }),
  /** Surfaces of its materials with their share of its area. */
  shown: z.array(z.object({ surface: z.string(), share: z.number() })),
  /** Donors that the kind may be like, those that suit best first, with what does not agree. */
  donors: z.array(
    z.object({
      id: z.string(),
      against: z.array(z.object({ about: z.enum(['sound', 'solids', 'remains']), has: z.string(), wants: z.string() })),
    }),
  ),
})
export type EntryReport = z.infer<typeof entryReportSchema>
