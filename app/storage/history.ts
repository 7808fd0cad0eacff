import type { IDBPTransaction, StoreNames } from 'idb'
import { changeBetween, crateChangeSchema, withChange } from '../../core/crate/change'
import type { Crate } from '../../core/crate/schema'
import { PlainError } from '../../core/support/plain-error'
import type { Schema, StoredCrate } from './database'

/** How many changes of a crate can be undone. */
const MOST_UNDO = 1000

/** A transaction that changes crates. */
export type Writing = IDBPTransaction<Schema, StoreNames<Schema>[], 'readwrite'>

/** Every change of a crate. */
export const changesOf = (crate: string): IDBKeyRange => IDBKeyRange.bound([crate], [crate, []])

/**
 * Adds a change after what stands; what could be redone is gone, and so is the oldest when there are too many.
 * @returns the place in the crate's changes that it now stands at
 */
export async function addChange(
  transaction: Writing,
  stored: StoredCrate,
  from: Crate,
  to: Crate,
): Promise<Pick<StoredCrate, 'at' | 'first' | 'last'>> {
  const changes = transaction.objectStore('changes')
  const at = stored.at + 1
  const first = Math.max(stored.first, at - MOST_UNDO)
  if (stored.last > stored.at) await changes.delete(IDBKeyRange.bound([stored.id, at], [stored.id, []]))
  if (first > stored.first) await changes.delete(IDBKeyRange.bound([stored.id, 0], [stored.id, first]))
  await changes.put({
    crate: stored.id,
    number: at,
    before: changeBetween(to, from),
    after: changeBetween(from, to),
  })
  return { at, first, last: at }
}

/**
 * The crate one change further back or forth, and the place that it then stands at; null where there is none.
 * @throws PlainError when what was kept of the change cannot be read
 */
export async function stepThrough(
  transaction: Writing,
  stored: StoredCrate,
  crate: Crate,
  way: 'back' | 'on',
): Promise<{ crate: Crate; at: number } | null> {
  const [number, at] = way === 'back' ? [stored.at, stored.at - 1] : [stored.at + 1, stored.at + 1]
  if (way === 'back' ? stored.at <= stored.first : stored.at >= stored.last) return null
  const kept = await transaction.objectStore('changes').get([stored.id, number])
  const change = crateChangeSchema.safeParse(way === 'back' ? kept?.before : kept?.after)
  if (!change.success)
    throw new PlainError(
      'what was kept of this change cannot be read',
      crate.name,
      'What stands is whole; it only cannot be gone back or forth from here.',
    )
  return { crate: withChange(crate, change.data), at }
}
