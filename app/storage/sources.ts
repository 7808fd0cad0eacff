import { database } from './database'

/** Keeps source bytes under their checksum; the same file twice is kept once. */
export async function putSources(sources: readonly { sha256: string; bytes: Uint8Array }[]): Promise<void> {
  const transaction = (await database()).transaction('sources', 'readwrite')
  for (const source of sources) void transaction.store.put({ sha256: source.sha256, bytes: source.bytes })
  await transaction.done
}

export async function getSource(sha256: string): Promise<Uint8Array | null> {
  return (await (await database()).get('sources', sha256))?.bytes ?? null
}
