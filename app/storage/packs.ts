import { database, type StoredPack } from './database'

/** The last pack of a crate. */
export const getPack = async (crateId: string): Promise<StoredPack | null> =>
  (await (await database()).get('packs', crateId)) ?? null

export async function putPack(pack: StoredPack): Promise<void> {
  await (await database()).put('packs', pack)
}
