import { database } from './database'
import { changesOf } from './history'
import { dropSourcesOf } from './unused-sources'

/** Everything that is kept of a crate goes, and the sources that it alone named: all of it or nothing. */
export async function erase(id: string): Promise<void> {
  const transaction = (await database()).transaction(
    ['crates', 'changes', 'asides', 'packs', 'packBytes', 'sources', 'sourceTimes'],
    'readwrite',
  )
  const own = {
    crate: await transaction.objectStore('crates').get(id),
    changes: await transaction.objectStore('changes').getAll(changesOf(id)),
  }
  const asides = await transaction.objectStore('asides').index('crate').getAllKeys(id)
  await Promise.all([
    transaction.objectStore('crates').delete(id),
    transaction.objectStore('changes').delete(changesOf(id)),
    ...asides.map((key) => transaction.objectStore('asides').delete(key)),
    transaction.objectStore('packs').delete(id),
    transaction.objectStore('packBytes').delete(id),
  ])
  await dropSourcesOf(own, transaction)
  await transaction.done
}
