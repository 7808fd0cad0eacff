import { PlainError } from '../../core/support/plain-error'

/** Errors by which browsers say that there is no room; in private windows there is least. */
const noRoom: ReadonlySet<string> = new Set([
  'QuotaExceededError',
  'NS_ERROR_DOM_QUOTA_REACHED',
  'AbortError',
  'UnknownError',
])

/**
 * Does what writes into the browser's store. Nothing of a transaction that finds no room is kept.
 * @param what what was to be kept: “the pack”, “3 MB”
 * @throws PlainError when there is no room; what the work throws otherwise
 */
export async function withRoom<T>(what: string, work: () => Promise<T>): Promise<T> {
  try {
    return await work()
  } catch (error) {
    if (error instanceof Error && !noRoom.has(error.name)) throw error
    const reason = error instanceof Error ? error.name : String(error)
    throw new PlainError(
      `it did not keep ${what} (${reason})`,
      'this browser’s storage',
      'Remove crates you no longer need, free room on the disk, or leave the private window; nothing else was changed.',
    )
  }
}
