import type { IDBPTransaction, StoreNames } from 'idb'
import { database, type Schema, type StoredCrate } from './database'

/**
 * A source that no crate names is left alone for a day: it may belong to something that is just being brought in, in
 * this tab or another.
 */
const LEFT_ALONE_MILLISECONDS = 24 * 60 * 60 * 1000

const checksum = /^[0-9a-f]{64}$/

/** Every checksum that a kept crate names: as it stands, in what can be undone, and in what can be done again. */
export function checksumsIn(...crates: readonly StoredCrate[]): Set<string> {
  const found = new Set<string>()
  const left: unknown[] = crates.flatMap(({ crate, past, future }) => [crate, ...past, ...future])
  while (left.length > 0) {
    const value = left.pop()
    if (typeof value === 'string' && checksum.test(value)) found.add(value)
    else if (typeof value === 'object' && value !== null) left.push(...(Object.values(value) as unknown[]))
  }
  return found
}

/** Within the transaction that removes a crate: lets the sources go that it alone named. */
export async function dropSourcesOf(
  removed: StoredCrate,
  transaction: IDBPTransaction<Schema, StoreNames<Schema>[], 'readwrite'>,
): Promise<void> {
  const named = checksumsIn(...(await transaction.objectStore('crates').getAll()))
  await Promise.all(
    [...checksumsIn(removed)]
      .filter((sha256) => !named.has(sha256))
      .flatMap((sha256) => [
        transaction.objectStore('sources').delete(sha256),
        transaction.objectStore('sourceTimes').delete(sha256),
      ]),
  )
}

/**
 * Lets sources go that no crate has named for a day: those of removed items that cannot be brought back by undo any
 * more.
 */
export async function dropForgottenSources(now = Date.now()): Promise<void> {
  const transaction = (await database()).transaction(['crates', 'sources', 'sourceTimes'], 'readwrite')
  const times = transaction.objectStore('sourceTimes')
  const old = await times.index('keptAt').getAllKeys(IDBKeyRange.upperBound(now - LEFT_ALONE_MILLISECONDS))
  const named = old.length > 0 ? checksumsIn(...(await transaction.objectStore('crates').getAll())) : new Set<string>()
  for (const sha256 of old) {
    if (named.has(sha256)) continue
    void transaction.objectStore('sources').delete(sha256)
    void times.delete(sha256)
  }
  await transaction.done
}
