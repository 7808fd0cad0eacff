import { readPlanned } from '../core/crate/bring-in.ts'
import type { BroughtGame } from '../core/crate/brought-game.ts'
import { ownSlot } from '../core/crate/evaluate.ts'
import type { NamedItem } from '../core/crate/evaluate-items.ts'
import { gameName } from '../core/crate/game-names.ts'
import { packOne, type PackedOne } from '../core/crate/pack-crate.ts'
import type { PlannedItem } from '../core/crate/plan-items.ts'
import { prepareOne, type PreparedOne, type PrepareWish } from '../core/crate/prepare-one.ts'
import type { ReadOptions } from '../core/intake/reader.ts'
import { memoryStore, type ResultStore } from '../core/worklist/result-store.ts'
import type { RunOptions } from '../core/worklist/run.ts'

/** Work on one of many items: it can be done here or in a worker, so all of it can be sent. */
export interface PrepareJob {
  do: 'prepare'
  planned: PlannedItem
  reading: ReadOptions
  wish: PrepareWish
  wantedName?: string
  /** Whether each is packed as well, called as it is when no other is called alike. */
  pack?: boolean
}
export interface PackJob {
  do: 'pack'
  named: NamedItem
  sources: Map<string, Uint8Array>
}
export type ItemJob = PrepareJob | PackJob

/** What comes of each sort of work. Ids of prepared items are their own: whoever gathers them tells them apart. */
export interface JobAnswers {
  prepare: (PreparedOne & { packed: { named: NamedItem; one: PackedOne } | null })[]
  pack: PackedOne
}

/**
 * Does one piece of work after the other. What the latest item came to stays at hand, so that one that was prepared is
 * packed without being run again.
 */
export function itemJobs({ game, stock }: BroughtGame) {
  let latest: { main: string; store: ResultStore } | null = null
  const storeOf = (main: string): ResultStore => {
    if (latest?.main !== main) latest = { main, store: memoryStore() }
    return latest.store
  }
  const bytesFrom =
    (sources: ReadonlyMap<string, Uint8Array>) =>
    async (sha256: string): Promise<Uint8Array | null> =>
      sources.get(sha256) ?? (sha256 === game.stock?.sha256 ? stock : null)

  return async function work<J extends ItemJob>(
    job: J,
    onProgress: RunOptions['onProgress'],
  ): Promise<JobAnswers[J['do']]> {
    if (job.do === 'pack')
      return (await packOne(job.named, game, {
        store: storeOf(job.named.item.main),
        bytesOf: bytesFrom(job.sources),
        onProgress,
      })) as JobAnswers[J['do']]
    const { planned, reading, wish, wantedName, pack = false } = job
    const kind = wish.kind ?? wish.preset?.kind ?? game.rulebook.kinds[0].id
    const brought = await readPlanned(planned, kind, reading, [], {
      wantedName,
      split: wish.split || wish.preset?.split === true,
    })
    const prepared: JobAnswers['prepare'] = []
    for (const each of brought) {
      const bytesOf = bytesFrom(new Map(each.files.map(({ sha256, file }) => [sha256, file.bytes])))
      const options = { store: storeOf(planned.main), bytesOf, onProgress }
      const made = await prepareOne(each, game, wish, options)
      const { item } = made
      const named = { item, itemName: gameName(item, game.rulebook), slot: ownSlot(item, game.rulebook) }
      prepared.push({ ...made, packed: pack ? { named, one: await packOne(named, game, options) } : null })
    }
    return prepared as JobAnswers[J['do']]
  }
}
