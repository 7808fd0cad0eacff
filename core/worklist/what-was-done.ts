import { stages, type Stage } from '../support/stages.ts'

/** A step that has run, as far as it is told. */
export interface StepDone {
  stage: Stage
  title: string
  headline: string
  changed: boolean
}

/** How many steps a line names before it only counts them. */
const MOST_NAMED = 3

/**
 * What a run did, in a line a stage: the steps that changed something, each with its number.
 *
 * @example whatWasDone(done) // [{ stage: 'mesh', text: 'Weld −212, Reduce triangles 38,096 → 11,800' }]
 */
export function whatWasDone(done: readonly StepDone[]): { stage: Stage; text: string }[] {
  return stages.flatMap((stage) => {
    const here = done.filter((step) => step.stage === stage && step.changed)
    if (here.length === 0) return []
    const named = here.slice(0, MOST_NAMED).map(({ title, headline }) => `${title} ${headline}`.trim())
    const more = here.length - named.length
    return [{ stage, text: named.join(', ') + (more > 0 ? ` and ${more} more` : '') }]
  })
}
