import { database } from './database'
import { withRoom } from './room'

/**
 * Keeps source bytes under their checksum; the same file twice is kept once. All or none are kept.
 * @throws PlainError when the browser has no room for them
 */
export async function putSources(sources: readonly { sha256: string; bytes: Uint8Array }[]): Promise<void> {
  const megabytes = Math.ceil(sources.reduce((sum, source) => sum + source.bytes.length, 0) / 1024 / 1024)
  await withRoom(`${megabytes} MB`, async () => {
    const transaction = (await database()).transaction(['sources', 'sourceTimes'], 'readwrite')
    await Promise.all([
      ...sources.flatMap(({ sha256, bytes }) => [
        transaction.objectStore('sources').put({ sha256, bytes }),
        transaction.objectStore('sourceTimes').put({ sha256, keptAt: Date.now() }),
      ]),
      transaction.done,
    ])
  })
}

/** The bytes of a source; null where they are gone. */
export async function getSource(sha256: string): Promise<Uint8Array | null> {
  const bytes: unknown = (await (await database()).get('sources', sha256))?.bytes
  return bytes instanceof Uint8Array ? bytes : null
}
