import { z } from 'zod'

export const levelFacts = {
  /** For a level: 1 or above. */
  level: z.number().int().min(0).max(9).optional(),
  /** Made by hand and put in as a level or shadow mesh: not replaced when levels are made. */
  byHand: z.boolean().optional(),
}
