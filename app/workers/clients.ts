import * as Comlink from 'comlink'
import { z } from 'zod'
import type { GameChoice } from './source-messages'
import { gameSchema, type Game } from '../../core/game/game'
import type { Rulebook } from '../../core/game/schema'
import type { ReadOptions } from '../../core/intake/reader'
import {
  crateSchema,
  itemSchema,
  sourceReferenceSchema,
  type Crate,
  type CrateItem,
  type SourceReference,
} from '../../core/crate/schema'
import { hearing } from './hear'
import type { IntakeEndpoint } from './intake.worker'
import { previewSchema, type previewWishSchema, type Preview } from './map-messages'
import { progressSchema, type Progress } from './messages'
import {
  contentsSchema,
  guessSchema,
  intakeProgressSchema,
  newerSchema,
  officialSchema,
  thumbnailSchema,
  type ArchiveContents,
  type Bringing,
  type Guess,
  type Newer,
  type Official,
  type Thumbnail,
} from './source-messages'
import {
  givenStockSchema,
  learnedSchema,
  rulebookFileSchema,
  triedItemsSchema,
  type GivenStock,
  type LearnedReport,
  type RulebookFile,
} from './rulebook-messages'
import type { TriedItem } from '../../core/crate/rulebook-trial'
import {
  overlayReportSchema,
  packPartSchema,
  type OtherPack,
  type OverlayReport,
  type PackPart,
  type PartWish,
} from './pack-messages'
import type { PackEndpoint } from './pack.worker'
import type { PreviewEndpoint } from './preview.worker'
import { lazyWorker, stoppedError } from './spawn'
import type { TrialEndpoint, TrialReport } from './trial.worker'
import { yardFrameSchema, type YardFrameMessage, type YardInputMessage } from './yard-messages'
import type { YardEndpoint } from './yard.worker'

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

const openedFileSchema = z.union([
  z.object({ crate: crateSchema, losses: z.array(z.string()) }),
  z.object({ wantsGame: z.string() }),
])
type OpenedFile = z.infer<typeof openedFileSchema>

const savedFileSchema = z.object({
  file: z.custom<Uint8Array>((value) => value instanceof Uint8Array),
  lost: z.array(z.string()),
})

type OnProgress = (progress: Progress) => void

/** A file as it is handed to a worker. */
export interface BroughtFile {
  path: string
  bytes: Uint8Array
}

/** What is opened in the yard: an item of the last pack, or one as it stands on the bench. */
export type YardSubject = { packed: string; crateId: string } | { item: CrateItem }

/** Opens the yard; frames come until it is closed. */
export async function openYard(
  subject: YardSubject,
  game: Game,
  feet: [number, number, number],
  onFrame: (frame: YardFrameMessage) => void,
): Promise<void> {
  const told = Comlink.proxy(async (frame: unknown) => {
    onFrame(yardFrameSchema.parse(frame))
    // Another is of use when this one was drawn.
    await new Promise(requestAnimationFrame)
  })
  await yard.call((api) =>
    'item' in subject
      ? api.openItem(subject.item, game, feet, told)
      : api.openPacked(subject.crateId, game, subject.packed, feet, told),
  )
}

export const tellYard = (input: YardInputMessage): void => void yard.call((api) => api.tell(input))

export const closeYard = (): void => void yard.call((api) => api.close())

/** How far a reading is. */
export type OnReading = (progress: { fraction: number; doing: string }) => void

/**
 * New items, with what each may become, or what is in a pack or crate file that was brought alone.
 * @throws StoppedError when the signal ends it, whether it was begun or is just done; nothing of it is kept
 */
export async function bringIn(
  files: BroughtFile[],
  kind: string | null,
  options: ReadOptions,
  taken: string[],
  game: Game,
  how: Bringing,
  onReading: OnReading,
  signal: AbortSignal,
): Promise<{
  items: CrateItem[]
  guesses: Guess[]
  contents: ArchiveContents | null
  refused: string[]
  by: (string | null)[]
}> {
  if (signal.aborted) throw stoppedError()
  signal.addEventListener('abort', intake.end, { once: true })
  const answer = await hearing(intakeProgressSchema, onReading, (told) =>
    intake.call((api) => api.bringIn(handOver(files), kind, options, taken, game, how, told)),
  ).finally(() => signal.removeEventListener('abort', intake.end))
  if (signal.aborted) throw stoppedError()
  return {
    items: itemSchema.array().parse(answer.items),
    guesses: guessSchema.array().parse(answer.guesses),
    contents: contentsSchema.nullable().parse(answer.contents),
    refused: z.array(z.string()).parse(answer.refused),
    by: z.array(z.string().nullable()).parse(answer.by),
  }
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
export const beginWith = async (choice: GameChoice): Promise<Game> =>
  gameSchema.parse(await intake.call((api) => api.beginWith(choice)))

/** Keeps a game's file as a rulebook of the modder's own; gives its key. */
export const keepRulebook = async (bytes: Uint8Array, name: string): Promise<string> =>
  z.string().parse(await intake.call((api) => api.keepRulebook(bytes, name)))

/** A game as one file. */
export const rulebookFile = async (choice: GameChoice): Promise<RulebookFile> =>
  rulebookFileSchema.parse(await intake.call((api): Promise<unknown> => api.rulebookFile(choice)))

/** Measures files that a game accepts. */
export const learnFiles = async (
  files: readonly BroughtFile[],
  known: { path: string; metres: number }[],
): Promise<LearnedReport> =>
  learnedSchema.parse(await intake.call((api): Promise<unknown> => api.learn([...files], known)))

/** Keeps a rulebook of what was learned last; gives its key. */
export const beginLearned = async (
  kept: readonly ({ value: unknown } | null)[],
  id: string,
  title: string,
): Promise<string> => z.string().parse(await intake.call((api) => api.beginLearned([...kept], id, title)))

/** Puts files into the stock of one of the modder's own rulebooks. */
export const giveStock = async (key: string, files: readonly BroughtFile[]): Promise<GivenStock> =>
  givenStockSchema.parse(await intake.call((api): Promise<unknown> => api.giveStock(key, [...files])))

/** Which findings of a crate's items come and go with another rulebook. */
export const tryRulebookOn = async (crate: Crate, rulebook: Rulebook, onProgress: OnProgress): Promise<TriedItem[]> =>
  triedItemsSchema.parse(
    await hearing(progressSchema, onProgress, (told) =>
      packer.call((api): Promise<unknown> => api.tryRulebook(crate, rulebook, told)),
    ),
  )

export const thumbnailsOf = async (item: CrateItem): Promise<Thumbnail[]> =>
  thumbnailSchema.array().parse(await intake.call((api) => api.thumbnails(item)))

export const readNewer = async (item: CrateItem, files: BroughtFile[], onReading: OnReading): Promise<Newer> =>
  newerSchema.parse(
    await hearing(intakeProgressSchema, onReading, (told) =>
      intake.call((api) => api.readNewer(item, handOver(files), told)),
    ),
  )

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

/**
 * The crate of a crate file, and what of the file could not be used, a sentence each; or why a game has to be given
 * with it.
 */
export async function openCrateFile(
  bytes: Uint8Array | BroughtFile[],
  name: string,
  game: Game | null = null,
): Promise<OpenedFile> {
  const answer: Promise<unknown> = intake.call(async (api): Promise<unknown> => api.openCrateFile(bytes, name, game))
  return openedFileSchema.parse(await answer)
}

/** A crate as a file, and the paths of its sources that are no longer whole and so are not in it. */
export const saveCrateFile = async (
  crate: Crate,
  as: 'file' | 'folder',
): Promise<{ file: Uint8Array; lost: string[] }> =>
  savedFileSchema.parse(await intake.call((api) => api.saveCrateFile(crate, as)))

/** What a step would make of a map with other parameters, on small pictures; null when it cannot be told soon. */
export const previewMap = async (wish: z.input<typeof previewWishSchema>): Promise<Preview | null> =>
  previewSchema.nullable().parse(await preview.call((api) => api.preview(wish)))

export const packCrate = (crate: Crate, onProgress: OnProgress): Promise<{ blocks: number }> =>
  hearing(progressSchema, onProgress, (told) => packer.call((api) => api.pack(crate, told)))

export const stopPacking = (): void => packer.end()

/** A pack of some items of the crate's kept pack, or of what other packs do not have. */
export const packPart = async (crateId: string, rulebook: Rulebook, wish: PartWish): Promise<PackPart> =>
  packPartSchema.parse(await packer.call((api): Promise<unknown> => api.part(crateId, rulebook, wish)))

/** A pack for each item of the crate's kept pack, in one archive. */
export const packEach = async (crateId: string, rulebook: Rulebook): Promise<PackPart> =>
  packPartSchema.parse(await packer.call((api): Promise<unknown> => api.each(crateId, rulebook)))

/** Which pack wins each path where the crate's kept pack lies beside others under a name. */
export const overlayPacks = async (
  crateId: string,
  fileName: string,
  rulebook: Rulebook,
  others: readonly OtherPack[],
): Promise<OverlayReport> =>
  overlayReportSchema.parse(
    await packer.call((api): Promise<unknown> => api.overlay(crateId, fileName, rulebook, [...others])),
  )

export const runTrial = (crateId: string, game: Game): Promise<TrialReport> =>
  trial.call((api) => api.load(crateId, game))
