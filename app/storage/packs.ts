import { database, type PackFacts } from './database'
import { withRoom } from './room'

/** What is known of the last pack of a crate. */
export const getPackFacts = async (crateId: string): Promise<PackFacts | null> =>
  (await (await database()).get('packs', crateId)) ?? null

/** The archive itself. */
export const getPackBytes = async (crateId: string): Promise<Uint8Array | null> =>
  (await (await database()).get('packBytes', crateId))?.bytes ?? null

/** Keeps a pack in place of the last of its crate: both halves or neither. */
export async function putPack(facts: Omit<PackFacts, 'size'>, bytes: Uint8Array): Promise<void> {
  await withRoom('the pack', async () => {
    const transaction = (await database()).transaction(['packs', 'packBytes'], 'readwrite')
    await Promise.all([
      transaction.objectStore('packs').put({ ...facts, size: bytes.byteLength }),
      transaction.objectStore('packBytes').put({ crateId: facts.crateId, bytes }),
      transaction.done,
    ])
  })
}
