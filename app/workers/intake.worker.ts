import * as Comlink from 'comlink'
import { bringIn, readPlanned, startOf, type BroughtItem } from '../../core/crate/bring-in'
import { writeCrateFolder } from '../../core/crate/crate-folder'
import {
  assembleCrate,
  keptFilesOf,
  lossesOf,
  readCrateFile,
  UnknownGameError,
  withoutTopFolder,
  writeCrateFile,
  type OpenedCrate,
} from '../../core/crate/file'
import { readNewer } from '../../core/crate/newer'
import { compareWithBrought, compareWithStock } from '../../core/crate/official'
import { planItems, refusalOf } from '../../core/crate/plan-items'
import { presetFor, readingOf, withPreset } from '../../core/crate/preset'
import { crateSchema, itemSchema, type Crate, type CrateItem, type SourceReference } from '../../core/crate/schema'
import { contentsOf, takeFromPack, takeOutOfArchive, textureOf } from '../../core/crate/take'
import { stockOf } from '../../core/crate/stock'
import { writeArchive } from '../../core/support/archive'
import { PlainError } from '../../core/support/plain-error'
import { sha256Hex } from '../../core/support/hashing'
import { isArchive, unpackSources } from '../../core/intake/archives'
import { isImageFile, provenImage } from '../../core/intake/images'
import { builtInGame, readGameFile, rulebookText, writeGameFile } from '../../core/crate/game-file'
import { gameWith, type BroughtGame } from '../../core/crate/brought-game'
import { gameSchema, type Game } from '../../core/game/game'
import { rankKinds } from '../../core/game/guess-kind'
import { builtInRulebooks } from '../../core/game/load'
import type { Rulebook } from '../../core/game/schema'
import type { ReadOptions } from '../../core/intake/reader'
import { fileName } from '../../core/intake/source-file'
import { addRulebook, getRulebook } from '../storage/rulebooks'
import { getSource, putSources } from '../storage/sources'
import './browser-assets'
import {
  bringingSchema,
  filesSchema,
  type GameChoice,
  type ArchiveContents,
  type Guess,
  type Newer,
  type Official,
  type Thumbnail,
} from './source-messages'
import { beginLearned, giveStock, learnFiles } from './learning'
import { makeThumbnail } from './thumbnail'
import { serve } from './serve'

interface Brought {
  items: CrateItem[]
  /** What each may become, the likeliest first. */
  guesses: Guess[]
  contents: ArchiveContents | null
  /** Why files became no item, a sentence each. */
  refused: string[]
  /** The preset of each item, by its title. */
  by: (string | null)[]
}

type OnProgress = (progress: { fraction: number; doing: string }) => void

/** The archive of ours that was brought last, until something is taken out of it. */
let lastArchive: { bytes: Uint8Array; name: string; games: readonly Rulebook[] } | null = null

const keep = (taken: readonly Pick<BroughtItem, 'files'>[]): Promise<void> =>
  putSources(taken.flatMap((each) => each.files.map(({ sha256, file }) => ({ sha256, bytes: file.bytes }))))

/**
 * The game that was chosen: one that ships, one of the modder's own, or one in a file.
 * @throws PlainError when it is not there, or not whole
 */
async function chosenGame(choice: GameChoice): Promise<BroughtGame> {
  if ('id' in choice) return builtInGame(choice.id)
  if ('bytes' in choice) return readGameFile(choice.bytes, choice.name)
  const own = await getRulebook(choice.own)
  if (!own?.rulebook)
    throw new PlainError(
      own?.fault ?? 'it is no longer kept',
      'the rulebook',
      'Mend it under Rulebooks, or choose another.',
    )
  return gameWith(own.rulebook, own.stock)
}

/** Tells the page at most thirty times a second. */
function heard(onProgress: OnProgress): ReadOptions['onProgress'] {
  let last = 0
  return (fraction, doing) => {
    const now = performance.now()
    if (now - last < 33) return
    last = now
    onProgress({ fraction, doing })
  }
}

/** Reads what is brought. A source is kept only after all of it could be read. */
const endpoint = {
  /**
   * New items from files; the bytes go to the database, the items back to the page. A pack or crate file is only looked
   * into. What they become is guessed for each where no kind is said.
   */
  async bringIn(
    rawFiles: unknown,
    kind: string | null,
    options: ReadOptions,
    taken: string[],
    rawGame: unknown,
    rawHow: unknown,
    onProgress: OnProgress,
  ): Promise<Brought> {
    const files = filesSchema.parse(rawFiles)
    const { rulebook } = gameSchema.parse(rawGame)
    const [only] = files
    if (files.length === 1 && isArchive(only)) {
      const games = [rulebook, ...builtInRulebooks()]
      const contents = contentsOf(only.bytes, fileName(only.path), games)
      lastArchive = contents && { bytes: only.bytes, name: fileName(only.path), games }
      if (contents) return { items: [], guesses: [], contents, refused: [], by: [] }
    }
    const heardProgress = heard(onProgress)
    const { presets, split } = bringingSchema.parse(rawHow)
    const answer: Brought = { items: [], guesses: [], contents: null, refused: [], by: [] }
    const plan = planItems(files, options.models ?? [])
    for (const [number, planned] of plan.entries()) {
      const onPart = (fraction: number, doing: string): void =>
        heardProgress?.((number + fraction) / plan.length, `${fileName(planned.main)}: ${doing}`)
      const preset = presetFor(presets, planned.main)
      const said = kind ?? preset?.kind ?? null
      const ids = [...taken, ...answer.items.map(({ id }) => id)]
      try {
        const brought = await readPlanned(
          planned,
          said ?? rulebook.kinds[0].id,
          { ...readingOf(preset, options), onProgress: onPart },
          ids,
          { split: split || preset?.split === true },
        )
        await keep(brought)
        for (const { document, item } of brought) {
          const guesses = rankKinds(document, rulebook, isImageFile(item.main))
          answer.guesses.push(guesses.map((each) => ({ kind: each.kind.id, reason: each.reason })))
          const worklist = (preset && withPreset(item.worklist, preset)) ?? item.worklist
          answer.items.push({
            ...item,
            worklist,
            ...(said === null ? { kind: guesses[0].kind.id } : { kind: said, answers: { kind: said } }),
          })
          answer.by.push(preset?.title ?? null)
        }
      } catch (error) {
        // Of several, one that cannot be read holds up no other.
        if (plan.length === 1 || !(error instanceof PlainError)) throw error
        answer.refused.push(refusalOf(planned.main, error))
      }
    }
    if (answer.items.length === 0)
      throw new PlainError('none of them can be read', `${plan.length} files`, answer.refused.slice(0, 3).join(' '))
    return answer
  },

  /** Items and textures out of the pack or crate file that was brought last. */
  async takeOut(items: string[], textures: string[], kind: string, taken: string[]): Promise<CrateItem[]> {
    if (!lastArchive) throw new PlainError('it is no longer at hand', 'the archive', 'Bring it again.')
    const { bytes, name, games } = lastArchive
    const out: CrateItem[] = []
    for (const wanted of items) {
      const one = await takeOutOfArchive(bytes, name, wanted, [...taken, ...out.map((item) => item.id)], games)
      await keep([one])
      out.push(one.item)
    }
    for (const path of textures) {
      const brought = await bringIn([textureOf(bytes, name, path)], kind, {}, [...taken, ...out.map((item) => item.id)])
      await keep(brought)
      out.push(...brought.map((each) => each.item))
    }
    return out
  },

  /** An object of the game's stock as an item to work on. */
  async takeStock(rawGame: unknown, object: string, taken: string[]): Promise<CrateItem> {
    const one = await takeFromPack(await stockOf(gameSchema.parse(rawGame), getSource), object, taken)
    await keep([one])
    return one.item
  },

  /** Further images for an item, proved to be images. */
  async bringImages(rawFiles: unknown): Promise<SourceReference[]> {
    const files = unpackSources(filesSchema.parse(rawFiles))
    for (const file of files) await provenImage(file.bytes, fileName(file.path))
    const sources = files.map((file) => ({ path: file.path, sha256: sha256Hex(file.bytes), bytes: file.bytes }))
    await putSources(sources)
    return sources.map(({ path, sha256, bytes }) => ({ path, sha256, bytes: bytes.length }))
  },

  /** Small pictures of an item's images; those that cannot be read are left out. */
  async thumbnails(rawItem: unknown): Promise<Thumbnail[]> {
    const item = itemSchema.parse(rawItem)
    const made: Thumbnail[] = []
    for (const source of item.sources.filter((each) => isImageFile(each.path))) {
      const bytes = await getSource(source.sha256)
      const thumbnail = bytes && (await makeThumbnail(source.path, bytes))
      if (thumbnail) made.push(thumbnail)
    }
    return made
  },

  /** Reads a newer version of an item's source and tells what changed. Nothing of the item changes yet. */
  async readNewer(rawItem: unknown, rawFiles: unknown, onProgress: OnProgress): Promise<Newer> {
    const { main, sources, files, change } = await readNewer(
      itemSchema.parse(rawItem),
      filesSchema.parse(rawFiles),
      getSource,
      heard(onProgress),
    )
    await keep([{ files }])
    return { main, sources, change }
  },

  /** Compares an item's source with an official object, from stock or brought as another item. */
  async compareOfficial(
    rawItem: unknown,
    rawGame: unknown,
    official: { stock: string } | { item: unknown },
  ): Promise<Official> {
    const game = gameSchema.parse(rawGame)
    const { document } = await startOf(itemSchema.parse(rawItem), getSource)
    if ('stock' in official) return compareWithStock(document, game, official.stock, getSource)
    return compareWithBrought(
      document,
      (await startOf(itemSchema.parse(official.item), getSource)).document,
      game.rulebook,
    )
  },

  /** A game to begin with: one that ships, or one in a file; what it has in stock is kept. */
  async beginWith(choice: GameChoice): Promise<Game> {
    const { game, stock } = await chosenGame(choice)
    if (game.stock && stock) await putSources([{ sha256: game.stock.sha256, bytes: stock }])
    return game
  },

  /** Keeps a game's file as a rulebook of the modder's own; gives its key. */
  async keepRulebook(bytes: Uint8Array, name: string): Promise<string> {
    const { game, stock } = readGameFile(bytes, name)
    return addRulebook(game.rulebook.id, rulebookText(game.rulebook), stock)
  },

  learn: learnFiles,
  beginLearned,
  giveStock,

  /** A game as one file: its rulebook, and beside it what it has in stock, where it has some. */
  async rulebookFile(choice: GameChoice): Promise<{ bytes: Uint8Array; ending: 'json' | 'zip' }> {
    const game = await chosenGame(choice)
    return game.stock
      ? { bytes: writeGameFile(game), ending: 'zip' }
      : { bytes: new TextEncoder().encode(rulebookText(game.game.rulebook)), ending: 'json' }
  },

  /**
   * Opens a crate file, or the files of a crate folder: its sources are kept, the crate goes back to the page, with
   * what could not be used.
   * @returns why a game has to be given with it, where its own cannot be read
   */
  async openCrateFile(
    given: Uint8Array | { path: string; bytes: Uint8Array }[],
    name: string,
    rawGame: unknown,
  ): Promise<{ crate: Crate; losses: string[] } | { wantsGame: string }> {
    let opened: OpenedCrate
    try {
      const game = gameSchema.nullable().parse(rawGame)
      opened =
        given instanceof Uint8Array
          ? readCrateFile(given, name, game)
          : assembleCrate(withoutTopFolder(new Map(given.map(({ path, bytes }) => [path, bytes]))), name, game)
    } catch (error) {
      if (error instanceof UnknownGameError) return { wantsGame: error.what }
      throw error
    }
    await putSources([...opened.sources].map(([sha256, source]) => ({ sha256, bytes: source })))
    return { crate: opened.crate, losses: lossesOf(opened) }
  },

  /** A crate file with all its sources that are whole, and the names of those that are not. */
  async saveCrateFile(rawCrate: unknown, as: 'file' | 'folder'): Promise<{ file: Uint8Array; lost: string[] }> {
    const crate = crateSchema.parse(rawCrate)
    const sources = new Map<string, Uint8Array>()
    const lost = new Map<string, string>()
    for (const { sha256, path } of keptFilesOf(crate)) {
      const bytes = await getSource(sha256)
      if (bytes && sha256Hex(bytes) === sha256) sources.set(sha256, bytes)
      else lost.set(sha256, path)
    }
    // A folder travels as an archive of it; what is lost of it has to be brought again first.
    const file =
      as === 'file'
        ? writeCrateFile({ crate, sources }, new Set(lost.keys()))
        : writeArchive(
            [...writeCrateFolder({ crate, sources })].map(([path, bytes]) => ({ path, bytes })),
            'zip-deflated',
          )
    return Comlink.transfer({ file, lost: [...lost.values()] }, [file.buffer as ArrayBuffer])
  },
}

export type IntakeEndpoint = typeof endpoint
serve(endpoint)
