import type { Game } from '../game/game.ts'
import { rankKinds } from '../game/guess-kind.ts'
import { kindOf } from '../game/load.ts'
import { isImageFile } from '../intake/images.ts'
import type { SourceFile } from '../intake/source-file.ts'
import type { Question } from '../questions/question.ts'
import { runWorklist, type RunOptions } from '../worklist/run.ts'
import { startFrom, type BroughtItem } from './bring-in.ts'
import { gameName } from './game-names.ts'
import { prepareItem } from './prepare-item.ts'
import { withPreset, type Preset } from './preset.ts'
import { questionsOf } from './questions.ts'
import type { CrateItem } from './schema.ts'
import type { EvaluateOptions } from './evaluate.ts'

/** What is said of an item before it is prepared. */
export interface PrepareWish {
  /** What it becomes; told from the preset, else from the item, where none is said. */
  kind?: string
  preset: Preset | null
  /** It only comes in: no step is proposed. */
  unprepared?: boolean
  /** Each thing of its scene becomes an item of its own. */
  split?: boolean
  /** Items that are there already: what a person decided in the one of its name stays. */
  before?: readonly CrateItem[]
}

/** An item with its worklist, and what came of it. */
export interface PreparedOne {
  item: CrateItem
  /** The files to keep. */
  files: { sha256: string; file: SourceFile }[]
  /** Sentences about steps that did not work. */
  failures: string[]
  /** What nobody answered yet. */
  questions: Question[]
}

/**
 * Prepares an item that was just read: by its preset's worklist, or by what it needs.
 * @throws PlainError when the game has no such kind
 * @throws StoppedError when the modder stopped it
 *
 * @example const { item } = await prepareOne(brought, game, { preset: null }, { store: memoryStore(), bytesOf })
 */
export async function prepareOne(
  { item: read, document, files, survey }: BroughtItem,
  game: Game,
  { kind: saidKind, preset, unprepared = false, before = [] }: PrepareWish,
  { store, bytesOf, onProgress, shouldStop }: EvaluateOptions,
): Promise<PreparedOne> {
  const { rulebook } = game
  const said = saidKind ?? preset?.kind
  const kind =
    said === undefined ? rankKinds(document, rulebook, isImageFile(read.main))[0].kind : kindOf(rulebook, said)
  const known = before.find(({ name }) => name === read.name)
  const answers = { ...known?.answers, ...(said === undefined ? {} : { kind: said }) }
  const item: CrateItem = {
    ...read,
    kind: kind.id,
    waivers: known?.waivers ?? [],
    ...(Object.keys(answers).length > 0 ? { answers } : {}),
  }
  const first = read.worklist.map(({ step }) => step)
  const decided = [
    ...read.worklist,
    ...(known?.worklist ?? []).filter(({ byHand, step }) => byHand === true && !first.includes(step)),
  ]
  const start = await startFrom(
    item,
    document,
    files.map(({ file }) => file),
    game,
    bytesOf,
  )
  const options: RunOptions = { rulebook, kind, store, onProgress, shouldStop }
  const worklist =
    (preset && withPreset(read.worklist, preset)) ??
    (unprepared
      ? read.worklist
      : (await prepareItem(start, options, { decided, itemName: gameName(item, rulebook) })).worklist)
  const { outcomes } = await runWorklist(start, worklist, options)
  return {
    item: { ...item, worklist },
    files,
    failures: outcomes.flatMap((outcome) => (outcome.state === 'failed' ? [`${item.name}: ${outcome.message}`] : [])),
    questions: questionsOf({ ...item, worklist }, document, rulebook, survey).filter(({ answered }) => !answered),
  }
}
