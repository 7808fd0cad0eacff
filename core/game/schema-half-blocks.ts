import { z } from 'zod'

const word = z
  .string()
  .regex(/^[a-z][a-zA-Z0-9_]*$/)
  .max(32)

/**
 * What a game that has no meshes builds of: right-angled half-blocks, sorted into trays. A half-block is as thick as
 * the game makes it; of its front, the two sides that enclose the right angle are given.
 */
export const halfBlocksSchema = z.object({
  /** No side of a half-block is shorter, in game units. */
  shortestEdge: z.number().positive(),
  /** How far the faces put together again may lie from the item's own, as a share of its longest side. */
  accuracyShare: z.number().positive().max(0.1),
  mostTrays: z.number().int().positive(),
  /** How the list of parts calls what stands in it. */
  words: z.object({
    trays: word,
    tray: word,
    finish: word,
    blocks: word,
    /** Where the corner with the right angle is: x, y, z. */
    at: word,
    /** How the half-block is turned, as x, y, z, w; unturned, its sides lie along +X and +Y. */
    turn: word,
    /** How long the two sides are. */
    size: word,
  }),
})
export type HalfBlockRules = z.infer<typeof halfBlocksSchema>
