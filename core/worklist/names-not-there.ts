import type { Document } from '@gltf-transform/core'
import { z } from 'zod'
import { listAllParts } from '../item/parts.ts'

/** Settings that spare parts or weigh them: a name in them that fits nothing would do nothing, and say nothing. */
const sparingSchema = z.object({
  leaveAlone: z.array(z.string()).catch([]).default([]),
  weights: z
    .array(z.object({ part: z.string() }))
    .catch([])
    .default([]),
})

/**
 * Names that a step is to leave alone or to weigh and that are no parts in the state it was given: perhaps they have
 * other names there.
 * @returns each name once
 *
 * @example const [gone] = namesNotThere(document, entry.parameters)
 */
export function namesNotThere(document: Document, parameters: unknown): string[] {
  const parsed = sparingSchema.safeParse(parameters)
  if (!parsed.success) return []
  const { leaveAlone, weights } = parsed.data
  const asked = [...new Set([...leaveAlone, ...weights.map(({ part }) => part)])]
  if (asked.length === 0) return []
  const there = new Set(listAllParts(document).map(({ name }) => name))
  return asked.filter((name) => !there.has(name))
}
