import { z } from 'zod'
import { commandSchema } from '../../core/crate/commands'

/** What the crate's action takes. */
export const crateIntentSchema = z.discriminatedUnion('intent', [
  z.object({ intent: z.literal('command'), command: commandSchema }),
  z.object({ intent: z.literal('undo') }),
  z.object({ intent: z.literal('redo') }),
])
export type CrateIntent = z.infer<typeof crateIntentSchema>
