import { z } from 'zod'

/** What is remembered of a step that ran: enough to show it and to go on from it. */
export const stepRecordSchema = z.object({
  key: z.string(),
  headline: z.string(),
  details: z.array(z.string()),
  changed: z.boolean(),
  doesNotApply: z.string().optional(),
  milliseconds: z.number(),
  triangles: z.number(),
})
export type StepRecord = z.infer<typeof stepRecordSchema>

/**
 * Where results are kept: outside the worker that may die. The item's state is a GLB; a store may let
 * states go to save room, the records stay.
 */
export interface ResultStore {
  record: (key: string) => Promise<StepRecord | null>
  state: (key: string) => Promise<Uint8Array | null>
  save: (record: StepRecord, state: Uint8Array | null) => Promise<void>
}

/** A store for one run: the command line and tests. Keeps records, and the latest few states. */
export function memoryStore(mostStates = 32): ResultStore {
  const records = new Map<string, StepRecord>()
  const states = new Map<string, Uint8Array>()
  return {
    record: async (key) => records.get(key) ?? null,
    state: async (key) => states.get(key) ?? null,
    save: async (record, state) => {
      records.set(record.key, record)
      if (!state) return
      states.set(record.key, state)
      for (const key of states.keys()) {
        if (states.size <= mostStates) break
        states.delete(key)
      }
    },
  }
}

/** A store that remembers nothing: for a single pass. */
export const noStore: ResultStore = { record: async () => null, state: async () => null, save: async () => undefined }
