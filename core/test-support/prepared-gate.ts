import { bringIn, startKey } from '../crate/bring-in.ts'
import type { CrateItem } from '../crate/schema.ts'
import { kindOf, rulebookById } from '../game/load.ts'
import { prepareWorklist } from '../worklist/prepare.ts'
import { memoryStore, type ResultStore } from '../worklist/result-store.ts'
import { runWorklist, type RunResult, type StartState } from '../worklist/run.ts'
import { demoSources } from './sources.ts'

export const tarnAndTiller = rulebookById('tarn-and-tiller')

export interface PreparedItem {
  item: CrateItem
  start: StartState
  result: RunResult
  store: ResultStore
  sources: Map<string, Uint8Array>
}

/** A demo item, brought in and run through the worklist that is proposed for it. */
export async function prepareDemo(
  folder: 'boathouse_gate' | 'mooring_bell' | 'channel_buoy' | 'timetable_board',
  kindId: string,
): Promise<PreparedItem> {
  const reading =
    folder === 'boathouse_gate'
      ? { metresPerUnit: 0.01, up: '+z' as const }
      : folder === 'channel_buoy'
        ? { metresPerUnit: 0.001, up: '+z' as const }
        : {}
  const [{ item, document, files }] = await bringIn(demoSources(folder), kindId, reading, [])
  const store = memoryStore()
  const options = { rulebook: tarnAndTiller, kind: kindOf(tarnAndTiller, kindId), store }
  const start = { key: startKey(item), document }
  const worklist = await prepareWorklist(start, options)
  return {
    item: { ...item, worklist },
    start,
    store,
    result: await runWorklist(start, worklist, options),
    sources: new Map(files.map(({ sha256, file }) => [sha256, file.bytes])),
  }
}
