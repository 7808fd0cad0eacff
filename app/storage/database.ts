import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import type { StepRecord } from '../../core/worklist/result-store'

/** One crate with its undo and redo: documents are small, since sources are kept by checksum. */
export interface StoredCrate {
  id: string
  crate: unknown
  savedAt: number
  past: unknown[]
  future: unknown[]
}

export interface StoredPack {
  crateId: string
  bytes: Uint8Array
  sha256: string
  files: { path: string; bytes: number }[]
  blocks: number
  /** The crate as it was packed, to tell when the pack is old. */
  crateHash: string
  packedAt: number
}

interface Schema extends DBSchema {
  crates: { key: string; value: StoredCrate }
  sources: { key: string; value: { sha256: string; bytes: Uint8Array } }
  records: { key: string; value: StepRecord }
  states: {
    key: string
    value: { key: string; bytes: Uint8Array; size: number; usedAt: number }
    indexes: { usedAt: number }
  }
  packs: { key: string; value: StoredPack }
  settings: { key: string; value: { key: string; value: unknown } }
}

let opening: Promise<IDBPDatabase<Schema>> | null = null

/** The one database of this browser, opened on first use; in workers too. */
export function database(): Promise<IDBPDatabase<Schema>> {
  opening ??= openDB<Schema>('gentle-crate', 1, {
    upgrade(db) {
      db.createObjectStore('crates', { keyPath: 'id' })
      db.createObjectStore('sources', { keyPath: 'sha256' })
      db.createObjectStore('records', { keyPath: 'key' })
      db.createObjectStore('states', { keyPath: 'key' }).createIndex('usedAt', 'usedAt')
      db.createObjectStore('packs', { keyPath: 'crateId' })
      db.createObjectStore('settings', { keyPath: 'key' })
    },
  })
  return opening
}
