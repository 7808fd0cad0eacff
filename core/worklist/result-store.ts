import type { Document } from '@gltf-transform/core'
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

/** Where results are kept. A store may let states go to save room, the records stay. */
export interface ResultStore {
  record: (key: string) => Promise<StepRecord | null>
  /** The item as that step left it. Whoever gets it copies it before changing it. */
  state: (key: string) => Promise<Document | null>
  /**
   * Keeps a record and, if there is room, the state; null where the state is handed on and not to be kept.
   * @returns whether it holds the state from now on: then it is not changed any more, else it is the caller's own
   */
  save: (record: StepRecord, state: Document | null) => Promise<boolean>
  /**
   * Takes a state out for good, for the step that goes on from it: whoever gets it may change it. A store whose states
   * others look at has no such thing.
   */
  take?: (key: string) => Promise<Document | null>
}

/**
 * A store for one run: the command line and tests. Keeps records, and the latest few states.
 *
 * @example const { document } = await runWorklist(start, worklist, { rulebook, kind, store: memoryStore() })
 */
export function memoryStore(mostStates = 32): ResultStore {
  const records = new Map<string, StepRecord>()
  const states = new Map<string, Document>()
  return {
    record: async (key) => records.get(key) ?? null,
    state: async (key) => states.get(key) ?? null,
    save: async (record, state) => {
      records.set(record.key, record)
      states.delete(record.key)
      if (state) states.set(record.key, state)
      for (const key of states.keys()) {
        if (states.size <= mostStates) break
        states.delete(key)
      }
      return states.has(record.key)
    },
    take: async (key) => {
      const state = states.get(key) ?? null
      states.delete(key)
      return state
    },
  }
}

/**
 * A store with the latest few records and states of another at hand, open.
 * @example const store = rememberingStore(folderStore('.results'))
 */
export function rememberingStore(store: ResultStore, mostStates = 6): ResultStore {
  const near = memoryStore(mostStates)
  return {
    record: async (key) => (await near.record(key)) ?? store.record(key),
    async state(key) {
      const known = await near.state(key)
      if (known) return known
      const [record, state] = await Promise.all([store.record(key), store.state(key)])
      if (record && state) await near.save(record, state)
      return state
    },
    async save(record, state) {
      const isNear = await near.save(record, state)
      const isKept = await store.save(record, state)
      return isNear || isKept
    },
  }
}

/** A store that remembers nothing: for a single pass. */
export const noStore: ResultStore = { record: async () => null, state: async () => null, save: async () => false }
