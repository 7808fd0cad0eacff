import type { CrateItem } from '../../core/crate/schema'
import { doForItem, endWork, runId } from '../queries/runs'
import type { WorklistEntry } from '../../core/worklist/entry'
import { plural } from '../ui/format'
import { useCrate } from './use-crate'
import { tell, tellError } from '../ui/notify'
import { prepareItem, proposeStep, type Ask } from '../workers/bench-client'
import type { FindingMessage } from '../workers/messages'

export interface BenchJobs {
  prepare: () => void
  addStep: (step: string, parameters?: Record<string, unknown>) => void
  mend: (finding: FindingMessage) => void
  stop: () => void
}

/** The long jobs that end in a changed worklist: preparing, adding and mending. */
export function useBenchJobs(item: CrateItem): BenchJobs {
  const { crate, game, send } = useCrate()
  const id = runId(crate.id, item.id)

  const job = (title: string, work: (ask: Ask) => Promise<void>): void =>
    void doForItem(id, title, work).catch(tellError)

  const addStep = (step: string, parameters: Record<string, unknown> = {}): void =>
    job('Looking what is needed', async (ask) => {
      const { entries, at } = await proposeStep(item, game, step, parameters, ask)
      await send({ do: 'add-steps', item: item.id, entries, at })
    })

  return {
    addStep,
    prepare: () =>
      job('Preparing', async (ask) => {
        const worklist = await prepareItem(item, game, ask)
        if (await send({ do: 'set-worklist', item: item.id, worklist })) tell(preparedSentence(worklist))
      }),
    mend: (finding) => {
      if (finding.mend) addStep(finding.mend.step, finding.mend.parameters)
    },
    stop: () => endWork(id),
  }
}

/** What preparing did: what was proposed, and what a person had decided and was left alone. */
function preparedSentence(worklist: readonly WorklistEntry[]): string {
  const decided = worklist.filter(({ byHand }) => byHand === true).length
  const proposed = worklist.length - decided
  if (worklist.length === 0) return 'The game would take it as it is.'
  const kept =
    decided === 0 ? '' : ` ${plural(decided, 'step')} that you set ${decided === 1 ? 'stays' : 'stay'} as before.`
  return `${plural(proposed, 'step')} ${proposed === 1 ? 'was' : 'were'} proposed, each with its reason. Open one to change it.${kept}`
}
