import { z } from 'zod'
import { commandSchema } from '../../core/crate/commands'

/** What the crate's action takes. */
export const crateIntentSchema = z.discriminatedUnion('intent', [
  z.object({ intent: z.literal('command'), command: commandSchema, ticket: z.string() }),
  z.object({ intent: z.literal('undo'), ticket: z.string() }),
  z.object({ intent: z.literal('redo'), ticket: z.string() }),
])
export type CrateIntent = z.infer<typeof crateIntentSchema>
