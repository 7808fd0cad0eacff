import { create } from 'zustand'
import { rulebookKey, type Game } from '../../core/game/game'
import type { CrateItem } from '../../core/crate/schema'
import { plainMessage } from '../../core/support/plain-error'
import { evaluateItem, type Ask } from '../workers/bench-client'
import type { Evaluation, FindingMessage, Progress, Scenes } from '../workers/messages'

/** How far an item is with its worklist. What was computed before stays shown while something new runs. */
export interface ItemRun {
  /** What was asked for last: changes of anything that matters for the result ask anew. */
  wanted: string
  /** Whether what was asked for last brings scenes for the yard. */
  wantsScenes: boolean
  /** What `evaluation` belongs to. */
  shown: string | null
  state: 'running' | 'done' | 'stopped' | 'failed'
  evaluation: Evaluation | null
  /** What shows of it when the crate's items are looked at together. */
  together: FindingMessage[]
  scenes: Scenes | null
  message: string | null
}

export const useRuns = create<{ runs: Record<string, ItemRun> }>(() => ({ runs: {} }))

export const useItemRun = (id: string): ItemRun | undefined => useRuns(({ runs }) => runs[id])

/**
 * How far everything is that is under way, by run. It changes many times a second, so it stands apart: of many items,
 * what shows none of it is not asked each time.
 */
export const useProgresses = create<{
  /** Of worklists that run. */
  runs: Record<string, Progress | undefined>
  /** Of what is being prepared or proposed. */
  jobs: Record<string, Progress | undefined>
}>(() => ({ runs: {}, jobs: {} }))

/** What runs for an item just now: a proposal, else its worklist. */
export const useProgress = (id: string): Progress | null =>
  useProgresses(({ runs, jobs }) => jobs[id] ?? runs[id] ?? null)

export const runId = (crateId: string, itemId: string): string => `${crateId}/${itemId}`

/** Written once for each state of an item: lists of many ask for it again and again. */
const ownKeys = new WeakMap<CrateItem, string>()

function ownKey(item: CrateItem): string {
  const known = ownKeys.get(item)
  if (known !== undefined) return known
  const key = JSON.stringify([
    item.main,
    item.sources,
    item.reading,
    item.worklist.map(({ id, step, on, parameters }) => [id, step, on, parameters]),
    item.kind,
  ])
  ownKeys.set(item, key)
  return key
}

/** Everything that an item’s result depends on: its own and the game’s. */
export const runKey = (item: CrateItem, game: Game): string => `${rulebookKey(game.rulebook)} ${ownKey(item)}`

const blank: ItemRun = {
  wanted: '',
  wantsScenes: false,
  shown: null,
  state: 'done',
  evaluation: null,
  together: [],
  scenes: null,
  message: null,
}

function patch(id: string, change: Partial<ItemRun>): void {
  useRuns.setState(({ runs }) => ({ runs: { ...runs, [id]: { ...(runs[id] ?? blank), ...change } } }))
}

/** What is under way for an item and can be ended; questions hold what they are about and outlive a newer wish. */
const underWay = new Map<string, Map<AbortController, 'work' | 'question'>>()

/** Does something for an item that the modder can end; work ends for a newer wish as well. */
async function endable<T>(
  id: string,
  sort: 'work' | 'question',
  work: (signal: AbortSignal) => Promise<T>,
): Promise<T> {
  const controller = new AbortController()
  const all = underWay.get(id) ?? new Map<AbortController, 'work' | 'question'>()
  underWay.set(id, all.set(controller, sort))
  try {
    return await work(controller.signal)
  } finally {
    all.delete(controller)
  }
}

/** Ends whatever is under way for an item; what was finished is kept. */
export function endWork(id: string): void {
  for (const controller of underWay.get(id)?.keys() ?? []) controller.abort()
}

/** Ends runs and jobs of an item that something else is wanted of now. */
function endUnwanted(id: string): void {
  for (const [controller, sort] of underWay.get(id) ?? []) if (sort === 'work') controller.abort()
}

const showJob = (id: string, job: Progress | undefined): void =>
  useProgresses.setState(({ jobs }) => ({ jobs: { ...jobs, [id]: job } }))

const showRun = (id: string, progress: Progress | undefined): void =>
  useProgresses.setState(({ runs }) => ({ runs: { ...runs, [id]: progress } }))

/** A long job for an item, shown while it is under way: preparing it, or looking what a step needs. */
export function doForItem<T>(id: string, title: string, work: (ask: Ask) => Promise<T>): Promise<T> {
  showJob(id, { entry: '', title, fraction: 0, doing: '' })
  return ask(id, 'work', work)
}

/**
 * A question about an item; what has to be run for it is shown as it runs.
 * @param signal ends it when nobody wants the answer any more
 */
export const askForItem = <T>(id: string, work: (ask: Ask) => Promise<T>, signal?: AbortSignal): Promise<T> =>
  ask(id, 'question', work, signal)

async function ask<T>(
  id: string,
  sort: 'work' | 'question',
  work: (ask: Ask) => Promise<T>,
  signal?: AbortSignal,
): Promise<T> {
  try {
    return await endable(id, sort, (own) =>
      work({
        onProgress: (progress) => showJob(id, progress),
        signal: signal ? AbortSignal.any([signal, own]) : own,
      }),
    )
  } finally {
    showJob(id, undefined)
  }
}

/** Asks for an item's result; asking for the same again does nothing, for another ends the present run. */
export function requestRun(crateId: string, item: CrateItem, game: Game, withScenes: boolean): void {
  const id = runId(crateId, item.id)
  const wanted = runKey(item, game)
  const run = useRuns.getState().runs[id]
  const hasScenes = run?.scenes !== null && run?.scenes !== undefined
  if (
    run?.wanted === wanted &&
    run.state !== 'failed' &&
    (hasScenes || !withScenes || (run.state === 'running' && run.wantsScenes))
  )
    return
  patch(id, {
    wanted,
    wantsScenes: withScenes,
    state: 'running',
    message: null,
  })
  showRun(id, { entry: '', title: 'Reading', fraction: 0, doing: '' })
  // The same without scenes may run just now: it ends by itself, and the run with scenes takes up what it kept.
  if (run?.wanted !== wanted) endUnwanted(id)
  void runNow(id, wanted, item, game, withScenes)
}

async function runNow(id: string, wanted: string, item: CrateItem, game: Game, withScenes: boolean): Promise<void> {
  try {
    const { evaluation, scenes } = await endable(id, 'work', (signal) =>
      evaluateItem(item, game, withScenes, {
        onProgress: (progress) => {
          if (useRuns.getState().runs[id]?.wanted === wanted) showRun(id, progress)
        },
        signal,
        urgent: withScenes,
      }),
    )
    if (scenes) dropOtherScenes(id)
    if (useRuns.getState().runs[id]?.wanted === wanted) showRun(id, undefined)
    const { wanted: now, state } = useRuns.getState().runs[id] ?? blank
    const stillWanted = now === wanted
    // What is newer is known already.
    if (!stillWanted && state === 'done') return
    patch(id, {
      evaluation,
      shown: wanted,
      ...(scenes ? { scenes } : {}),
      ...(stillWanted ? { state: 'done' as const } : {}),
    })
  } catch (error) {
    if (useRuns.getState().runs[id]?.wanted !== wanted) return
    const stopped = error instanceof Error && error.name === 'StoppedError'
    patch(id, { state: stopped ? 'stopped' : 'failed', message: plainMessage(error) })
    showRun(id, undefined)
  }
}

/** Keeps what is known of an item already, as preparing it has told: it is not run again for that. */
export function keepEvaluation(crateId: string, item: CrateItem, game: Game, evaluation: Evaluation): void {
  const key = runKey(item, game)
  patch(runId(crateId, item.id), { wanted: key, shown: key, evaluation, scenes: null, state: 'done', message: null })
}

/** Scenes are large: only the item on the bench keeps one. */
function dropOtherScenes(kept: string): void {
  useRuns.setState(({ runs }) => ({
    runs: Object.fromEntries(
      Object.entries(runs).map(([id, run]) => [id, id === kept ? run : { ...run, scenes: null }]),
    ),
  }))
}

/** Runs an item again after it was stopped or has failed. */
export function requestAgain(crateId: string, item: CrateItem, game: Game, withScenes: boolean): void {
  patch(runId(crateId, item.id), { wanted: '', state: 'failed' })
  requestRun(crateId, item, game, withScenes)
}
