import { create } from 'zustand'

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
