import type { Document } from '@gltf-transform/core'
import * as Comlink from 'comlink'
import { startKey, startOf } from '../../core/crate/bring-in'
import { itemSchema } from '../../core/crate/schema'
import { hashValue } from '../../core/support/hashing'
import { rulebookKey } from '../../core/game/game'
import { kindOf } from '../../core/game/load'
import { runWorklist, type StartState } from '../../core/worklist/run'
import { tryOnSmall, withSmallPictures } from '../../core/steps/try-on-small'
import { browserResults } from '../storage/results'
import { getSource } from '../storage/sources'
import './browser-assets'
import { previewWishSchema, type Preview } from './map-messages'
import { serve } from './serve'

/** Tries pixelwise steps on small pictures beside the bench's worker, so that a changed setting shows at once. */
let start: { key: string; state: StartState } | null = null
let small: { key: string; document: Document } | null = null

const endpoint = {
  /** What the step of that number would make of a map with other parameters; null when it cannot be told soon. */
  async preview(rawWish: unknown): Promise<Preview | null> {
    const { rawItem, game, index, parameters, wanted } = previewWishSchema.parse(rawWish)
    const item = itemSchema.parse(rawItem)
    const entry = item.worklist[index]
    if (!entry) return null
    const { rulebook } = game
    const kind = kindOf(rulebook, item.kind)
    const own = `${rulebookKey(rulebook)} ${startKey(item)}`
    if (start?.key !== own) start = { key: own, state: await startOf(item, getSource, game) }
    const before = item.worklist.slice(0, index)
    const key = hashValue([start.key, item.kind, before.map(({ step, on, parameters: own }) => [step, on, own])])
    if (small?.key !== key) {
      const { document } = await runWorklist(start.state, before, { rulebook, kind, store: browserResults })
      small = { key, document: await withSmallPictures(document) }
    }
    const pixels = await tryOnSmall(small.document, wanted, {
      step: entry.step,
      parameters,
      rulebook,
      kind,
      images: start.state.images,
    })
    if (!pixels) return null
    const data = pixels.data.slice()
    return Comlink.transfer({ width: pixels.width, height: pixels.height, data }, [data.buffer])
  },
}

export type PreviewEndpoint = typeof endpoint
serve(endpoint)
