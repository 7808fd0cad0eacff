import { keepPreviousData, useQuery } from '@tanstack/react-query'
import type { CrateItem } from '../../core/crate/schema'
import type { Game } from '../../core/game/game'
import { hashValue } from '../../core/support/hashing'
import { getItemPicture, putItemPicture } from '../storage/item-pictures'
import { stateAfter } from '../workers/bench-client'
import { pictureOf } from '../drawing/picture-client'
import { stoppedError } from '../workers/spawn'
import { runId, runKey, useRuns } from './runs'

/** Asked of every row of a list at each progress, though an item that is changed is another value. */
const keys = new WeakMap<CrateItem, { of: string; key: string }>()

/** What a picture shows: the item after its worklist, or as it came. */
function keyOf(item: CrateItem, game: Game): string {
  const of = runKey(item, game)
  const known = keys.get(item)
  if (known?.of === of) return known.key
  const key = hashValue(['picture', of])
  keys.set(item, { of, key })
  return key
}

async function make(item: CrateItem, game: Game, signal: AbortSignal, urgent: boolean): Promise<Uint8Array> {
  const how = { onProgress: () => undefined, signal, urgent }
  const { scene } = await stateAfter(item, game, item.worklist.length, how)
  const png = await pictureOf(scene)
  await putItemPicture(keyOf(item, game), png)
  return png
}

/** Whoever only passes by a list of items has none of them read for its picture. */
const SETTLED_MILLISECONDS = 1200

const settled = (signal: AbortSignal): Promise<void> =>
  new Promise((resolve, reject) => {
    const timer = setTimeout(resolve, SETTLED_MILLISECONDS)
    signal.addEventListener('abort', () => {
      clearTimeout(timer)
      reject(stoppedError())
    })
  })

const urlOf = (png: Uint8Array): string =>
  `data:image/png;base64,${btoa(Array.from(png, (byte) => String.fromCharCode(byte)).join(''))}`

/**
 * A small picture of an item as a data address; null while there is none. What its worklist makes of it is drawn as
 * soon as that is worked out, and again when it changes; until then a kept picture, or the source as it came.
 * @param urgent whether somebody waits for it: it goes before those of lists
 */
export function useItemPicture(crateId: string, item: CrateItem, game: Game, urgent = false): string | null {
  const ran = useRuns(({ runs }) => {
    const run = runs[runId(crateId, item.id)]
    return run?.state === 'done' && run.shown === runKey(item, game)
  })
  const { data } = useQuery({
    queryKey: ['item picture', keyOf(item, game), ran],
    queryFn: async ({ signal }) => {
      const kept = await getItemPicture(keyOf(item, game))
      if (kept) return urlOf(kept)
      if (ran) return urlOf(await make(item, game, signal, urgent))
      const source = { ...item, worklist: [] }
      const came = await getItemPicture(keyOf(source, game))
      if (came) return urlOf(came)
      if (!urgent) await settled(signal)
      return urlOf(await make(source, game, signal, urgent))
    },
    placeholderData: keepPreviousData,
    throwOnError: false,
    meta: { silent: true },
  })
  return data ?? null
}
