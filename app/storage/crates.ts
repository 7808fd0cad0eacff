import { applyCommand, type Command } from '../../core/crate/commands'
import { crateSchema, type Crate } from '../../core/crate/schema'
import { PlainError } from '../../core/support/plain-error'
import { database, type StoredCrate } from './database'
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

/** Keeps a new crate; one of the same id is replaced. */
export async function addCrate(crate: Crate): Promise<void> {
  await (
    await database()
  ).put('crates', { id: crate.id, crate: crateSchema.parse(crate), savedAt: Date.now(), past: [], future: [] })
}

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
}

/** Changes a crate in one transaction, so that nothing that was said to be kept is lost on a reload. */
async function change(id: string, alter: (stored: StoredCrate) => StoredCrate): Promise<KeptCrate> {
  const transaction = (await database()).transaction('crates', 'readwrite')
  const stored = await transaction.store.get(id)
  if (!stored) throw new PlainError('there is no such crate in this browser', id, 'Open its crate file from the shelf.')
  const altered = { ...alter(stored), savedAt: Date.now() }
  await transaction.store.put(altered)
  await transaction.done
  return toKept(altered)
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
