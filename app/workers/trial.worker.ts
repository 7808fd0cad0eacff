import * as Comlink from 'comlink'
import { PlainError } from '../../core/support/plain-error'
import { gameSchema } from '../../core/game/game'
import { kindOf } from '../../core/game/load'
import { cutHollows } from '../../core/trial/cut-hollows'
import type { LoadedItem } from '../../core/trial/load-item'
import { loadPack } from '../../core/trial/load-pack'
import type { LogLine } from '../../core/trial/log'
import { getPackBytes } from '../storage/packs'
import { buildTrialScene } from './build-trial-scene'
import { sceneTransfers, type SceneData } from './scene-data'
import './browser-assets'
import { serve } from './serve'

export interface TrialReport {
  loads: boolean
  log: LogLine[]
  items: { name: string; triangles: number; solids: number; textures: number; loose: boolean }[]
  /** What was loaded, drawn from the packed bytes alone; one scene an item. */
  scenes: SceneData[]
}

/** Lets the stand-in loader read the last pack of a crate. */
const endpoint = {
  async load(crateId: string, rawGame: unknown): Promise<TrialReport> {
    const bytes = await getPackBytes(crateId)
    if (!bytes) throw new PlainError('nothing was packed yet', 'Trial', 'Pack the crate first.')
    const { rulebook } = gameSchema.parse(rawGame)
    const result = loadPack(bytes, rulebook)
    const items: LoadedItem[] = []
    for (const item of result.items) items.push(await cutHollows(item, rulebook))
    const scenes: SceneData[] = []
    for (const item of items) scenes.push(await buildTrialScene(item, rulebook))
    const report: TrialReport = {
      loads: result.loads,
      log: result.log,
      items: items.map(({ name, kind, triangles, solids, textures }) => ({
        name,
        triangles,
        solids: solids.length,
        textures,
        loose: kindOf(rulebook, kind).solids?.fixed === false,
      })),
      scenes,
    }
    return Comlink.transfer(report, scenes.flatMap(sceneTransfers))
  },
}

export type TrialEndpoint = typeof endpoint
serve(endpoint)
