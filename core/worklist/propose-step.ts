import type { Document } from '@gltf-transform/core'
import { stepById, steps } from '../steps/registry.ts'
import { laidOver } from '../support/json-value.ts'
import { placeOfStep, type WorklistEntry } from './entry.ts'
import { namesAsThere, namesIn } from './names-as-there.ts'
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
 * there, else its defaults. `overrides` go before both; what they name is called as at the end of the worklist.
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
  const given = await namedAsIn(document, start, worklist, stepId, overrides, options)
  const filled = proposals.length > 0 ? proposals : [{ parameters: step.defaults(context), reason: null }]
  return {
    at,
    entries: filled.map(({ parameters, reason }) => ({
      step: stepId,
      on: true,
      parameters: laidOver(parameters as Record<string, unknown>, given),
      reason,
    })),
  }
}

/**
 * Settings of a step that name things as they are called at the end of a worklist, with the names that those have where
 * the step stands.
 * @param at place of the step among the worklist's
 *
 * @example const parameters = await settingsAt(start, worklist, { step: 'two-sided', at: 4 }, { parts: ['oar'] }, options)
 */
export async function settingsAt(
  start: StartState,
  worklist: readonly WorklistEntry[],
  { step: stepId, at }: { step: string; at: number },
  parameters: Record<string, unknown>,
  options: RunOptions,
): Promise<Record<string, unknown>> {
  if (namesIn(parameters, stepById(stepId).parameters).length === 0) return parameters
  const { document } = await runWorklist(start, worklist.slice(0, at), options)
  return namedAsIn(document, start, worklist, stepId, parameters, options)
}

/** The same, where the state that the step gets is at hand. */
async function namedAsIn(
  there: Document,
  start: StartState,
  worklist: readonly WorklistEntry[],
  stepId: string,
  parameters: Record<string, unknown>,
  options: RunOptions,
): Promise<Record<string, unknown>> {
  const { parameters: schema } = stepById(stepId)
  if (namesIn(parameters, schema).length === 0) return parameters
  const { document: seen } = await runWorklist(start, worklist, options)
  return namesAsThere(parameters, schema, seen, there, options.rulebook)
}
