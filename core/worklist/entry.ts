import { z } from 'zod'
import { jsonRecordSchema } from '../support/json-value.ts'

/** One slip of a worklist: which step, with what, and why it is there. */
export const worklistEntrySchema = z.object({
  id: z.string().min(1).max(64),
  step: z.string().min(1).max(64),
  on: z.boolean(),
  parameters: jsonRecordSchema,
  reason: z.string().max(2000).nullable(),
  /** A person put it in, set it or switched it: preparing anew leaves it as it is. */
  byHand: z.boolean().optional(),
})
export type WorklistEntry = z.infer<typeof worklistEntrySchema>

export const worklistSchema = z.array(worklistEntrySchema).max(500)

/**
 * An id that no entry of the worklist has: `step-7`.
 *
 * @example const entry = { id: newEntryId(worklist), step: 'weld', on: true, parameters: {}, reason: null }
 */
export function newEntryId(worklist: readonly WorklistEntry[]): string {
  const numbers = worklist.map((entry) => Number(/^step-(\d+)$/.exec(entry.id)?.[1] ?? 0))
  return `step-${Math.max(0, ...numbers) + 1}`
}

/**
 * Where a new step goes: before the first one that practitioners do later.
 * @param order ids of all steps in the order of the work
 *
 * @example placeOfStep([{ step: 'weld' }, { step: 'pack-maps' }], 'reduce', ['weld', 'reduce', 'pack-maps']) // 1
 */
export function placeOfStep(
  worklist: readonly Pick<WorklistEntry, 'step'>[],
  step: string,
  order: readonly string[],
): number {
  const later = worklist.findIndex((entry) => order.indexOf(entry.step) > order.indexOf(step))
  return later < 0 ? worklist.length : later
}
