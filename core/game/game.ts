import { z } from 'zod'
import { hashValue } from '../support/hashing.ts'
import { rulebookSchema, type Rulebook } from './schema.ts'

/** Where a file that a crate needs is kept: under the checksum of its bytes. */
export const keptFileSchema = z.object({
  sha256: z.string().regex(/^[0-9a-f]{64}$/),
  bytes: z.number().int().nonnegative(),
})
export type KeptFile = z.infer<typeof keptFileSchema>

/**
 * One game as a value: its whole rulebook, and where what it has in stock is kept. Everything that needs a game is
 * given this.
 */
export const gameSchema = z.object({ rulebook: rulebookSchema, stock: keptFileSchema.nullable() })
export type Game = z.infer<typeof gameSchema>

const keys = new WeakMap<Rulebook, string>()

/**
 * A word that is the same for equal rulebooks and differs for others; made once for each value.
 *
 * @example const changed = rulebookKey(crate.rulebook) !== rulebookKey(newer)
 */
export function rulebookKey(rulebook: Rulebook): string {
  const known = keys.get(rulebook)
  if (known !== undefined) return known
  const made = hashValue(rulebook)
  keys.set(rulebook, made)
  return made
}
