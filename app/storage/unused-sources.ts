import type { IDBPTransaction, StoreNames } from 'idb'
import { database, type Schema } from './database'

/**
 * A source that no crate names is left alone for a day: it may belong to something that is just being brought in, in
 * this tab or another.
 */
const LEFT_ALONE_MILLISECONDS = 24 * 60 * 60 * 1000

const checksum = /^[0-9a-f]{64}$/

/**
 * Every source that kept values name, of whatever shape they are: crates as they stand, what can be undone, what can be
 * done again, and what was set aside.
 * @returns the sizes in bytes by checksum, nought where it is not said
 */
export function sourcesIn(...values: readonly unknown[]): Map<string, number> {
  const found = new Map<string, number>()
  const left: unknown[] = [values]
  // A damaged record may hold itself.
  const seen = new Set<unknown>()
  while (left.length > 0) {
    const value = left.pop()
    if (typeof value !== 'object' || value === null || ArrayBuffer.isView(value) || seen.has(value)) continue
    seen.add(value)
    const bytes = 'bytes' in value && typeof value.bytes === 'number' ? value.bytes : 0
    for (const inside of Object.values(value) as unknown[])
      if (typeof inside !== 'string') left.push(inside)
      else if (checksum.test(inside)) found.set(inside, Math.max(bytes, found.get(inside) ?? 0))
  }
  return found
}

/** Every checksum that kept values name. */
const checksumsIn = (...values: readonly unknown[]): Set<string> => new Set(sourcesIn(...values).keys())

type Writing = IDBPTransaction<Schema, StoreNames<Schema>[], 'readwrite'>

/** Every checksum that anything which is kept names. */
async function namedChecksums(transaction: Writing): Promise<Set<string>> {
  const found = new Set<string>()
  for (const store of ['crates', 'changes', 'asides'] as const)
    for (let cursor = await transaction.objectStore(store).openCursor(); cursor; cursor = await cursor.continue())
      for (const sha256 of checksumsIn(cursor.value)) found.add(sha256)
  return found
}

/** Within the transaction that erases something: lets the sources go that it alone named. */
export async function dropSourcesOf(erased: unknown, transaction: Writing): Promise<void> {
  const named = await namedChecksums(transaction)
  await Promise.all(
    [...checksumsIn(erased)]
      .filter((sha256) => !named.has(sha256))
      .flatMap((sha256) => [
        transaction.objectStore('sources').delete(sha256),
        transaction.objectStore('sourceTimes').delete(sha256),
      ]),
  )
}

/**
 * Lets sources go that nothing has named for a day: those of removed items that cannot be brought back by undo any
 * more.
 */
export async function dropForgottenSources(now = Date.now()): Promise<void> {
  const transaction = (await database()).transaction(
    ['crates', 'changes', 'asides', 'sources', 'sourceTimes'],
    'readwrite',
  )
  const times = transaction.objectStore('sourceTimes')
  const old = await times.index('keptAt').getAllKeys(IDBKeyRange.upperBound(now - LEFT_ALONE_MILLISECONDS))
  const named = old.length > 0 ? await namedChecksums(transaction) : new Set<string>()
  for (const sha256 of old) {
    if (named.has(sha256)) continue
    void transaction.objectStore('sources').delete(sha256)
    void times.delete(sha256)
  }
  await transaction.done
}
