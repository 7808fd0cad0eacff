import { rulebookKey } from '../game/game.ts'
import type { Document } from '@gltf-transform/core'
import { hashValue } from '../support/hashing.ts'
import { copyDocument } from '../item/io.ts'
import { countTriangles, listViewParts } from '../item/parts.ts'
import { PlainError, plainMessage } from '../support/plain-error.ts'
import type { Kind, Rulebook } from '../game/schema.ts'
import { stepById } from '../steps/registry.ts'
import { renewTangents, stampTangents } from '../operations/meshes/renew-tangents.ts'
import type { Host, OfficialWithin, SourceImage } from '../operations/context.ts'
import { plural } from '../support/wording.ts'
import type { WorklistEntry } from './entry.ts'
import { namesNotThere } from './names-not-there.ts'
import type { ResultStore, StepRecord } from './result-store.ts'

/** The item before its first step. `key` stands for everything that went into it. */
export interface StartState {
  key: string
  document: Document
  /** Picture files that were brought with the item; the key stands for them too. */
  images?: readonly SourceImage[]
  /** Finds what of it the game has already, if the kind adds to something; asked for only where steps propose. */
  official?: (kind: Kind) => Promise<OfficialWithin | null>
  /** Objects of the game's own that it can be put into, if the kind changes one. */
  hosts?: (kind: Kind) => Promise<readonly Host[]>
}

export interface RunProgress {
  /** Entry that is running. */
  entry: string
  title: string
  /** Share of the whole worklist, 0 to 1. */
  fraction: number
  doing: string
}

export interface RunOptions {
  rulebook: Rulebook
  kind: Kind
  store: ResultStore
  onProgress?: (progress: RunProgress) => void
  /** Asked between pieces of work; true ends the run with `StoppedError`. */
  shouldStop?: () => boolean
  /**
   * Whether a state within a stage is handed on to the next step instead of being kept and copied: where nobody goes
   * back to it, as while a worklist is made. Needs a store that gives its states away.
   */
  handsOn?: boolean
}

export type EntryOutcome =
  | { entry: string; state: 'done'; record: StepRecord; reused: boolean }
  | { entry: string; state: 'off' }
  | { entry: string; state: 'failed'; message: string }
  | { entry: string; state: 'waiting' }

export interface RunResult {
  /** State after the last step that worked. */
  document: Document
  key: string
  outcomes: EntryOutcome[]
  failed: boolean
}

/** Thrown when the modder stopped the run; what was finished is kept. */
export class StoppedError extends Error {
  override readonly name = 'StoppedError'
  constructor() {
    super('Stopped. What was finished is kept.')
  }
}

/** The key of a state: everything that went into it. */
export function stateKey(before: string, entry: WorklistEntry, rulebook: Rulebook, kind: Kind): string {
  let version = 0
  try {
    version = stepById(entry.step).version
  } catch {
    // An unknown step fails when it runs; its key only has to differ.
  }
  return hashValue([before, entry.step, version, entry.parameters, rulebookKey(rulebook), kind.id])
}

/**
 * Runs a worklist from the first entry whose result is not kept. A step that fails ends the run: later
 * entries wait, and the state before it is the result.
 * @throws StoppedError when the modder stopped it
 *
 * @example const { document, outcomes } = await runWorklist(start, item.worklist, { rulebook, kind, store: memoryStore() })
 */
export async function runWorklist(
  start: StartState,
  worklist: readonly WorklistEntry[],
  options: RunOptions,
): Promise<RunResult> {
  const active = worklist.filter((entry) => entry.on)
  const keys: string[] = []
  for (const entry of active) keys.push(stateKey(keys.at(-1) ?? start.key, entry, options.rulebook, options.kind))
  const outcomes = new Map<string, EntryOutcome>()
  const handsOn = (index: number): boolean =>
    options.handsOn === true &&
    options.store.take !== undefined &&
    index + 1 < active.length &&
    stageOf(active[index]) === stageOf(active[index + 1])
  const resumed = await resume(active, keys, options.store, outcomes, handsOn)
  let { document } = resumed ?? start
  // A state that nobody else holds is changed in place; others are copied.
  let isOwn = resumed?.isOwn ?? false
  let key = resumed ? keys[resumed.index] : start.key
  let failed = false
  for (let index = (resumed?.index ?? -1) + 1; index < active.length; index++) {
    const entry = active[index]
    try {
      const { record, after } = await runEntry(
        entry,
        { before: document, isOwn, start },
        keys[index],
        options,
        index / active.length,
        1 / active.length,
      )
      document = after
      isOwn = !(await options.store.save(record, handsOn(index) ? null : after))
      key = keys[index]
      outcomes.set(entry.id, { entry: entry.id, state: 'done', record, reused: false })
    } catch (error) {
      if (error instanceof StoppedError) throw error
      outcomes.set(entry.id, { entry: entry.id, state: 'failed', message: failureOf(entry, error) })
      failed = true
      // What the step had begun to change is made anew as it was before.
      if (isOwn) ({ document } = await runWorklist(start, active.slice(0, index), options))
      break
    }
  }
  return {
    document,
    key,
    failed,
    outcomes: worklist.map(
      (entry) => outcomes.get(entry.id) ?? { entry: entry.id, state: entry.on ? 'waiting' : 'off' },
    ),
  }
}

/** What a step that failed says: what mends it, or that it is not the modder who did wrong. */
const failureOf = ({ step }: WorklistEntry, error: unknown): string =>
  error instanceof PlainError
    ? error.message
    : `${stepById(step).title}: a fault of ours stopped it (${plainMessage(error)}). Switch it off; the rest goes on.`

/** The stage of an entry's step; null where the step is not known. */
function stageOf({ step }: WorklistEntry): string | null {
  try {
    return stepById(step).stage
  } catch {
    return null
  }
}

/**
 * The furthest entry with a kept state, all of whose forerunners have their records.
 * @param handsOn whether the state after an entry is given away to the next one
 */
async function resume(
  active: readonly WorklistEntry[],
  keys: readonly string[],
  store: ResultStore,
  outcomes: Map<string, EntryOutcome>,
  handsOn: (index: number) => boolean,
): Promise<{ index: number; document: Document; isOwn: boolean } | null> {
  const records: StepRecord[] = []
  for (const key of keys) {
    const record = await store.record(key)
    if (!record) break
    records.push(record)
  }
  for (let index = records.length - 1; index >= 0; index--) {
    const isOwn = handsOn(index)
    const state = await (isOwn ? store.take?.(keys[index]) : store.state(keys[index]))
    if (!state) continue
    for (let done = 0; done <= index; done++)
      outcomes.set(active[done].id, { entry: active[done].id, state: 'done', record: records[done], reused: true })
    return { index, document: state, isOwn }
  }
  return null
}

async function runEntry(
  entry: WorklistEntry,
  { before, isOwn, start }: { before: Document; isOwn: boolean; start: StartState },
  key: string,
  options: RunOptions,
  from: number,
  share: number,
): Promise<{ record: StepRecord; after: Document }> {
  const step = stepById(entry.step)
  const progress = progressReporter(options, (fraction, doing) => ({
    entry: entry.id,
    title: step.title,
    fraction: from + share * fraction,
    doing,
  }))
  await progress(0, '')
  const started = performance.now()
  const parameters = step.parameters.safeParse(entry.parameters)
  if (!parameters.success) {
    const issue = parameters.error.issues[0]
    throw new PlainError(
      `its setting “${issue.path.join('.')}” is wrong (${issue.message})`,
      step.title,
      'Open the step and set it again.',
    )
  }
  const strangers = namesNotThere(before, parameters.data)
  const document = isOwn ? before : copyDocument(before)
  stampTangents(document)
  const summary = await step.run({
    document,
    parameters: parameters.data,
    rulebook: options.rulebook,
    kind: options.kind,
    progress,
    source: start.document,
    images: start.images,
    hosts: await start.hosts?.(options.kind),
  })
  // Surface work brings normal maps to what had none.
  const renewed = summary.changed ? await renewTangents(document, step.stage === 'surface') : 0
  if (renewed > 0)
    summary.details.push(`Tangents were made for ${plural(renewed, 'surface')}, since what they lie on changed.`)
  if (strangers.length > 0)
    summary.details.push(
      `${strangers.slice(0, 4).join(', ')}${strangers.length > 4 ? ` and ${strangers.length - 4} more` : ''}: ` +
        `no such ${strangers.length === 1 ? 'part' : 'parts'} when this step runs; choose again.`,
    )
  const triangles = countTriangles(listViewParts(document))
  if (triangles === 0)
    throw new PlainError('nothing would be left of the item', step.title, 'Keep at least one part that has area.')
  const record: StepRecord = { key, ...summary, milliseconds: performance.now() - started, triangles }
  return { record, after: document }
}

/** Lets messages in at most every few milliseconds, so that Stop is heard and work is not slowed. */
function progressReporter(
  options: RunOptions,
  describe: (fraction: number, doing: string) => RunProgress,
): (fraction: number, doing: string) => Promise<void> {
  // Nobody listens: nothing is let in.
  if (!options.onProgress && !options.shouldStop) return async () => undefined
  let last = -Infinity
  return async (fraction, doing) => {
    const now = performance.now()
    if (now - last < 12) return
    last = now
    options.onProgress?.(describe(Math.min(1, fraction), doing))
    await new Promise<void>((resolve) => setTimeout(resolve, 0))
    if (options.shouldStop?.()) throw new StoppedError()
  }
}
