import { openDB, type DBSchema, type IDBPDatabase, type IDBPTransaction, type StoreNames } from 'idb'
import type { StepRecord } from '../../core/worklist/result-store'

/** One crate with its undo and redo: documents are small, since sources are kept by checksum. */
export interface StoredCrate {
  id: string
  crate: unknown
  savedAt: number
  past: unknown[]
  future: unknown[]
}

/** What is told of a pack without loading it. */
export interface PackFacts {
  crateId: string
  /** Size of the archive in bytes. */
  size: number
  sha256: string
  files: { path: string; bytes: number }[]
  blocks: number
  /** The crate as it was packed, to tell when the pack is old. */
  crateHash: string
  packedAt: number
}

/** What is told of a kept state without loading it: enough to decide which one goes. */
export interface StateFacts {
  key: string
  /** Bytes of its geometry; its pictures count by themselves. */
  bytes: number
  /** Hashes of the pictures it asks for. */
  pictures: string[]
  usedAt: number
}

/** Large bytes lie in stores of their own, so that lists and sums read small records alone. */
export interface Schema extends DBSchema {
  crates: { key: string; value: StoredCrate }
  sources: { key: string; value: { sha256: string; bytes: Uint8Array } }
  /** When a source was brought last. */
  sourceTimes: { key: string; value: { sha256: string; keptAt: number }; indexes: { keptAt: number } }
  records: { key: string; value: StepRecord }
  states: { key: string; value: { key: string; glb: Uint8Array } }
  stateFacts: { key: string; value: StateFacts; indexes: { usedAt: number } }
  pictures: { key: string; value: { hash: string; bytes: Uint8Array } }
  pictureFacts: { key: string; value: { hash: string; bytes: number } }
  packs: { key: string; value: PackFacts }
  packBytes: { key: string; value: { crateId: string; bytes: Uint8Array } }
  settings: { key: string; value: { key: string; value: unknown } }
}

const VERSION = 2

type Upgrade = IDBPTransaction<Schema, StoreNames<Schema>[], 'versionchange'>

let opening: Promise<IDBPDatabase<Schema>> | null = null

/** The one database of this browser, opened on first use; in workers too. */
export function database(): Promise<IDBPDatabase<Schema>> {
  opening ??= openDB<Schema>('gentle-crate', VERSION, {
    async upgrade(db, from, _to, transaction) {
      if (from < 1) {
        db.createObjectStore('crates', { keyPath: 'id' })
        db.createObjectStore('sources', { keyPath: 'sha256' })
        db.createObjectStore('records', { keyPath: 'key' })
        db.createObjectStore('packs', { keyPath: 'crateId' })
        db.createObjectStore('settings', { keyPath: 'key' })
      }
      // States of the first version held their pictures; what is not there is made anew.
      if (from >= 1) db.deleteObjectStore('states')
      db.createObjectStore('states', { keyPath: 'key' })
      db.createObjectStore('stateFacts', { keyPath: 'key' }).createIndex('usedAt', 'usedAt')
      db.createObjectStore('pictures', { keyPath: 'hash' })
      db.createObjectStore('pictureFacts', { keyPath: 'hash' })
      db.createObjectStore('packBytes', { keyPath: 'crateId' })
      db.createObjectStore('sourceTimes', { keyPath: 'sha256' }).createIndex('keptAt', 'keptAt')
      if (from >= 1) {
        await packsApart(transaction)
        for (const sha256 of await transaction.objectStore('sources').getAllKeys())
          await transaction.objectStore('sourceTimes').put({ sha256, keptAt: Date.now() })
      }
    },
    // A later version of the application in another tab is not held up; the next question opens the database anew.
    blocking(_current, _blocked, event) {
      ;(event.target as IDBDatabase).close()
      opening = null
    },
    terminated() {
      opening = null
    },
  })
  return opening
}

/** Packs of the first version held their bytes. */
async function packsApart(transaction: Upgrade): Promise<void> {
  const packs = transaction.objectStore('packs')
  for (let cursor = await packs.openCursor(); cursor; cursor = await cursor.continue()) {
    const { bytes, ...facts } = cursor.value as PackFacts & { bytes: Uint8Array }
    await transaction.objectStore('packBytes').put({ crateId: facts.crateId, bytes })
    await cursor.update({ ...facts, size: bytes.byteLength })
  }
}
