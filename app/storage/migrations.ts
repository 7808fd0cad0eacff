import type { IDBPDatabase, IDBPTransaction, StoreNames } from 'idb'
import { changeBetween } from '../../core/crate/change'
import { crateSchema } from '../../core/crate/schema'
import type { PackFacts, Schema, StoredChange, StoredCrate } from './database'

/** The version that data is kept in; every earlier one is brought to it when the database is opened. */
export const VERSION = 5

type Upgrade = IDBPTransaction<Schema, StoreNames<Schema>[], 'versionchange'>

/** Brings what an earlier version kept to the present one, within one transaction: all of it or nothing. */
export async function migrate(db: IDBPDatabase<Schema>, from: number, transaction: Upgrade): Promise<void> {
  if (from < 1) {
    db.createObjectStore('crates', { keyPath: 'id' })
    db.createObjectStore('sources', { keyPath: 'sha256' })
    db.createObjectStore('records', { keyPath: 'key' })
    db.createObjectStore('packs', { keyPath: 'crateId' })
    db.createObjectStore('settings', { keyPath: 'key' })
  }
  if (from < 2) {
    // States of the first version held their pictures; what is not there is made anew.
    if (from === 1) db.deleteObjectStore('states')
    db.createObjectStore('states', { keyPath: 'key' })
    db.createObjectStore('stateFacts', { keyPath: 'key' }).createIndex('usedAt', 'usedAt')
    db.createObjectStore('pictures', { keyPath: 'hash' })
    db.createObjectStore('pictureFacts', { keyPath: 'hash' })
    db.createObjectStore('packBytes', { keyPath: 'crateId' })
    db.createObjectStore('sourceTimes', { keyPath: 'sha256' }).createIndex('keptAt', 'keptAt')
    if (from === 1) await packsApart(transaction)
  }
  if (from < 3) {
    db.createObjectStore('changes', { keyPath: ['crate', 'number'] })
    db.createObjectStore('asides', { autoIncrement: true, keyPath: 'key' }).createIndex('crate', 'crate')
    if (from > 0) await changesApart(transaction)
  }
  if (from < 4) db.createObjectStore('itemPictures', { keyPath: 'key' }).createIndex('madeAt', 'madeAt')
  db.createObjectStore('rulebooks', { keyPath: 'key' })
}

/** Packs of the first version held their bytes, and nothing said when a source was brought. */
async function packsApart(transaction: Upgrade): Promise<void> {
  const packs = transaction.objectStore('packs')
  for (let cursor = await packs.openCursor(); cursor; cursor = await cursor.continue()) {
    const { bytes, ...facts } = cursor.value as PackFacts & { bytes: Uint8Array }
    await transaction.objectStore('packBytes').put({ crateId: facts.crateId, bytes })
    await cursor.update({ ...facts, size: bytes.byteLength })
  }
  for (const sha256 of await transaction.objectStore('sources').getAllKeys())
    await transaction.objectStore('sourceTimes').put({ sha256, keptAt: Date.now() })
}

/** The second version kept a whole crate for each undo and redo. */
async function changesApart(transaction: Upgrade): Promise<void> {
  const crates = transaction.objectStore('crates')
  for (let cursor = await crates.openCursor(); cursor; cursor = await cursor.continue()) {
    const {
      past = [],
      future = [],
      ...stored
    } = cursor.value as StoredCrate & {
      past?: readonly unknown[]
      future?: readonly unknown[]
    }
    const { changes, at } = changesOf(stored.id, past, stored.crate, future)
    for (const change of changes) await transaction.objectStore('changes').put(change)
    await cursor.update({ ...stored, at, first: 0, last: changes.length, removedAt: null })
  }
}

/** The way through whole crates as changes, as far as they can be read on both sides of the one that stands. */
function changesOf(crate: string, past: readonly unknown[], present: unknown, future: readonly unknown[]) {
  const read = [...past, present, ...future].map((each) => crateSchema.safeParse(each).data ?? null)
  const first = read.slice(0, past.length + 1).lastIndexOf(null) + 1
  const end = read.indexOf(null, past.length)
  const whole = read.slice(first, end < 0 ? undefined : end).flatMap((each) => each ?? [])
  const changes = whole.slice(1).map((after, at): StoredChange => ({
    crate,
    number: at + 1,
    before: changeBetween(after, whole[at]),
    after: changeBetween(whole[at], after),
  }))
  return { changes, at: whole.length === 0 ? 0 : past.length - first }
}
