import { stepRecordSchema, type ResultStore } from '../../core/worklist/result-store'
import { database } from './database'

/** Room for kept states; the ones not used for longest go first. Records are small and stay. */
const MOST_STATE_BYTES = 400 * 1024 * 1024

/** Results of steps in this browser's database, so that they outlive the worker that made them. */
export const browserResults: ResultStore = {
  async record(key) {
    const parsed = stepRecordSchema.safeParse(await (await database()).get('records', key))
    return parsed.success ? parsed.data : null
  },
  async state(key) {
    const db = await database()
    const stored = await db.get('states', key)
    if (!stored) return null
    await db.put('states', { ...stored, usedAt: Date.now() })
    return stored.bytes
  },
  async save(record, state) {
    const db = await database()
    await db.put('records', record)
    if (!state || state.byteLength > MOST_STATE_BYTES / 4) return
    await db.put('states', { key: record.key, bytes: state, size: state.byteLength, usedAt: Date.now() })
    await dropOldStates()
  },
}

async function dropOldStates(): Promise<void> {
  const transaction = (await database()).transaction('states', 'readwrite')
  const sizes: { key: string; size: number }[] = []
  let cursor = await transaction.store.index('usedAt').openCursor()
  while (cursor) {
    sizes.push({ key: cursor.value.key, size: cursor.value.size })
    cursor = await cursor.continue()
  }
  let total = sizes.reduce((sum, each) => sum + each.size, 0)
  for (const { key, size } of sizes) {
    if (total <= MOST_STATE_BYTES) break
    await transaction.store.delete(key)
    total -= size
  }
  await transaction.done
}
