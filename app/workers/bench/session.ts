import type { Document } from '@gltf-transform/core'
import { startKey, startOf } from '../../../core/crate/bring-in'
import { itemSchema, type CrateItem } from '../../../core/crate/schema'
import { gameSchema, rulebookKey, type Game } from '../../../core/game/game'
import { surveyDocument, type Survey } from '../../../core/intake/survey'
import { kindOf } from '../../../core/game/load'
import { runWorklist, StoppedError, type RunOptions, type StartState } from '../../../core/worklist/run'
import { workerResults } from '../../storage/results'
import { getSource } from '../../storage/sources'
import type { Progress } from '../messages'

export type OnProgress = (progress: Progress) => void

/** What one question to the bench is about: an item of a crate, read and checked, and how its steps run. */
export interface Session {
  item: CrateItem
  game: Game
  options: RunOptions
  /** The state before the first step. */
  start: () => Promise<StartState>
  /** The item after so many steps, from what is kept of the runs. */
  after: (steps: number) => Promise<Document>
  /** The item after all steps. */
  result: () => Promise<Document>
}

const results = workerResults()
let stopAsked = false
let lastStart: { key: string; state: StartState } | null = null
let lastSurvey: { key: string; survey: Survey } | null = null

/**
 * Opens a question. Sources and results come from the browser's database, not from the page.
 * @throws ZodError for an item or game that is none
 */
export function openSession(rawItem: unknown, rawGame: unknown, onProgress: OnProgress): Session {
  const item = itemSchema.parse(rawItem)
  const game = gameSchema.parse(rawGame)
  stopAsked = false
  const options: RunOptions = {
    rulebook: game.rulebook,
    kind: kindOf(game.rulebook, item.kind),
    store: results,
    onProgress,
    shouldStop: () => stopAsked,
  }
  const start = async (): Promise<StartState> => {
    const key = `${rulebookKey(game.rulebook)} ${startKey(item)}`
    if (lastStart?.key !== key) lastStart = { key, state: await startOf(item, getSource, game) }
    return lastStart.state
  }
  const after = async (steps: number): Promise<Document> =>
    (await runWorklist(await start(), item.worklist.slice(0, steps), options)).document
  return { item, game, options, start, after, result: () => after(item.worklist.length) }
}

/** Asks the present run to end at its next pause. */
export function askToStop(): void {
  stopAsked = true
}

/** A pause of a computation that is no step: tells how far it is, and ends it where that was asked. */
export async function pause(onProgress: OnProgress, title: string, fraction: number): Promise<void> {
  onProgress({ entry: '', title, fraction, doing: '' })
  await new Promise<void>((resolve) => setTimeout(resolve, 0))
  if (stopAsked) throw new StoppedError()
}

/** The survey of a source, made once for each reading. */
export function surveyOf(from: StartState, item: CrateItem): Survey {
  if (lastSurvey?.key !== from.key) lastSurvey = { key: from.key, survey: surveyDocument(from.document, item.sources) }
  return lastSurvey.survey
}
