import { z } from 'zod'
import { builtInRulebooks } from '../game/load.ts'

const firstMark = z.object({ formatVersion: z.literal(1) })
const firstFormat = z.looseObject({ formatVersion: z.literal(1), rulebook: z.object({ id: z.string() }) })

/**
 * A crate of the first format, which only named its rulebook, as one that carries it. Anything else is handed on as it
 * is; a game that is not known stays a name, which the schema then refuses.
 *
 * @example const crate = crateSchema.parse(upgradeCrate(JSON.parse(text)))
 */
export function upgradeCrate(data: unknown): unknown {
  // Asked before everything in it is copied: what was damaged may be a million bytes.
  if (!firstMark.safeParse(data).success) return data
  const old = firstFormat.safeParse(data)
  if (!old.success) return data
  const rulebook = builtInRulebooks().find(({ id }) => id === old.data.rulebook.id)
  return rulebook ? { ...old.data, formatVersion: 2, rulebook, stock: null } : data
}
