import type { CrateItem } from '../../core/crate/schema'
import { inBenchQueue, setJob } from '../crate/runs'
import { useCrate } from '../crate/use-crate'
import { tell, tellError } from '../ui/notify'
import { prepareItem, proposeStep, stopBench } from '../workers/clients'
import type { FindingMessage } from '../workers/messages'

export interface BenchJobs {
  prepare: () => void
  addStep: (step: string, parameters?: Record<string, unknown>) => void
  mend: (finding: FindingMessage) => void
  stop: () => void
}

/** The long jobs that end in a changed worklist: preparing, adding and mending. */
export function useBenchJobs(item: CrateItem): BenchJobs {
  const { game, send } = useCrate()

  const job = async (title: string, work: () => Promise<void>): Promise<void> => {
    setJob({ entry: '', title, fraction: 0, doing: '' })
    try {
      await inBenchQueue(work)
    } catch (error) {
      tellError(error)
    } finally {
      setJob(null)
    }
  }

  const addStep = (step: string, parameters: Record<string, unknown> = {}): void => {
    void job('Looking what is needed', async () => {
      const { entries, at } = await proposeStep(item, game, step, parameters, setJob)
      await send({ do: 'add-steps', item: item.id, entries, at })
    })
  }

  return {
    addStep,
    prepare: () =>
      void job('Preparing', async () => {
        const worklist = await prepareItem(item, game, setJob)
        await send({ do: 'set-worklist', item: item.id, worklist })
        tell(
          worklist.length === 0
            ? 'The game would take it as it is.'
            : `${worklist.length} steps were proposed, each with its reason. Open one to change it.`,
        )
      }),
    mend: (finding) => {
      if (finding.mend) addStep(finding.mend.step, finding.mend.parameters)
    },
    stop: () => void stopBench(),
  }
}
