import { z } from 'zod'

/**
 * What is said of an attach point: what may join there, by the game's own word, and how wide that is, in scene units.
 */
export const jointSchema = z.object({
  joins: z.string().max(64).nullable(),
  width: z.number().positive().nullable(),
})
export type Joint = z.infer<typeof jointSchema>

export const attachPointFacts = { joint: jointSchema.optional() }
