import type { Document } from '@gltf-transform/core'
import { keepState, openState } from '../../core/worklist/kept-state'
import { database } from './database'

/** Room for kept states with their pictures; the ones not used for longest go first. */
const MOST_BYTES = 400 * 1024 * 1024

/** The item as a step left it; null where it, or a picture of it, was let go. */
export async function readState(key: string): Promise<Document | null> {
  const db = await database()
  const [kept, facts] = await Promise.all([db.get('states', key), db.get('stateFacts', key)])
  if (!kept || !facts) return null
  await db.put('stateFacts', { ...facts, usedAt: Date.now() }).catch(() => undefined)
  if (!(kept.glb instanceof Uint8Array) || !(await isAsKept(kept.glb, facts.sha256))) return null
  return openState(kept.glb, async (hash) => (await db.get('pictures', hash))?.bytes ?? null).catch(() => null)
}

/** The checksum that the browser makes itself; null where it makes none, as on a page that is not secure. */
async function checksumOf(bytes: Uint8Array): Promise<string | null> {
  const digest = await crypto.subtle?.digest('SHA-256', bytes as Uint8Array<ArrayBuffer>)
  return digest ? [...new Uint8Array(digest)].map((byte) => byte.toString(16).padStart(2, '0')).join('') : null
}

const isAsKept = async (glb: Uint8Array, sha256: string | null | undefined): Promise<boolean> =>
  sha256 === null || sha256 === undefined || (await checksumOf(glb)) === sha256

/**
 * Keeps a state, and of its pictures those that no other state has brought. Where the browser has no room, older states
 * make some; where that does not help it is not kept, and is made anew when it is wanted.
 */
export async function writeState(key: string, document: Document): Promise<void> {
  const state = await keepState(document)
  const size = state.glb.byteLength + [...state.pictures.values()].reduce((sum, each) => sum + each.byteLength, 0)
  if (size > MOST_BYTES / 2) return
  await dropOldStates(MOST_BYTES - size)
  try {
    await put(key, state)
  } catch {
    await dropOldStates(0)
    await put(key, state).catch(() => undefined)
  }
}

async function put(key: string, { glb, pictures }: Awaited<ReturnType<typeof keepState>>): Promise<void> {
  // Made before the transaction begins, which ends by itself while something else is waited for.
  const sha256 = await checksumOf(glb)
  const transaction = (await database()).transaction(['states', 'stateFacts', 'pictures', 'pictureFacts'], 'readwrite')
  const work: Promise<unknown>[] = [
    transaction.objectStore('states').put({ key, glb }),
    transaction
      .objectStore('stateFacts')
      .put({ key, bytes: glb.byteLength, sha256, pictures: [...pictures.keys()], usedAt: Date.now() }),
  ]
  for (const [hash, bytes] of pictures) {
    if (await transaction.objectStore('pictureFacts').getKey(hash)) continue
    work.push(
      transaction.objectStore('pictures').put({ hash, bytes }),
      transaction.objectStore('pictureFacts').put({ hash, bytes: bytes.byteLength }),
    )
  }
  await Promise.all([...work, transaction.done])
}

/**
 * Lets states go, the longest unused first, until what is kept is not more than so many bytes; pictures go with the
 * last that asks for them.
 */
export async function dropOldStates(mostBytes: number): Promise<void> {
  const transaction = (await database()).transaction(['states', 'stateFacts', 'pictures', 'pictureFacts'], 'readwrite')
  const facts = await transaction.objectStore('stateFacts').index('usedAt').getAll()
  const sizes = new Map(
    (await transaction.objectStore('pictureFacts').getAll()).map(({ hash, bytes }) => [hash, Number(bytes) || 0]),
  )
  const kept = new Set<string>()
  let total = 0
  let full = false
  // From the latest on: each counts with the pictures that none before it has asked for.
  for (const { key, bytes, pictures } of facts.reverse()) {
    const added = pictures.filter((hash) => !kept.has(hash))
    const size = bytes + added.reduce((sum, hash) => sum + (sizes.get(hash) ?? 0), 0)
    full ||= total + size > mostBytes
    if (full) {
      void transaction.objectStore('states').delete(key)
      void transaction.objectStore('stateFacts').delete(key)
    } else {
      total += size
      for (const hash of added) kept.add(hash)
    }
  }
  for (const hash of sizes.keys()) {
    if (kept.has(hash)) continue
    void transaction.objectStore('pictures').delete(hash)
    void transaction.objectStore('pictureFacts').delete(hash)
  }
  await transaction.done
}
