import { applyCommand, type Command } from '../../core/crate/commands'
import { salvageCrate } from '../../core/crate/salvage'
import { crateSchema, identifierFor, readChanged, type Crate } from '../../core/crate/schema'
import type { Game } from '../../core/game/game'
import { PlainError } from '../../core/support/plain-error'
import { database, type StoredCrate } from './database'
import { erase } from './erase'
import { addChange, stepThrough, type Writing } from './history'
import { tellOtherTabs } from './news'
import { withRoom } from './room'
import { keptOf, readStored, storedOf, wholeCrateOf, type DamagedCrate, type KeptCrate } from './stored-crate'

/** A crate that was taken off the shelf. */
export interface RemovedCrate {
  id: string
  name: string
  removedAt: number
}

/** Everything on the shelf, the latest first. */
export interface Shelved {
  crates: KeptCrate[]
  /** Those of which nothing can be read as it is. */
  damaged: DamagedCrate[]
  /** Those that can be brought back until their room is needed. */
  removed: RemovedCrate[]
}

/** What the shelf shows; nothing is changed by looking. */
export async function listShelf(): Promise<Shelved> {
  const stored = (await (await database()).getAll('crates')).map(storedOf).sort((a, b) => b.savedAt - a.savedAt)
  const read = stored.map((each) => ({ removedAt: each.removedAt, found: readStored(each) }))
  const standing = read.filter(({ removedAt }) => removedAt === null).map(({ found }) => found)
  return {
    crates: standing.flatMap((found) => ('crate' in found ? [found] : [])),
    damaged: standing.flatMap((found) => ('crate' in found ? [] : [found])),
    removed: read.flatMap(({ removedAt, found }) => {
      if (removedAt === null) return []
      const { id, name } = 'crate' in found ? found.crate : found
      return [{ id, name, removedAt }]
    }),
  }
}

/** Whether anything is kept under an id: on the shelf, damaged, or removed. */
export const isTaken = async (id: string): Promise<boolean> =>
  (await (await database()).getKey('crates', id)) !== undefined

/**
 * A crate of this browser. Pieces of it that cannot be read are set aside, where they can be seen and saved.
 * @throws PlainError when there is no such crate, or nothing of it can be read
 */
export async function getCrate(id: string): Promise<KeptCrate> {
  const found = await (await database()).get('crates', id)
  const stored = found && storedOf(found)
  if (!stored || stored.removedAt !== null) throw notThere(id)
  const whole = justPut(stored) ?? wholeCrateOf(stored)
  return whole ? keptOf(stored, { ...whole, id }) : change(id, ({ stored: opened, crate }) => keptOf(opened, crate))
}

const notThere = (id: string): PlainError =>
  new PlainError('there is no such crate in this browser', id, 'Open its crate file from the shelf.')

/**
 * Keeps a new crate. One whose id is taken gets another: what is kept is never replaced unasked, by a file or by
 * another tab.
 * @returns its id
 */
export async function addCrate(crate: Crate): Promise<string> {
  return withRoom('the crate', async () => {
    const transaction = (await database()).transaction('crates', 'readwrite')
    const taken = (await transaction.store.getAllKeys()).map(String)
    const id = taken.includes(crate.id) ? identifierFor(crate.id, taken) : crate.id
    const own = crateSchema.parse({ ...crate, id })
    await Promise.all([
      transaction.store.add({ id, crate: own, savedAt: Date.now(), at: 0, first: 0, last: 0, removedAt: null }),
      transaction.done,
    ])
    tellOtherTabs(id)
    return id
  })
}

/** The crate that this page put there last: it need not be read again as long as nobody else has changed it. */
let lastPut: { id: string; savedAt: number; at: number; crate: Crate } | null = null

const justPut = ({ id, savedAt, at }: StoredCrate): Crate | null =>
  lastPut?.id === id && lastPut.savedAt === savedAt && lastPut.at === at ? lastPut.crate : null

/** A crate within the transaction that changes it. */
interface Open {
  transaction: Writing
  stored: StoredCrate
  crate: Crate
}

/**
 * Changes a crate in one transaction, so that nothing that was said to be kept is lost on a reload. What of it cannot
 * be read is set aside first.
 * @param game stands in for a rulebook that cannot be read
 */
async function change(
  id: string,
  alter: (open: Open) => Promise<KeptCrate> | KeptCrate,
  game: Game | null = null,
): Promise<KeptCrate> {
  return withRoom('the change', async () => {
    const transaction = (await database()).transaction(['crates', 'changes', 'asides'], 'readwrite')
    // What is thrown below ends the transaction by itself: nothing of it is kept.
    transaction.done.catch(() => undefined)
    try {
      const kept = await alter(await openStored(transaction, id, game))
      await transaction.done
      tellOtherTabs(id)
      return kept
    } catch (error) {
      if (!transaction.error) abort(transaction)
      throw transaction.error ?? error
    }
  })
}

function abort(transaction: Writing): void {
  try {
    transaction.abort()
  } catch {
    // It has ended already.
  }
}

async function openStored(transaction: Writing, id: string, game: Game | null): Promise<Open> {
  const found = await transaction.objectStore('crates').get(id)
  if (!found) throw notThere(id)
  const stored = storedOf(found)
  const known = game ? null : justPut(stored)
  if (known) return { transaction, stored, crate: known }
  const salvaged = salvageCrate(stored.crate, id, game)
  if (!salvaged.crate)
    throw new PlainError(
      `what was kept of it cannot be read: ${salvaged.reason}`,
      id,
      'The shelf shows what can be done.',
    )
  const crate = { ...salvaged.crate, id }
  if (salvaged.setAside.length > 0) {
    for (const piece of salvaged.setAside)
      await transaction.objectStore('asides').add({ crate: id, ...piece, foundAt: Date.now() })
    await transaction.objectStore('crates').put({ ...stored, crate })
  }
  return { transaction, stored, crate }
}

/** Puts a crate in the place of another, as a change that undo takes back. */
async function put({ transaction, stored, crate }: Open, next: Crate): Promise<KeptCrate> {
  const altered = {
    ...stored,
    ...(await addChange(transaction, stored, crate, next)),
    crate: next,
    savedAt: Date.now(),
    removedAt: null,
  }
  await transaction.objectStore('crates').put(altered)
  await transaction.done
  lastPut = { id: next.id, savedAt: altered.savedAt, at: altered.at, crate: next }
  return keptOf(altered, next)
}

/** Puts a crate in the place of the one of its id; undo brings that one back. */
export const replaceCrate = (crate: Crate): Promise<KeptCrate> =>
  change(crate.id, (open) => put(open, crateSchema.parse(crate)))

export const commandCrate = (id: string, command: Command): Promise<KeptCrate> =>
  change(id, (open) => put(open, readChanged(open.crate, applyCommand(open.crate, command))))

/** Opens a crate whose own rulebook cannot be read with a game that is given. */
export const giveGame = (id: string, game: Game): Promise<KeptCrate> =>
  change(id, ({ stored, crate }) => keptOf(stored, crate), game)

async function step(id: string, way: 'back' | 'on'): Promise<KeptCrate> {
  return change(id, async ({ transaction, stored, crate }) => {
    const next = await stepThrough(transaction, stored, crate, way)
    if (!next) return keptOf(stored, crate)
    const altered = { ...stored, ...next, savedAt: Date.now() }
    await transaction.objectStore('crates').put(altered)
    return keptOf(altered, next.crate)
  })
}

export const undoCrate = (id: string): Promise<KeptCrate> => step(id, 'back')

export const redoCrate = (id: string): Promise<KeptCrate> => step(id, 'on')

/** Takes a crate off the shelf. It can be brought back until its room is needed. */
export const removeCrate = (id: string): Promise<void> => setRemoved(id, Date.now())

/** Puts a removed crate back on the shelf. */
export const bringBack = (id: string): Promise<void> => setRemoved(id, null)

async function setRemoved(id: string, removedAt: number | null): Promise<void> {
  await withRoom('the change', async () => {
    const transaction = (await database()).transaction('crates', 'readwrite')
    const found = await transaction.store.get(id)
    if (found) await transaction.store.put({ ...storedOf(found), removedAt })
    await transaction.done
  })
  tellOtherTabs(id)
}

/** Removes a crate for good, with its pack and the sources that no other crate names: all of it or nothing. */
export async function eraseCrate(id: string): Promise<void> {
  await erase(id)
  tellOtherTabs(id)
}
