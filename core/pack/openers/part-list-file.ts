import { z } from 'zod'
import type { HalfBlockRules } from '../../game/schema-half-blocks.ts'
import type { HalfBlock } from '../../geometry/mesh/half-blocks.ts'

/** A tray as a list of parts has it. */
export interface ListedTray {
  tray: string
  finish: string | null
  blocks: HalfBlock[]
}

const MOST_BLOCKS = 2_000_000
const MOST_TRAYS = 10_000
/** A turn whose length is further from 1 is none. */
const TURN_TOLERANCE = 1e-3

const triple = z.tuple([z.number(), z.number(), z.number()])
const turnSchema = z
  .tuple([z.number(), z.number(), z.number(), z.number()])
  .refine((turn) => Math.abs(Math.hypot(...turn) - 1) <= TURN_TOLERANCE, 'it is no turn: its length is not 1')

function listSchema({ words }: HalfBlockRules) {
  const block = z
    .object({
      [words.at]: triple,
      [words.turn]: turnSchema,
      [words.size]: z.tuple([z.number().positive(), z.number().positive()]),
    })
    .transform((line): HalfBlock => ({
      at: line[words.at] as HalfBlock['at'],
      turn: line[words.turn] as HalfBlock['turn'],
      size: line[words.size] as HalfBlock['size'],
    }))
  const tray = z
    .object({
      [words.tray]: z.string().max(1000),
      [words.finish]: z.string().max(1000).nullable().default(null),
      [words.blocks]: z.array(block).max(MOST_BLOCKS),
    })
    .transform((line): ListedTray => ({
      tray: line[words.tray] as string,
      finish: line[words.finish] as string | null,
      blocks: line[words.blocks] as HalfBlock[],
    }))
  return z.object({ [words.trays]: z.array(tray).max(MOST_TRAYS) }).transform((list) => list[words.trays])
}

/**
 * Reads a list of half-blocks in the words of a rulebook.
 * @throws Error with the place in the file when it is no such list
 *
 * @example const trays = readPartList(bytes, rulebook.files.mesh.halfBlocks)
 */
export function readPartList(bytes: Uint8Array, rules: HalfBlockRules): ListedTray[] {
  const parsed = listSchema(rules).safeParse(JSON.parse(new TextDecoder().decode(bytes)))
  if (parsed.success) return parsed.data
  const [issue] = parsed.error.issues
  throw new Error(`it is wrong at ${issue?.path.join('.') || 'its beginning'}: ${issue?.message ?? 'not a list'}`)
}
