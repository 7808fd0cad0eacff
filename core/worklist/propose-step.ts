import { stepById, steps } from '../steps/registry.ts'
import { laidOver } from '../support/json-value.ts'
import { placeOfStep, type WorklistEntry } from './entry.ts'
import { runWorklist, type RunOptions, type StartState } from './run.ts'

const order = steps.map(({ id }) => id)

/** Where a new step goes, among all that there are. */
export const insertPosition = (worklist: readonly WorklistEntry[], step: string): number =>
  placeOfStep(worklist, step, order)

/** New entries for a worklist, and the place they go to. */
export interface StepProposal {
  entries: Omit<WorklistEntry, 'id'>[]
  at: number
}

/**
 * A step filled in for the item as it is at the step's place in the worklist: what the step itself proposes
 * there, else its defaults. `overrides` go before both.
 *
 * @example const { entries, at } = await proposeStep(start, worklist, 'weld', {}, options)
 */
export async function proposeStep(
  start: StartState,
  worklist: readonly WorklistEntry[],
  stepId: string,
  overrides: Record<string, unknown>,
  options: RunOptions,
): Promise<StepProposal> {
  const step = stepById(stepId)
  const at = insertPosition(worklist, stepId)
  const { document } = await runWorklist(start, worklist.slice(0, at), options)
  const context = {
    document,
    rulebook: options.rulebook,
    kind: options.kind,
    images: start.images,
    official: (await start.official?.(options.kind)) ?? null,
    hosts: await start.hosts?.(options.kind),
  }
  const proposals = step.propose(context)
  const filled = proposals.length > 0 ? proposals : [{ parameters: step.defaults(context), reason: null }]
  return {
    at,
    entries: filled.map(({ parameters, reason }) => ({
      step: stepId,
      on: true,
      parameters: laidOver(parameters as Record<string, unknown>, overrides),
      reason,
    })),
  }
}
