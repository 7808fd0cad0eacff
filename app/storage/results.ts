import { rememberingStore, stepRecordSchema, type ResultStore } from '../../core/worklist/result-store'
import { database } from './database'
import { readState, writeState } from './kept-states'

/**
 * Results of steps in this browser's database, so that they outlive the worker that made them. A full disk does not
 * fail a step.
 */
export const browserResults: ResultStore = {
  async record(key) {
    const parsed = stepRecordSchema.safeParse(await (await database()).get('records', key))
    return parsed.success ? parsed.data : null
  },
  state: readState,
  async save(record, state) {
    await (await database()).put('records', record).catch(() => undefined)
    if (state) await writeState(record.key, state)
    // It is written down, not held.
    return false
  },
}

/** The same for one worker: the states it was last at are open already. */
export const workerResults = (): ResultStore => rememberingStore(browserResults)
