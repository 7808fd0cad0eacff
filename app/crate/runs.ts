import { create } from 'zustand'
import { rulebookKey, type Game } from '../../core/game/game'
import { useShallow } from 'zustand/react/shallow'
import type { CrateItem } from '../../core/crate/schema'
import { plainMessage } from '../../core/support/plain-error'
import { evaluateItem, stopBench } from '../workers/clients'
import type { Evaluation, Progress, Scenes } from '../workers/messages'

/** How far an item is with its worklist. What was computed before stays shown while something new runs. */
export interface ItemRun {
  /** What was asked for last: changes of anything that matters for the result ask anew. */
  wanted: string
  /** Whether what was asked for last brings scenes for the yard. */
  wantsScenes: boolean
  /** What `evaluation` belongs to. */
  shown: string | null
  state: 'running' | 'done' | 'stopped' | 'failed'
  progress: Progress | null
  evaluation: Evaluation | null
  scenes: Scenes | null
  message: string | null
}

interface RunsState {
  runs: Record<string, ItemRun>
  /** What is being proposed just now, on the bench. */
  job: Progress | null
}

export const useRuns = create<RunsState>(() => ({ runs: {}, job: null }))

export const setJob = (job: Progress | null): void => useRuns.setState({ job })

/** A run without its progress: what the screen shows of it changes only when there is something new to show. */
export type SettledRun = Omit<ItemRun, 'progress'>

export function useSettledRun(id: string): SettledRun | undefined {
  return useRuns(
    useShallow((state) => {
      const run = state.runs[id]
      if (!run) return undefined
      const { progress: _progress, ...settled } = run
      return settled
    }),
  )
}

/** What runs for an item just now: a proposal, else its worklist. */
export const useProgress = (id: string): Progress | null =>
  useRuns((state) => state.job ?? state.runs[id]?.progress ?? null)

export const runId = (crateId: string, itemId: string): string => `${crateId}/${itemId}`

/** Everything that an item’s result depends on: its own and the game’s. */
export const runKey = (item: CrateItem, game: Game): string =>
  JSON.stringify([
    rulebookKey(game.rulebook),
    item.main,
    item.sources,
    item.reading,
    item.worklist.map(({ id, step, on, parameters }) => [id, step, on, parameters]),
    item.kind,
  ])

const blank: ItemRun = {
  wanted: '',
  wantsScenes: false,
  shown: null,
  state: 'done',
  progress: null,
  evaluation: null,
  scenes: null,
  message: null,
}

function patch(id: string, change: Partial<ItemRun>): void {
  useRuns.setState(({ runs }) => ({ runs: { ...runs, [id]: { ...(runs[id] ?? blank), ...change } } }))
}

/** Jobs for the bench's worker, one after another; what the modder looks at goes before what only fills the overview. */
const waiting: { urgent: boolean; start: () => Promise<void> }[] = []
let working = false

function enqueue<T>(urgent: boolean, job: () => Promise<T>): Promise<T> {
  return new Promise((resolve, reject) => {
    waiting.push({ urgent, start: () => job().then(resolve, reject) })
    void work()
  })
}

async function work(): Promise<void> {
  if (working) return
  working = true
  while (waiting.length > 0) {
    const urgent = waiting.findIndex((each) => each.urgent)
    const [next] = waiting.splice(Math.max(0, urgent), 1)
    await next.start()
  }
  working = false
}

let active: string | null = null

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
    progress: { entry: '', title: 'Reading', fraction: 0, doing: '' },
  })
  // The same without scenes may run just now: it ends by itself, and the run with scenes takes up what it kept.
  if (active === id && run?.wanted !== wanted) void stopBench()
  void enqueue(withScenes, () => runNow(id, wanted, item, game, withScenes))
}

async function runNow(id: string, wanted: string, item: CrateItem, game: Game, withScenes: boolean): Promise<void> {
  if (useRuns.getState().runs[id]?.wanted !== wanted) return
  active = id
  try {
    const { evaluation, scenes } = await evaluateItem(item, game, withScenes, (progress) => patch(id, { progress }))
    if (scenes) dropOtherScenes(id)
    const stillWanted = useRuns.getState().runs[id]?.wanted === wanted
    patch(id, {
      evaluation,
      shown: wanted,
      progress: null,
      ...(scenes ? { scenes } : {}),
      ...(stillWanted ? { state: 'done' as const } : {}),
    })
  } catch (error) {
    if (useRuns.getState().runs[id]?.wanted !== wanted) return
    const stopped = error instanceof Error && error.name === 'StoppedError'
    patch(id, { state: stopped ? 'stopped' : 'failed', progress: null, message: plainMessage(error) })
  } finally {
    active = null
  }
}

/** Scenes are large: only the item on the bench keeps one. */
function dropOtherScenes(kept: string): void {
  useRuns.setState(({ runs }) => ({
    runs: Object.fromEntries(
      Object.entries(runs).map(([id, run]) => [id, id === kept ? run : { ...run, scenes: null }]),
    ),
  }))
}

/** Runs a job in the bench's worker when it is free, so that two never share it. */
export function inBenchQueue<T>(job: () => Promise<T>): Promise<T> {
  return enqueue(true, job)
}

/** Runs an item again after it was stopped or has failed. */
export function requestAgain(crateId: string, item: CrateItem, game: Game, withScenes: boolean): void {
  patch(runId(crateId, item.id), { wanted: '', state: 'failed' })
  requestRun(crateId, item, game, withScenes)
}
