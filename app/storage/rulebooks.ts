import { z } from 'zod'
import { identifierFor } from '../../core/crate/schema'
import { builtInRulebooks, parseRulebook } from '../../core/game/load'
import type { Rulebook } from '../../core/game/schema'
import { plainMessage } from '../../core/support/plain-error'
import { database, type StoredRulebook } from './database'
import { withRoom } from './room'

const storedSchema = z.object({
  key: z.string(),
  text: z.string().max(5_000_000),
  stock: z.custom<Uint8Array>((value) => value instanceof Uint8Array).nullable(),
  savedAt: z.number(),
})

/** A rulebook of the modder's own with what it says, or what is wrong with its text. */
export interface OwnRulebook extends StoredRulebook {
  rulebook: Rulebook | null
  fault: string | null
}

function read(stored: unknown): OwnRulebook | null {
  const { data } = storedSchema.safeParse(stored)
  if (!data) return null
  try {
    return { ...data, rulebook: parseRulebook(data.text, data.key), fault: null }
  } catch (error) {
    return { ...data, rulebook: null, fault: plainMessage(error) }
  }
}

/** Every rulebook of the modder's own, the last changed first. */
export async function listRulebooks(): Promise<OwnRulebook[]> {
  const kept = await (await database()).getAll('rulebooks')
  return kept.flatMap((stored) => read(stored) ?? []).sort((a, b) => b.savedAt - a.savedAt)
}

/** One of them; null where there is none of that key. */
export const getRulebook = async (key: string): Promise<OwnRulebook | null> =>
  read(await (await database()).get('rulebooks', key))

/** Addresses below Rulebooks that are no keys: those that ship, and a page. */
const addresses = ['learn', ...builtInRulebooks().map(({ id }) => id)]

/** Keeps a new rulebook under a key made of a name. */
export async function addRulebook(name: string, text: string, stock: Uint8Array | null): Promise<string> {
  const db = await database()
  const transaction = db.transaction('rulebooks', 'readwrite')
  const taken = [...(await transaction.store.getAllKeys()).map(String), ...addresses]
  const key = identifierFor(name, taken)
  await Promise.all([transaction.store.put({ key, text, stock, savedAt: Date.now() }), transaction.done])
  return key
}

/** Keeps another text of a rulebook; what its game has in stock stays. */
export async function putRulebookText(key: string, text: string): Promise<void> {
  await withRoom('the rulebook', async () => {
    const db = await database()
    const transaction = db.transaction('rulebooks', 'readwrite')
    const stored = await transaction.store.get(key)
    if (stored) await transaction.store.put({ ...stored, text, savedAt: Date.now() })
    await transaction.done
  })
}

/** Keeps another text of a rulebook with what its game has in stock. */
export async function putRulebookWithStock(key: string, text: string, stock: Uint8Array | null): Promise<void> {
  await withRoom('the stock of the rulebook', async () => {
    await (await database()).put('rulebooks', { key, text, stock, savedAt: Date.now() })
  })
}

export const removeRulebook = async (key: string): Promise<void> => (await database()).delete('rulebooks', key)
