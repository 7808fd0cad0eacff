import { PlainError } from '../../core/support/plain-error'
import { database } from './database'

/**
 * Keeps source bytes under their checksum; the same file twice is kept once. All or none are kept.
 * @throws PlainError when the browser has no room for them
 */
export async function putSources(sources: readonly { sha256: string; bytes: Uint8Array }[]): Promise<void> {
  const transaction = (await database()).transaction(['sources', 'sourceTimes'], 'readwrite')
  try {
    await Promise.all([
      ...sources.flatMap(({ sha256, bytes }) => [
        transaction.objectStore('sources').put({ sha256, bytes }),
        transaction.objectStore('sourceTimes').put({ sha256, keptAt: Date.now() }),
      ]),
      transaction.done,
    ])
  } catch (error) {
    // Browsers say that there is no room in several ways; in private windows there is least.
    const megabytes = Math.ceil(sources.reduce((sum, source) => sum + source.bytes.length, 0) / 1024 / 1024)
    const reason = error instanceof Error ? error.name : String(error)
    throw new PlainError(
      `it did not keep ${megabytes} MB (${reason})`,
      'this browser’s storage',
      'Remove crates you no longer need, free room on the disk, or leave the private window; nothing else was changed.',
    )
  }
}

export async function getSource(sha256: string): Promise<Uint8Array | null> {
  return (await (await database()).get('sources', sha256))?.bytes ?? null
}
