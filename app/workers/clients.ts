import * as Comlink from 'comlink'
import { z } from 'zod'
import { gameSchema, type Game } from '../../core/game/game'
import type { ReadOptions } from '../../core/intake/reader'
import {
  crateSchema,
  itemSchema,
  sourceReferenceSchema,
  type Crate,
  type CrateItem,
  type SourceReference,
} from '../../core/crate/schema'
import { worklistSchema, type WorklistEntry } from '../../core/worklist/entry'
import type { BenchEndpoint } from './bench.worker'
import type { IntakeEndpoint } from './intake.worker'
import { stepSettingsSchema, type StepSettings } from './field-messages'
import {
  lookChainSchema,
  mapFactsSchema,
  mapPictureSchema,
  placedDecalSchema,
  previewSchema,
  uvLayoutSchema,
  type previewWishSchema,
  type LookChain,
  type MapFacts,
  type MapPicture,
  type PlacedDecal,
  type Preview,
  type UvLayoutMessage,
} from './map-messages'
import {
  differenceSchema,
  evaluationSchema,
  itemStateSchema,
  ladderSchema,
  progressSchema,
  proposalSchema,
  scenesSchema,
  type Difference,
  type Evaluation,
  type ItemState,
  type Ladder,
  type Progress,
  type Scenes,
} from './messages'
import {
  contentsSchema,
  intakeProgressSchema,
  newerSchema,
  officialSchema,
  thumbnailSchema,
  type ArchiveContents,
  type Newer,
  type Official,
  type Thumbnail,
} from './source-messages'
import type { PackEndpoint } from './pack.worker'
import type { PreviewEndpoint } from './preview.worker'
import { sceneDataSchema, type SceneData } from './scene-data'
import { lazyWorker } from './spawn'
import type { TrialEndpoint, TrialReport } from './trial.worker'
import {
  touchReportSchema,
  placedShapesSchema,
  standOutsSchema,
  yardFrameSchema,
  type TouchReport,
  type PlacedShapes,
  type StandOuts,
  type YardFrameMessage,
  type YardInputMessage,
} from './yard-messages'
import type { YardEndpoint } from './yard.worker'

const bench = lazyWorker<BenchEndpoint>(
  () => new Worker(new URL('./bench.worker.ts', import.meta.url), { type: 'module' }),
)
const intake = lazyWorker<IntakeEndpoint>(
  () => new Worker(new URL('./intake.worker.ts', import.meta.url), { type: 'module' }),
)
const packer = lazyWorker<PackEndpoint>(
  () => new Worker(new URL('./pack.worker.ts', import.meta.url), { type: 'module' }),
)
const trial = lazyWorker<TrialEndpoint>(
  () => new Worker(new URL('./trial.worker.ts', import.meta.url), { type: 'module' }),
)

const yard = lazyWorker<YardEndpoint>(
  () => new Worker(new URL('./yard.worker.ts', import.meta.url), { type: 'module' }),
)
const preview = lazyWorker<PreviewEndpoint>(
  () => new Worker(new URL('./preview.worker.ts', import.meta.url), { type: 'module' }),
)

type OnProgress = (progress: Progress) => void
const heard = (onProgress: OnProgress) =>
  Comlink.proxy((progress: unknown) => onProgress(progressSchema.parse(progress)))

/** A file as it is handed to a worker. */
export interface BroughtFile {
  path: string
  bytes: Uint8Array
}

/** Runs an item's worklist and checks it; `scenes` only when they are wanted. */
export async function evaluateItem(
  item: CrateItem,
  game: Game,
  withScenes: boolean,
  onProgress: OnProgress,
): Promise<{ evaluation: Evaluation; scenes: Scenes | null }> {
  const answer = await bench.call((api) => api.evaluate(item, game, withScenes, heard(onProgress)))
  return {
    evaluation: evaluationSchema.parse(answer.evaluation),
    scenes: answer.scenes ? scenesSchema.parse(answer.scenes) : null,
  }
}

export const prepareItem = async (item: CrateItem, game: Game, onProgress: OnProgress): Promise<WorklistEntry[]> =>
  worklistSchema.parse(await bench.call((api) => api.prepare(item, game, heard(onProgress))))

export const proposeStep = async (
  item: CrateItem,
  game: Game,
  step: string,
  overrides: Record<string, unknown>,
  onProgress: OnProgress,
) => proposalSchema.parse(await bench.call((api) => api.propose(item, game, step, overrides, heard(onProgress))))

export const settingsOf = async (
  item: CrateItem,
  game: Game,
  steps: number,
  step: string,
  onProgress: OnProgress,
): Promise<StepSettings> =>
  stepSettingsSchema.parse(await bench.call((api) => api.settings(item, game, steps, step, heard(onProgress))))

export const stateAfter = async (
  item: CrateItem,
  game: Game,
  steps: number,
  onProgress: OnProgress,
): Promise<ItemState> =>
  itemStateSchema.parse(await bench.call((api) => api.stateAfter(item, game, steps, heard(onProgress))))

export const differenceBetween = async (
  item: CrateItem,
  game: Game,
  from: number,
  to: number,
  onProgress: OnProgress,
): Promise<Difference> =>
  differenceSchema.parse(await bench.call((api) => api.difference(item, game, from, to, heard(onProgress))))

export const ladderFor = async (
  item: CrateItem,
  game: Game,
  steps: number,
  leaveAlone: string[],
  onProgress: OnProgress,
): Promise<Ladder> =>
  ladderSchema.parse(await bench.call((api) => api.ladder(item, game, steps, leaveAlone, heard(onProgress))))

export const pickedBy = async (
  item: CrateItem,
  game: Game,
  steps: number,
  picks: unknown,
  onProgress: OnProgress,
): Promise<Float32Array> => {
  const corners = await bench.call((api) => api.picked(item, game, steps, picks, heard(onProgress)))
  return z.instanceof(Float32Array).parse(corners)
}

export const decalOn = async (
  item: CrateItem,
  game: Game,
  steps: number,
  parameters: unknown,
  onProgress: OnProgress,
): Promise<PlacedDecal | null> =>
  placedDecalSchema
    .nullable()
    .parse(await bench.call((api) => api.decal(item, game, steps, parameters, heard(onProgress))))

export const mapsOf = async (item: CrateItem, game: Game, steps: number, onProgress: OnProgress): Promise<MapFacts[]> =>
  mapFactsSchema.array().parse(await bench.call((api) => api.maps(item, game, steps, heard(onProgress))))

export const looksOf = async (item: CrateItem, game: Game, onProgress: OnProgress): Promise<LookChain[]> =>
  lookChainSchema.array().parse(await bench.call((api) => api.looks(item, game, heard(onProgress))))

export const mapPictureOf = async (
  item: CrateItem,
  game: Game,
  steps: number,
  name: string,
  level: number,
  as: string,
  onProgress: OnProgress,
): Promise<MapPicture> =>
  mapPictureSchema.parse(
    await bench.call((api) => api.mapPicture(item, game, steps, name, level, as, heard(onProgress))),
  )

export const uvLayoutOf = async (
  item: CrateItem,
  game: Game,
  steps: number,
  name: string,
  onProgress: OnProgress,
): Promise<UvLayoutMessage> =>
  uvLayoutSchema.parse(await bench.call((api) => api.uvLayout(item, game, steps, name, heard(onProgress))))

export const touchTestOf = async (item: CrateItem, game: Game, onProgress: OnProgress): Promise<TouchReport> =>
  touchReportSchema.parse(await bench.call((api) => api.touchTest(item, game, heard(onProgress))))

export const standOutsOf = async (item: CrateItem, game: Game, onProgress: OnProgress): Promise<StandOuts> =>
  standOutsSchema.parse(await bench.call((api) => api.standOuts(item, game, heard(onProgress))))

export const shapesOf = async (
  item: CrateItem,
  game: Game,
  steps: number,
  onProgress: OnProgress,
): Promise<PlacedShapes> =>
  placedShapesSchema.parse(await bench.call((api) => api.shapes(item, game, steps, heard(onProgress))))

/** What is opened in the yard: an item of the last pack, or one as it stands on the bench. */
export type YardSubject = { packed: string; crateId: string } | { item: CrateItem }

/** Opens the yard; frames come until it is closed. */
export async function openYard(
  subject: YardSubject,
  game: Game,
  feet: [number, number, number],
  onFrame: (frame: YardFrameMessage) => void,
): Promise<void> {
  const told = Comlink.proxy((frame: unknown) => onFrame(yardFrameSchema.parse(frame)))
  await yard.call((api) =>
    'item' in subject
      ? api.openItem(subject.item, game, feet, told)
      : api.openPacked(subject.crateId, game, subject.packed, feet, told),
  )
}

export const tellYard = (input: YardInputMessage): void => void yard.call((api) => api.tell(input))

export const closeYard = (): void => void yard.call((api) => api.close())

export const stockScene = async (game: Game, object: string): Promise<SceneData> =>
  sceneDataSchema.parse(await bench.call((api) => api.stockScene(game, object)))

const STOP_PATIENCE_MILLISECONDS = 1500

/** Asks the bench to stop; when a library does not listen, the worker is ended. */
export async function stopBench(): Promise<void> {
  const asked = bench.call((api) => api.stop()).then(() => true)
  const patience = new Promise<boolean>((resolve) => setTimeout(() => resolve(false), STOP_PATIENCE_MILLISECONDS))
  if (!(await Promise.race([asked, patience]))) bench.end()
}

/** How far a reading is. */
export type OnReading = (progress: { fraction: number; doing: string }) => void
const heardReading = (onReading: OnReading) =>
  Comlink.proxy((progress: unknown) => onReading(intakeProgressSchema.parse(progress)))

/** New items, or what is in a pack or crate file that was brought alone. */
export async function bringIn(
  files: BroughtFile[],
  kind: string,
  options: ReadOptions,
  taken: string[],
  game: Game,
  onReading: OnReading,
): Promise<{ items: CrateItem[]; contents: ArchiveContents | null }> {
  const answer = await intake.call((api) =>
    api.bringIn(handOver(files), kind, options, taken, game, heardReading(onReading)),
  )
  return { items: itemSchema.array().parse(answer.items), contents: contentsSchema.nullable().parse(answer.contents) }
}

export const takeOut = async (
  items: string[],
  textures: string[],
  kind: string,
  taken: string[],
): Promise<CrateItem[]> =>
  itemSchema.array().parse(await intake.call((api) => api.takeOut(items, textures, kind, taken)))

export const takeStock = async (game: Game, object: string, taken: string[]): Promise<CrateItem> =>
  itemSchema.parse(await intake.call((api) => api.takeStock(game, object, taken)))

/** A game to begin a crate with; what it has in stock is kept in the browser. */
export const beginWith = async (choice: { id: string } | { bytes: Uint8Array; name: string }): Promise<Game> =>
  gameSchema.parse(await intake.call((api) => api.beginWith(choice)))

export const thumbnailsOf = async (item: CrateItem): Promise<Thumbnail[]> =>
  thumbnailSchema.array().parse(await intake.call((api) => api.thumbnails(item)))

export const readNewer = async (item: CrateItem, files: BroughtFile[], onReading: OnReading): Promise<Newer> =>
  newerSchema.parse(await intake.call((api) => api.readNewer(item, handOver(files), heardReading(onReading))))

export const compareOfficial = async (
  item: CrateItem,
  game: Game,
  official: { stock: string } | { item: CrateItem },
): Promise<Official> => officialSchema.parse(await intake.call((api) => api.compareOfficial(item, game, official)))

export const bringImages = async (files: BroughtFile[]): Promise<SourceReference[]> =>
  sourceReferenceSchema.array().parse(await intake.call((api) => api.bringImages(handOver(files))))

const handOver = (files: BroughtFile[]): BroughtFile[] =>
  Comlink.transfer(
    files,
    files.map((file) => file.bytes.buffer as ArrayBuffer),
  )

export const openCrateFile = async (bytes: Uint8Array, name: string): Promise<Crate> =>
  crateSchema.parse(await intake.call((api) => api.openCrateFile(bytes, name)))

export const saveCrateFile = (crate: Crate): Promise<Uint8Array> => intake.call((api) => api.saveCrateFile(crate))

/** What a step would make of a map with other parameters, on small pictures; null when it cannot be told soon. */
export const previewMap = async (wish: z.input<typeof previewWishSchema>): Promise<Preview | null> =>
  previewSchema.nullable().parse(await preview.call((api) => api.preview(wish)))

/** Ends a reading that takes too long; nothing of it is kept. */
export const stopIntake = (): void => intake.end()

export const packCrate = (crate: Crate, onProgress: OnProgress): Promise<{ blocks: number }> =>
  packer.call((api) => api.pack(crate, heard(onProgress)))

export const stopPacking = (): void => packer.end()

export const runTrial = (crateId: string, game: Game): Promise<TrialReport> =>
  trial.call((api) => api.load(crateId, game))
