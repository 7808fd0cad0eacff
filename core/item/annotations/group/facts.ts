import { z } from 'zod'

/** What a group of parts does in the game: it moves by a clip, stands still, or is only looked at from afar. */
export const groupSchema = z.enum(['moves', 'stays', 'backdrop'])
export type GroupIs = z.infer<typeof groupSchema>

/** What is said of a node that holds a group; a part may be a group of its own. */
export const groupFacts = { group: groupSchema.optional() }
