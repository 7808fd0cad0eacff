import type { FileChange } from '../../core/pack/pack-difference'
import type { PackHead } from '../../core/pack/pack-files'
import type { Asker, FileSort, LeftOut } from '../../core/pack/packed-file'
import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import type { StepRecord } from '../../core/worklist/result-store'
import { PlainError } from '../../core/support/plain-error'
import { BROWSER_STORE } from '../../core/support/wording'
import { migrate, VERSION } from './migrations'

/** One crate as it stands. Documents are small, since sources are kept by checksum. */
export interface StoredCrate {
  id: string
  crate: unknown
  savedAt: number
  /** How many changes lead to what stands; undo goes down to `first`, redo up to `last`. */
  at: number
  first: number
  last: number
  /** When it was taken off the shelf; it can be brought back until its room is needed. */
  removedAt: number | null
}

/** One change of a crate, in both directions, by its number. */
export interface StoredChange {
  crate: string
  number: number
  /** What of the crate was other before it, and what is other after it. */
  before: unknown
  after: unknown
}

/** A rulebook of the modder's own, as it is written: perhaps not whole yet. */
export interface StoredRulebook {
  key: string
  text: string
  /** The pack of what its game has in stock. */
  stock: Uint8Array | null
  savedAt: number
}

/** A piece of a crate that cannot be read, until the modder lets it go. */
export interface StoredAside {
  key?: number
  crate: string
  what: string
  reason: string
  value: unknown
  foundAt: number
}

export interface PackedFileFacts {
  path: string
  bytes: number
  /** Packs of earlier versions do not have this and what follows. */
  sha256?: string
  sort?: FileSort
  askedBy?: Asker[]
  written?: string
}

/** What is told of a pack without loading it. */
export interface PackFacts {
  crateId: string
  /** Size of the archive in bytes. */
  size: number
  sha256: string
  files: PackedFileFacts[]
  /** What its manifest says of it as a whole; packs of earlier versions do not have this and what follows. */
  head?: PackHead
  leftOut?: LeftOut[]
  /** What differs from the pack before it; null for the first. */
  changes?: FileChange[] | null
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
  /** SHA-256 of its geometry, where the browser makes one: what does not match any more is made anew. */
  sha256?: string | null
  /** Hashes of the pictures it asks for. */
  pictures: string[]
  usedAt: number
}

/** Large bytes lie in stores of their own, so that lists and sums read small records alone. */
export interface Schema extends DBSchema {
  crates: { key: string; value: StoredCrate }
  changes: { key: [string, number]; value: StoredChange }
  asides: { key: number; value: StoredAside; indexes: { crate: string } }
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
  /** Small pictures of items, by the hash of all that went into what they show. */
  itemPictures: { key: string; value: { key: string; png: Uint8Array; madeAt: number }; indexes: { madeAt: number } }
  settings: { key: string; value: { key: string; value: unknown } }
  rulebooks: { key: string; value: StoredRulebook }
}

let opening: Promise<IDBPDatabase<Schema>> | null = null

/**
 * The one database of this browser, opened on first use; in workers too.
 * @throws PlainError when the browser gives none, or a later version of the program has kept it
 */
export function database(): Promise<IDBPDatabase<Schema>> {
  opening ??= openDB<Schema>('gentle-crate', VERSION, {
    upgrade: (db, from, _to, transaction) => migrate(db, from, transaction),
    // A later version of the application in another tab is not held up; the next question opens the database anew.
    blocking(_current, _blocked, event) {
      ;(event.target as IDBDatabase).close()
      opening = null
    },
    terminated() {
      opening = null
    },
  }).catch((error: unknown) => {
    opening = null
    throw notOpened(error)
  })
  return opening
}

function notOpened(error: unknown): PlainError {
  const name = error instanceof Error ? error.name : String(error)
  return name === 'VersionError'
    ? new PlainError(
        'a later version of Gentle Crate has kept it',
        BROWSER_STORE,
        'Reload the page, or use that version.',
      )
    : new PlainError(
        `it could not be opened (${name})`,
        BROWSER_STORE,
        'Allow this page to keep data, leave the private window, or free room on the disk; then reload.',
      )
}
