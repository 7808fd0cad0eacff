import { database, type StoredAside } from './database'

/** A piece of a crate that could not be read. */
export type Aside = Omit<StoredAside, 'key'> & { key: number }

/** What was set aside of a crate, in the order in which it was found. */
export async function listAsides(crate: string): Promise<Aside[]> {
  const found = await (await database()).getAllFromIndex('asides', 'crate', crate)
  return found.flatMap(({ key, ...rest }) => (key === undefined ? [] : [{ key, ...rest }]))
}

/** Lets what was set aside of a crate go. */
export async function dropAsides(crate: string): Promise<void> {
  const transaction = (await database()).transaction('asides', 'readwrite')
  for (const key of await transaction.store.index('crate').getAllKeys(crate)) void transaction.store.delete(key)
  await transaction.done
}

/** The record of a crate as it is kept, for saving what cannot be read. */
export const rawRecord = async (id: string): Promise<unknown> => (await (await database()).get('crates', id)) ?? null

/**
 * Any value as text that can be saved: what JSON does not know is told in words, and nothing goes deeper than forty.
 */
export function asText(value: unknown): string {
  const plain = (inside: unknown, depth: number): unknown => {
    if (typeof inside === 'bigint' || typeof inside === 'symbol') return String(inside)
    if (typeof inside !== 'object' || inside === null) return inside
    if (depth > 40) return '(deeper than can be saved)'
    if (ArrayBuffer.isView(inside)) return `(${inside.byteLength} bytes)`
    if (Array.isArray(inside)) return inside.map((each) => plain(each, depth + 1))
    return Object.fromEntries(Object.entries(inside).map(([key, each]) => [key, plain(each, depth + 1)]))
  }
  return `${JSON.stringify(plain(value, 0), null, 2)}\n`
}
