import { PlainError } from '../../core/support/plain-error'
import { BROWSER_STORE } from '../../core/support/wording'
import { database } from './database'
import { erase } from './erase'
import { dropOldStates } from './kept-states'
import { storedOf } from './stored-crate'

/** Errors by which browsers say that there is no room; in private windows there is least. */
const noRoom: ReadonlySet<string> = new Set(['QuotaExceededError', 'NS_ERROR_DOM_QUOTA_REACHED'])

/** Errors that may mean that there is no room, or something else that nobody can mend here. */
const mayBeNoRoom: ReadonlySet<string> = new Set(['AbortError', 'UnknownError'])

const nameOf = (error: unknown): string => (error instanceof Error ? error.name : String(error))

/**
 * Does what writes into the browser's store. Nothing of a transaction that finds no room is kept; then what can be made
 * again goes first, and then the crates that were taken off the shelf, the longest gone first.
 * @param what what was to be kept: “the pack”, “3 MB”
 * @throws PlainError when there is no room even so; what the work throws otherwise
 */
export async function withRoom<T>(what: string, work: () => Promise<T>): Promise<T> {
  let last: unknown
  for (let freed = true; freed;) {
    try {
      return await work()
    } catch (error) {
      if (error instanceof Error && !noRoom.has(error.name) && !mayBeNoRoom.has(error.name)) throw error
      last = error
      freed = await makeRoom(noRoom.has(nameOf(error))).catch(() => false)
    }
  }
  throw new PlainError(
    `it did not keep ${what} (${nameOf(last)})`,
    BROWSER_STORE,
    'Remove crates you no longer need, free room on the disk, or leave the private window; nothing else was changed.',
  )
}

/**
 * Lets go of what is needed least; false where there is nothing of that kind left.
 * @param certain whether it is room that is wanted: else nothing goes that cannot be made again
 */
async function makeRoom(certain: boolean): Promise<boolean> {
  return (await dropResults()) || (certain && (await eraseLongestRemoved()))
}

/** Lets everything go that is made again when it is wanted: states of items, and what their steps told. */
export async function dropResults(): Promise<boolean> {
  const db = await database()
  const some = (await db.count('stateFacts')) + (await db.count('records')) > 0
  await dropOldStates(0)
  await db.clear('records')
  return some
}

async function eraseLongestRemoved(): Promise<boolean> {
  const removed = (await (await database()).getAll('crates'))
    .map(storedOf)
    .filter(({ removedAt }) => removedAt !== null)
    .sort((a, b) => (a.removedAt ?? 0) - (b.removedAt ?? 0))
  const [longest] = removed
  if (longest) await erase(longest.id)
  return longest !== undefined
}
