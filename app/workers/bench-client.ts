import type * as Comlink from 'comlink'
import { z } from 'zod'
import { jsonRecordSchema } from '../../core/support/json-value'
import { type Game } from '../../core/game/game'
import { type CrateItem } from '../../core/crate/schema'
import type { BenchEndpoint } from './bench.worker'
import { entryReportSchema, type EntryReport } from './entry-messages'
import { stepSettingsSchema, type StepSettings } from './field-messages'
import { hearing } from './hear'
import {
  lookChainSchema,
  mapFactsSchema,
  mapPictureSchema,
  placedDecalSchema,
  uvLayoutSchema,
  type LookChain,
  type MapFacts,
  type MapPicture,
  type PlacedDecal,
  type UvLayoutMessage,
} from './map-messages'
import {
  differenceSchema,
  evaluationSchema,
  itemStateSchema,
  ladderSchema,
  samplingReportSchema,
  type SamplingReport,
  preparedSchema,
  progressSchema,
  proposalSchema,
  scenesSchema,
  type Difference,
  type Evaluation,
  type ItemState,
  type Ladder,
  type PreparedMessage,
  type Progress,
  type Scenes,
} from './messages'
import { sceneDataSchema, type SceneData } from './scene-data'
import { workerPool } from './pool'
import {
  touchReportSchema,
  placedShapesSchema,
  standOutsSchema,
  type TouchReport,
  type PlacedShapes,
  type StandOuts,
} from './yard-messages'

/**
 * As many as the machine has cores, and one for what somebody waits for in front of the screen, within what memory
 * allows: each keeps the last few states of an item open.
 */
const benchWorkers = Math.min(8, (globalThis.navigator?.hardwareConcurrency ?? 2) + 1)
const bench = workerPool<BenchEndpoint>(
  () => new Worker(new URL('./bench.worker.ts', import.meta.url), { type: 'module' }),
  benchWorkers,
)
type OnProgress = (progress: Progress) => void
/** How an answer of the bench is waited for. */
export interface Ask {
  onProgress: OnProgress
  signal?: AbortSignal
  /** Whether somebody looks at what it is for; true unless said otherwise. */
  urgent?: boolean
}

/** How often is told of what nobody waits for in front of the screen. */
const SELDOM_MILLISECONDS = 250

/**
 * Asks the bench about an item, when a worker is free for it. Of work that was ended nothing more is heard until it
 * pauses.
 */
const onBench = <R>(
  about: string,
  { onProgress, signal, urgent = true }: Ask,
  work: (api: Comlink.Remote<BenchEndpoint>, told: (message: unknown) => void) => Promise<R>,
): Promise<R> => {
  let last = -Infinity
  return hearing(
    progressSchema,
    (progress) => {
      const now = performance.now()
      if (signal?.aborted || (!urgent && now - last < SELDOM_MILLISECONDS)) return
      last = now
      onProgress(progress)
    },
    (told) => bench.run({ about, urgent, signal }, (api) => work(api, told)),
  )
}

/** Runs an item's worklist and checks it; `scenes` only when they are wanted. */
export async function evaluateItem(
  item: CrateItem,
  game: Game,
  withScenes: boolean,
  ask: Ask,
): Promise<{ evaluation: Evaluation; scenes: Scenes | null }> {
  const answer = await onBench(item.id, ask, (api, onProgress) => api.evaluate(item, game, withScenes, onProgress))
  return {
    evaluation: evaluationSchema.parse(answer.evaluation),
    scenes: answer.scenes ? scenesSchema.parse(answer.scenes) : null,
  }
}

export const prepareItem = async (item: CrateItem, game: Game, ask: Ask): Promise<PreparedMessage> =>
  preparedSchema.parse(await onBench(item.id, ask, (api, onProgress) => api.prepare(item, game, onProgress)))

export const proposeStep = async (
  item: CrateItem,
  game: Game,
  step: string,
  overrides: Record<string, unknown>,
  ask: Ask,
) =>
  proposalSchema.parse(
    await onBench(item.id, ask, (api, onProgress) => api.propose(item, game, step, overrides, onProgress)),
  )

/** Settings for a step that is there, which name things as they are seen, with the names that those have there. */
export const mendSettings = async (
  item: CrateItem,
  game: Game,
  entryId: string,
  parameters: Record<string, unknown>,
  ask: Ask,
): Promise<Record<string, unknown>> =>
  jsonRecordSchema.parse(
    await onBench(item.id, ask, (api, onProgress) => api.mendSettings(item, game, entryId, parameters, onProgress)),
  )

/** The steps that would do something to the result as it stands. */
export const worthwhileSteps = async (item: CrateItem, game: Game, ask: Ask): Promise<string[]> =>
  z.array(z.string()).parse(await onBench(item.id, ask, (api, onProgress) => api.worthwhile(item, game, onProgress)))

export const settingsOf = async (
  item: CrateItem,
  game: Game,
  steps: number,
  step: string,
  ask: Ask,
): Promise<StepSettings> =>
  stepSettingsSchema.parse(
    await onBench(item.id, ask, (api, onProgress) => api.settings(item, game, steps, step, onProgress)),
  )

/** What the result's entry says, and all that it may name. */
export const entryReportOf = async (item: CrateItem, game: Game, ask: Ask): Promise<EntryReport> =>
  entryReportSchema.parse(await onBench(item.id, ask, (api, onProgress) => api.entry(item, game, onProgress)))

export const stateAfter = async (item: CrateItem, game: Game, steps: number, ask: Ask): Promise<ItemState> =>
  itemStateSchema.parse(await onBench(item.id, ask, (api, onProgress) => api.stateAfter(item, game, steps, onProgress)))

export const differenceBetween = async (
  item: CrateItem,
  game: Game,
  from: number,
  to: number,
  ask: Ask,
): Promise<Difference> =>
  differenceSchema.parse(
    await onBench(item.id, ask, (api, onProgress) => api.difference(item, game, from, to, onProgress)),
  )

export const ladderFor = async (
  item: CrateItem,
  game: Game,
  steps: number,
  leaveAlone: string[],
  ask: Ask,
): Promise<Ladder> =>
  ladderSchema.parse(
    await onBench(item.id, ask, (api, onProgress) => api.ladder(item, game, steps, leaveAlone, onProgress)),
  )

export const samplingOf = async (
  item: CrateItem,
  game: Game,
  steps: number,
  parameters: unknown,
  ask: Ask,
): Promise<SamplingReport> =>
  samplingReportSchema.parse(
    await onBench(item.id, ask, (api, onProgress) => api.sampling(item, game, steps, parameters, onProgress)),
  )

export const pickedBy = async (
  item: CrateItem,
  game: Game,
  steps: number,
  picks: unknown,
  ask: Ask,
): Promise<Float32Array> => {
  const corners = await onBench(item.id, ask, (api, onProgress) => api.picked(item, game, steps, picks, onProgress))
  return z.instanceof(Float32Array).parse(corners)
}

export const decalOn = async (
  item: CrateItem,
  game: Game,
  steps: number,
  parameters: unknown,
  ask: Ask,
): Promise<PlacedDecal | null> =>
  placedDecalSchema
    .nullable()
    .parse(await onBench(item.id, ask, (api, onProgress) => api.decal(item, game, steps, parameters, onProgress)))

export const mapsOf = async (item: CrateItem, game: Game, steps: number, ask: Ask): Promise<MapFacts[]> =>
  mapFactsSchema
    .array()
    .parse(await onBench(item.id, ask, (api, onProgress) => api.maps(item, game, steps, onProgress)))

export const looksOf = async (item: CrateItem, game: Game, ask: Ask): Promise<LookChain[]> =>
  lookChainSchema.array().parse(await onBench(item.id, ask, (api, onProgress) => api.looks(item, game, onProgress)))

export const mapPictureOf = async (
  item: CrateItem,
  game: Game,
  steps: number,
  name: string,
  level: number,
  as: string,
  ask: Ask,
): Promise<MapPicture> =>
  mapPictureSchema.parse(
    await onBench(item.id, ask, (api, onProgress) => api.mapPicture(item, game, steps, name, level, as, onProgress)),
  )

export const uvLayoutOf = async (
  item: CrateItem,
  game: Game,
  steps: number,
  name: string,
  ask: Ask,
): Promise<UvLayoutMessage> =>
  uvLayoutSchema.parse(
    await onBench(item.id, ask, (api, onProgress) => api.uvLayout(item, game, steps, name, onProgress)),
  )

export const touchTestOf = async (item: CrateItem, game: Game, ask: Ask): Promise<TouchReport> =>
  touchReportSchema.parse(await onBench(item.id, ask, (api, onProgress) => api.touchTest(item, game, onProgress)))

export const standOutsOf = async (item: CrateItem, game: Game, ask: Ask): Promise<StandOuts> =>
  standOutsSchema.parse(await onBench(item.id, ask, (api, onProgress) => api.standOuts(item, game, onProgress)))

export const shapesOf = async (item: CrateItem, game: Game, steps: number, ask: Ask): Promise<PlacedShapes> =>
  placedShapesSchema.parse(await onBench(item.id, ask, (api, onProgress) => api.shapes(item, game, steps, onProgress)))

export const stockScene = async (game: Game, object: string, signal?: AbortSignal): Promise<SceneData> =>
  sceneDataSchema.parse(
    await onBench(`stock ${object}`, { onProgress: () => undefined, signal }, (api) => api.stockScene(game, object)),
  )
