import { create } from 'zustand'
import { tellError } from '../ui/notify'

/** How many changes are on their way into the browser's store. */
const useChanges = create<{ underWay: number }>(() => ({ underWay: 0 }))

const count = (by: number): void => useChanges.setState(({ underWay }) => ({ underWay: underWay + by }))

/** Whether a change is on its way: told from the moment it is asked for, before any request has begun. */
export const useKeeping = (): boolean => useChanges((state) => state.underWay > 0)

/** Counts a change until it is kept or was refused. */
export async function whileKeeping(change: Promise<void>): Promise<void> {
  count(1)
  try {
    await change
  } finally {
    count(-1)
  }
}

/** Changes that were refused, until whoever asked for them has looked. */
const refused = new Set<string>()

/**
 * Does a change that an action is asked for. One that is refused is told in its sentence and leaves the page as it is.
 * @param ticket what the change is known by to whoever asked for it
 */
export async function orTell<T>(ticket: string, change: () => Promise<T>): Promise<T | null> {
  try {
    return await change()
  } catch (error) {
    refused.add(ticket)
    tellError(error)
    return null
  }
}

/** Whether a change was kept; asked once. */
export const wasKept = (ticket: string): boolean => !refused.delete(ticket)
