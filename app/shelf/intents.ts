import { gameSchema } from '../../core/game/game'
import { z } from 'zod'
import { crateSchema } from '../../core/crate/schema'

/** What the shelf's action takes. */
export const shelfIntentSchema = z.discriminatedUnion('intent', [
  z.object({ intent: z.literal('new'), name: z.string().trim().min(1).max(200), game: gameSchema }),
  /** A crate begun with what was dropped on the shelf. */
  z.object({ intent: z.literal('begin'), crate: crateSchema }),
  z.object({ intent: z.literal('add'), crate: crateSchema, replaces: z.boolean() }),
  z.object({ intent: z.literal('give-game'), crate: z.string(), game: gameSchema }),
  z.object({ intent: z.literal('remove'), crate: z.string() }),
  z.object({ intent: z.literal('bring-back'), crate: z.string() }),
  z.object({ intent: z.literal('erase'), crate: z.string() }),
  z.object({ intent: z.literal('clean') }),
])
export type ShelfIntent = z.infer<typeof shelfIntentSchema>
