import { steps } from '../steps/registry.ts'
import type { Stage } from '../support/stages.ts'
import { newEntryId, type WorklistEntry } from './entry.ts'
import { runWorklist, type RunOptions, type RunResult, type StartState } from './run.ts'

/** What has no mesh, such as a finish, is neither fitted nor given solids. */
const meshStages: readonly Stage[] = ['fit', 'mesh', 'solids', 'motion']

/**
 * Proposes a whole worklist. A step that was proposed and does not work is left out, switched off with its reason, and
 * holds up no other. Each step is asked what the item needs after the steps before it have run, so
 * reasons speak of real numbers; results go to the store and are not made twice.
 * @param decided entries that a person put in, set or switched: they stay as they are, where their steps belong, and
 * nothing is proposed beside them
 * @param until a worklist that stays as it is up to and with one step; only what comes later is proposed
 *
 * @example const worklist = await prepareWorklist(start, { rulebook, kind, store: memoryStore() })
 */
export async function prepareWorklist(
  start: StartState,
  options: RunOptions,
  decided: readonly WorklistEntry[] = [],
  until?: { worklist: readonly WorklistEntry[]; step: string },
): Promise<WorklistEntry[]> {
  const official = (await start.official?.(options.kind)) ?? null
  const hosts = await start.hosts?.(options.kind)
  const { rulebook, kind } = options
  const firstProposed = until ? steps.findIndex(({ id }) => id === until.step) + 1 : 0
  const worklist = steps
    .slice(0, firstProposed)
    .flatMap((step) => (until?.worklist ?? []).filter((entry) => entry.step === step.id))
  const taken = [...decided, ...(until?.worklist ?? [])]
  const run = (done: number): Promise<RunResult> =>
    runWithoutFailing(start, worklist, decided, {
      ...options,
      handsOn: true,
      onProgress: (progress) => options.onProgress?.({ ...progress, fraction: done / (steps.length + 1) }),
    })
  // What stays as it is runs in one go: its states were handed on, and each run of a part of it would begin anew.
  let { document, failed } = firstProposed > 0 ? await run(firstProposed) : { document: start.document, failed: false }
  for (let index = firstProposed; index < steps.length && !failed; index++) {
    const step = steps[index]
    const own = decided.filter((entry) => entry.step === step.id)
    worklist.push(...own)
    if (own.length === 0) {
      if (kind.mesh === null && meshStages.includes(step.stage)) continue
      if (rulebook.maps.roles.length === 0 && step.ofMaps) continue
      const proposals = step.propose({ document, rulebook, kind, images: start.images, official, hosts })
      if (proposals.length === 0) continue
      for (const { parameters, reason } of proposals)
        worklist.push({
          id: newEntryId([...worklist, ...taken]),
          step: step.id,
          on: true,
          parameters: parameters as Record<string, unknown>,
          reason,
        })
    }
    ;({ document, failed } = await run(index + 1))
  }
  // After a step that failed, and for steps that this version does not know, what was decided waits at the end.
  return [...worklist, ...decided.filter(({ id }) => !worklist.some((entry) => entry.id === id))]
}

/** Runs a worklist; what was proposed and fails is switched off in it, until the rest works. */
async function runWithoutFailing(
  start: StartState,
  worklist: WorklistEntry[],
  decided: readonly WorklistEntry[],
  options: RunOptions,
): Promise<RunResult> {
  for (;;) {
    const result = await runWorklist(start, worklist, options)
    const failed = result.outcomes.find((outcome) => outcome.state === 'failed')
    const at = worklist.findIndex(({ id }) => id === failed?.entry)
    if (failed?.state !== 'failed' || at < 0 || decided.includes(worklist[at])) return result
    worklist[at] = { ...worklist[at], on: false, reason: `Left out, since it did not work: ${failed.message}` }
  }
}
