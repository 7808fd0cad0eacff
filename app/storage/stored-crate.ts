import { z } from 'zod'
import { salvageCrate } from '../../core/crate/salvage'
import { crateSchema, type Crate } from '../../core/crate/schema'
import type { StoredCrate } from './database'

/** A crate as it is kept, and how far one can go back and forth. */
export interface KeptCrate {
  crate: Crate
  savedAt: number
  canUndo: boolean
  canRedo: boolean
  /** How many pieces of it cannot be read. */
  damaged: number
}

/** A crate of which nothing can be read as it is. */
export interface DamagedCrate {
  id: string
  name: string
  reason: string
  /** Whether it opens once it is given a game. */
  wantsGame: boolean
}

const count = z.number().int().nonnegative().catch(0)

/** What is kept around a crate; what of it cannot be read is as on the first day. */
const storedSchema = z.object({
  id: z.string(),
  crate: z.unknown(),
  savedAt: z.number().catch(0),
  at: count,
  first: count,
  last: count,
  removedAt: z.number().nullable().catch(null),
})

/** A record of a crate, whatever was put there under that id. */
export const storedOf = (value: unknown): StoredCrate => storedSchema.parse(value)

/** The crate of a record, or what is wrong with it; nothing is changed by looking. */
export function readStored(stored: StoredCrate): KeptCrate | DamagedCrate {
  const salvaged = salvageCrate(stored.crate, stored.id, null)
  if (!salvaged.crate)
    return {
      id: stored.id,
      name: z.object({ name: z.string() }).safeParse(stored.crate).data?.name ?? stored.id,
      reason: salvaged.reason,
      wantsGame: salvaged.wantsGame,
    }
  return keptOf(stored, salvaged.crate, salvaged.setAside.length)
}

/** @returns what the page is told of a crate that can be read */
export const keptOf = (stored: StoredCrate, crate: Crate, damaged = 0): KeptCrate => ({
  crate,
  savedAt: stored.savedAt,
  canUndo: stored.at > stored.first,
  canRedo: stored.at < stored.last,
  damaged,
})

/** Whether a record holds a crate that is whole. */
export const wholeCrateOf = (stored: StoredCrate): Crate | null => crateSchema.safeParse(stored.crate).data ?? null
