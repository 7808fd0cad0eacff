import type { Document } from '@gltf-transform/core'
import * as Comlink from 'comlink'
import { z } from 'zod'
import { startKey, startOf } from '../../core/crate/bring-in'
import { touchReport, standOuts } from '../../core/crate/touch-test'
import { differenceOf, placementOf } from '../../core/crate/difference'
import { checkResult, gameName, gameNames } from '../../core/crate/evaluate'
import { itemSchema, type CrateItem } from '../../core/crate/schema'
import { stockObject } from '../../core/crate/stock'
import { partBounds } from '../../core/item/measure'
import { listAllParts } from '../../core/item/parts'
import { gameSchema, rulebookKey, type Game } from '../../core/game/game'
import { kindOf } from '../../core/game/load'
import { decalPlacementSchema } from '../../core/operations/maps/decal-placement'
import { facePicksSchema } from '../../core/operations/meshes/face-picks'
import { stepById, steps } from '../../core/steps/registry'
import type { WorklistEntry } from '../../core/worklist/entry'
import { prepareWorklist } from '../../core/worklist/prepare'
import { proposeStep, type StepProposal } from '../../core/worklist/propose-step'
import { runWorklist, StoppedError, type RunOptions, type StartState } from '../../core/worklist/run'
import { workerResults } from '../storage/results'
import { getSource } from '../storage/sources'
import { buildScene } from './build-scene'
import { layoutOf, listMaps, lookChains, mapPicture } from './item-maps'
import { placedShapes } from './placed-shapes'
import type { TouchReport, PlacedShapes, StandOuts } from './yard-messages'
import { ladderOf, pickedTriangles, placedDecal } from './item-states'
import type { StepSettings } from './field-messages'
import type { LookChain, MapFacts, MapPicture, PlacedDecal, UvLayoutMessage } from './map-messages'
import type { Difference, Evaluation, ItemState, Ladder, Progress, Scenes } from './messages'
import type { SourceReport } from './source-messages'
import { sceneTransfers, type SceneData } from './scene-data'

import './browser-assets'
import { sourceReport } from './source-report'

/** Runs worklists and checks items. Sources and results come from the browser's database, not from the page. */
let lastStart: { key: string; state: StartState } | null = null
const results = workerResults()
let stopAsked = false

type OnProgress = (progress: Progress) => void

async function start(item: CrateItem, game: Game): Promise<StartState> {
  const key = `${rulebookKey(game.rulebook)} ${startKey(item)}`
  if (lastStart?.key !== key) lastStart = { key, state: await startOf(item, getSource, game) }
  return lastStart.state
}

let lastReport: { key: string; report: SourceReport } | null = null

/** The report of a source, made once for each reading. */
function reportOf(from: StartState, item: CrateItem): SourceReport {
  if (lastReport?.key !== from.key) lastReport = { key: from.key, report: sourceReport(from.document, item.sources) }
  return lastReport.report
}

function optionsFor(rawGame: unknown, item: CrateItem, onProgress: OnProgress): RunOptions & { game: Game } {
  const game = gameSchema.parse(rawGame)
  const { rulebook } = game
  stopAsked = false
  return {
    game,
    rulebook,
    kind: kindOf(rulebook, item.kind),
    store: results,
    onProgress,
    shouldStop: () => stopAsked,
  }
}

/** The item after so many steps, and after all of them, from what is kept of the runs. */
async function statesOf(
  rawItem: unknown,
  rawGame: unknown,
  steps: number,
  onProgress: OnProgress,
): Promise<{ before: Document; result: Document }> {
  const item = itemSchema.parse(rawItem)
  const options = optionsFor(rawGame, item, onProgress)
  const from = await start(item, options.game)
  const part = await runWorklist(from, item.worklist.slice(0, steps), options)
  const whole = steps >= item.worklist.length ? part : await runWorklist(from, item.worklist, options)
  return { before: part.document, result: whole.document }
}

const endpoint = {
  /** Runs an item's worklist from the first changed step, and checks the result. */
  async evaluate(
    rawItem: unknown,
    rawGame: unknown,
    withScenes: boolean,
    onProgress: OnProgress,
  ): Promise<{ evaluation: Evaluation; scenes: Scenes | null }> {
    const item = itemSchema.parse(rawItem)
    const options = optionsFor(rawGame, item, onProgress)
    const began = performance.now()
    const from = await start(item, options.game)
    const result = await runWorklist(from, item.worklist, options)
    const evaluation: Evaluation = {
      key: result.key,
      outcomes: result.outcomes,
      ...checkResult(result, { ...options, itemName: gameName(item, options.rulebook) }),
      source: reportOf(from, item),
      steps: steps.map((step) => ({
        id: step.id,
        stage: step.stage,
        title: step.title,
        purpose: step.purpose,
        pixelwise: step.pixelwise === true,
      })),
      milliseconds: performance.now() - began,
    }
    if (!withScenes) return { evaluation, scenes: null }
    const scenes = {
      source: await buildScene(from.document),
      result: await buildScene(result.document, { rulebook: options.rulebook, kind: options.kind }),
    }
    return Comlink.transfer({ evaluation, scenes }, [
      ...sceneTransfers(scenes.source),
      ...sceneTransfers(scenes.result),
    ])
  },

  /** Proposes a whole worklist for an item. */
  async prepare(rawItem: unknown, rawGame: unknown, onProgress: OnProgress): Promise<WorklistEntry[]> {
    const item = itemSchema.parse(rawItem)
    const options = optionsFor(rawGame, item, onProgress)
    return prepareWorklist(await start(item, options.game), options)
  },

  /** One step filled in for the item, and its place in the worklist. */
  async propose(
    rawItem: unknown,
    rawGame: unknown,
    step: string,
    overrides: Record<string, unknown>,
    onProgress: OnProgress,
  ): Promise<StepProposal> {
    const item = itemSchema.parse(rawItem)
    const options = optionsFor(rawGame, item, onProgress)
    return proposeStep(await start(item, options.game), item.worklist, step, overrides, options)
  },

  /** What can be set on a step that comes after so many others: made from the state that it is given. */
  async settings(
    rawItem: unknown,
    rawGame: unknown,
    steps: number,
    step: string,
    onProgress: OnProgress,
  ): Promise<StepSettings> {
    const item = itemSchema.parse(rawItem)
    const options = optionsFor(rawGame, item, onProgress)
    const from = await start(item, options.game)
    const { document } = await runWorklist(from, item.worklist.slice(0, steps), options)
    const fields = stepById(step).fields({
      document,
      rulebook: options.rulebook,
      kind: options.kind,
      images: from.images,
      source: from.document,
    })
    return {
      fields,
      parts: listAllParts(document).map((part) => ({
        name: part.name,
        role: part.extras.role,
        bounds: partBounds(part),
      })),
    }
  },

  /** The item after so many steps of its worklist, and where that stands against the result. */
  async stateAfter(rawItem: unknown, rawGame: unknown, steps: number, onProgress: OnProgress): Promise<ItemState> {
    const { before, result } = await statesOf(rawItem, rawGame, steps, onProgress)
    const { rulebook } = gameSchema.parse(rawGame)
    const scene = await buildScene(before, { rulebook, kind: kindOf(rulebook, itemSchema.parse(rawItem).kind) })
    return Comlink.transfer({ scene, placement: placementOf(before, result) }, sceneTransfers(scene))
  },

  /** How far the item after one number of steps lies from the item after another. */
  async difference(
    rawItem: unknown,
    rawGame: unknown,
    from: number,
    to: number,
    onProgress: OnProgress,
  ): Promise<Difference> {
    const { before } = await statesOf(rawItem, rawGame, from, onProgress)
    const { before: after } = await statesOf(rawItem, rawGame, to, onProgress)
    return differenceOf(before, after)
  },

  /** Levels for dragging the slider of a reduction that is the step of that number. */
  async ladder(
    rawItem: unknown,
    rawGame: unknown,
    steps: number,
    leaveAlone: string[],
    onProgress: OnProgress,
  ): Promise<Ladder> {
    const { before } = await statesOf(rawItem, rawGame, steps, onProgress)
    return ladderOf(before, z.array(z.string()).parse(leaveAlone), async (fraction) => {
      onProgress({ entry: '', title: 'Levels for dragging', fraction, doing: '' })
      await new Promise<void>((resolve) => setTimeout(resolve, 0))
      if (stopAsked) throw new StoppedError()
    })
  },

  /** The triangles that picks stand for, in the state that their step is given. */
  async picked(
    rawItem: unknown,
    rawGame: unknown,
    steps: number,
    picks: unknown,
    onProgress: OnProgress,
  ): Promise<Float32Array> {
    const { before } = await statesOf(rawItem, rawGame, steps, onProgress)
    return pickedTriangles(before, facePicksSchema.parse(picks))
  },

  /** Where a decal lies in the state that its step is given; null while no faces are picked. */
  async decal(
    rawItem: unknown,
    rawGame: unknown,
    steps: number,
    parameters: unknown,
    onProgress: OnProgress,
  ): Promise<PlacedDecal | null> {
    const item = itemSchema.parse(rawItem)
    const { before } = await statesOf(rawItem, rawGame, steps, onProgress)
    const { game } = optionsFor(rawGame, item, onProgress)
    return placedDecal(before, decalPlacementSchema.parse(parameters), (await start(item, game)).images)
  },

  /** The maps of the item after so many steps. */
  async maps(rawItem: unknown, rawGame: unknown, steps: number, onProgress: OnProgress): Promise<MapFacts[]> {
    const { before } = await statesOf(rawItem, rawGame, steps, onProgress)
    const { rulebook } = gameSchema.parse(rawGame)
    return listMaps(before, kindOf(rulebook, itemSchema.parse(rawItem).kind), rulebook)
  },

  /** What each look of the result shows, as it would be packed. */
  async looks(rawItem: unknown, rawGame: unknown, onProgress: OnProgress): Promise<LookChain[]> {
    const item = itemSchema.parse(rawItem)
    const { result } = await statesOf(rawItem, rawGame, item.worklist.length, onProgress)
    const { rulebook, kind } = optionsFor(rawGame, item, onProgress)
    return lookChains(result, rulebook, kind, gameNames([item], rulebook).get(item.id) ?? item.id)
  },

  /** One level of a map after so many steps, as it is kept or in blocks that are tried. */
  async mapPicture(
    rawItem: unknown,
    rawGame: unknown,
    steps: number,
    name: string,
    level: number,
    as: string,
    onProgress: OnProgress,
  ): Promise<MapPicture> {
    const { before } = await statesOf(rawItem, rawGame, steps, onProgress)
    const picture = await mapPicture(before, gameSchema.parse(rawGame).rulebook, name, level, as)
    return Comlink.transfer(picture, [picture.data.buffer as ArrayBuffer])
  },

  /** How the item's surfaces lie on a map. */
  async uvLayout(
    rawItem: unknown,
    rawGame: unknown,
    steps: number,
    name: string,
    onProgress: OnProgress,
  ): Promise<UvLayoutMessage> {
    const { before } = await statesOf(rawItem, rawGame, steps, onProgress)
    return layoutOf(before, name)
  },

  /** What it is like to bump into the result. */
  async touchTest(rawItem: unknown, rawGame: unknown, onProgress: OnProgress): Promise<TouchReport> {
    const item = itemSchema.parse(rawItem)
    const { result } = await statesOf(rawItem, rawGame, item.worklist.length, onProgress)
    const { rulebook, kind } = optionsFor(rawGame, item, onProgress)
    return touchReport(result, rulebook, kind)
  },

  /** Where the result's solids stand out of what is seen, or lie in it. */
  async standOuts(rawItem: unknown, rawGame: unknown, onProgress: OnProgress): Promise<StandOuts> {
    const item = itemSchema.parse(rawItem)
    const { result } = await statesOf(rawItem, rawGame, item.worklist.length, onProgress)
    return standOuts(result).map(({ name, mesh, distances }) => ({
      name,
      positions: mesh.positions as Float32Array<ArrayBuffer>,
      indices: mesh.indices as Uint32Array<ArrayBuffer>,
      distances: distances as Float32Array<ArrayBuffer>,
    }))
  },

  /** The shapes that the step of that number makes or changes, where its settings put them. */
  async shapes(rawItem: unknown, rawGame: unknown, steps: number, onProgress: OnProgress): Promise<PlacedShapes> {
    const item = itemSchema.parse(rawItem)
    const { before } = await statesOf(rawItem, rawGame, steps, onProgress)
    return placedShapes(before, item.worklist[steps])
  },

  /** An object of the game's stock, to stand beside an item. */
  async stockScene(rawGame: unknown, object: string): Promise<SceneData> {
    const scene = await buildScene(await stockObject(gameSchema.parse(rawGame), object, getSource))
    return Comlink.transfer(scene, sceneTransfers(scene))
  },

  /** Asks the present run to end at its next pause. */
  stop(): void {
    stopAsked = true
  },
}

export type BenchEndpoint = typeof endpoint
Comlink.expose(endpoint)
