import { applyCommand, type Command } from '../../core/crate/commands'
import { crateSchema, identifierFor, type Crate } from '../../core/crate/schema'
import { PlainError } from '../../core/support/plain-error'
import { database, type StoredCrate } from './database'
import { tellOtherTabs } from './news'
import { withRoom } from './room'
import { dropSourcesOf } from './unused-sources'

const MOST_UNDO = 100

/** A crate as it is kept, and how far one can go back and forth. */
export interface KeptCrate {
  crate: Crate
  savedAt: number
  canUndo: boolean
  canRedo: boolean
}

function toKept(stored: StoredCrate): KeptCrate {
  const parsed = crateSchema.safeParse(stored.crate)
  if (!parsed.success)
    throw new PlainError('what was kept of it cannot be read', stored.id, 'Open its crate file again.')
  return {
    crate: parsed.data,
    savedAt: stored.savedAt,
    canUndo: stored.past.length > 0,
    canRedo: stored.future.length > 0,
  }
}

/** Every crate of this browser, the latest first. One that cannot be read is left out, not lost. */
export async function listCrates(): Promise<KeptCrate[]> {
  const stored = await (await database()).getAll('crates')
  return stored
    .flatMap((each) => (crateSchema.safeParse(each.crate).success ? [toKept(each)] : []))
    .sort((a, b) => b.savedAt - a.savedAt)
}

/** @throws PlainError when there is no such crate in this browser */
export async function getCrate(id: string): Promise<KeptCrate> {
  const stored = await (await database()).get('crates', id)
  if (!stored) throw new PlainError('there is no such crate in this browser', id, 'Open its crate file from the shelf.')
  return toKept(stored)
}

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
      transaction.store.add({ id, crate: own, savedAt: Date.now(), past: [], future: [] }),
      transaction.done,
    ])
    tellOtherTabs(id)
    return id
  })
}

/** Puts a crate in the place of the one of its id; undo brings that one back. */
export const replaceCrate = (crate: Crate): Promise<KeptCrate> =>
  change(crate.id, (stored) => ({
    ...stored,
    crate: crateSchema.parse(crate),
    past: [...stored.past, stored.crate].slice(-MOST_UNDO),
    future: [],
  }))

/** Removes a crate with its pack and the sources that no other crate names: all of it or nothing. */
export async function removeCrate(id: string): Promise<void> {
  const transaction = (await database()).transaction(
    ['crates', 'packs', 'packBytes', 'sources', 'sourceTimes'],
    'readwrite',
  )
  const stored = await transaction.objectStore('crates').get(id)
  await Promise.all([
    transaction.objectStore('crates').delete(id),
    transaction.objectStore('packs').delete(id),
    transaction.objectStore('packBytes').delete(id),
  ])
  if (stored) await dropSourcesOf(stored, transaction)
  await transaction.done
  tellOtherTabs(id)
}

/** Changes a crate in one transaction, so that nothing that was said to be kept is lost on a reload. */
async function change(id: string, alter: (stored: StoredCrate) => StoredCrate): Promise<KeptCrate> {
  return withRoom('the change', async () => {
    const transaction = (await database()).transaction('crates', 'readwrite')
    const stored = await transaction.store.get(id)
    if (!stored)
      throw new PlainError('there is no such crate in this browser', id, 'Open its crate file from the shelf.')
    const altered = { ...alter(stored), savedAt: Date.now() }
    await Promise.all([transaction.store.put(altered), transaction.done])
    tellOtherTabs(id)
    return toKept(altered)
  })
}

export const commandCrate = (id: string, command: Command): Promise<KeptCrate> =>
  change(id, (stored) => ({
    ...stored,
    crate: crateSchema.parse(applyCommand(crateSchema.parse(stored.crate), command)),
    past: [...stored.past, stored.crate].slice(-MOST_UNDO),
    future: [],
  }))

export const undoCrate = (id: string): Promise<KeptCrate> =>
  change(id, (stored) => {
    if (stored.past.length === 0) return stored
    return {
      ...stored,
      crate: stored.past.at(-1),
      past: stored.past.slice(0, -1),
      future: [stored.crate, ...stored.future],
    }
  })

export const redoCrate = (id: string): Promise<KeptCrate> =>
  change(id, (stored) => {
    if (stored.future.length === 0) return stored
    return { ...stored, crate: stored.future[0], past: [...stored.past, stored.crate], future: stored.future.slice(1) }
  })
