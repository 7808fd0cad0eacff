import { database } from './database'
import { sourcesIn } from './unused-sources'

/** What this browser keeps, in bytes. */
export interface Usage {
  /** Of each crate: its sources and its pack. A source that two crates share counts in both. */
  crates: Record<string, number>
  /** What is made again when it is wanted. */
  madeAgain: number
  /** Everything that the browser holds for this page, and how much it may; null where it does not say. */
  used: number | null
  allowed: number | null
  /** Whether the browser has promised not to clear it by itself. */
  lasting: boolean
}

/** @returns what is kept, without loading any of it but the crates' documents */
export async function usage(): Promise<Usage> {
  const db = await database()
  const [crates, packs, states, pictures] = await Promise.all([
    db.getAll('crates'),
    db.getAll('packs'),
    db.getAll('stateFacts'),
    db.getAll('pictureFacts'),
  ])
  const packSizes = new Map(packs.map(({ crateId, size }) => [crateId, Number(size) || 0]))
  const estimate = await navigator.storage?.estimate?.().catch(() => null)
  return {
    crates: Object.fromEntries(
      crates.map((stored) => [stored.id, sum([...sourcesIn(stored).values()]) + (packSizes.get(stored.id) ?? 0)]),
    ),
    madeAgain: sum([...states, ...pictures].map(({ bytes }) => bytes)),
    used: estimate?.usage ?? null,
    allowed: estimate?.quota ?? null,
    lasting: (await navigator.storage?.persisted?.().catch(() => false)) ?? false,
  }
}

const sum = (bytes: readonly number[]): number => bytes.reduce((total, each) => total + (Number(each) || 0), 0)

/** Asks the browser not to clear by itself what is kept here; it may ask the modder, or say no. */
export async function askForLasting(): Promise<boolean> {
  return (await navigator.storage?.persist?.().catch(() => false)) ?? false
}
