import { z } from 'zod'

export const markerFacts = {
  /** For a marker: which of the rulebook's it is. */
  marker: z.string().max(64).optional(),
}
