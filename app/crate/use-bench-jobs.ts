import { useNavigate } from 'react-router'
import { applyCommand, type Command, type SingleCommand } from '../../core/crate/commands'
import type { Crate, CrateItem } from '../../core/crate/schema'
import type { Answer, Question } from '../../core/questions/question'
import type { Mend } from '../../core/rules/rule'
import { newEntryId, type WorklistEntry } from '../../core/worklist/entry'
import { mendCommands } from './mend-commands'
import { keepRounds } from './rounds'
import { doForItem, endWork, runId } from '../queries/runs'
import { plural } from '../ui/format'
import { useCrate } from './use-crate'
import { tell, tellError } from '../ui/notify'
import { prepareItem, proposeStep, type Ask } from '../workers/bench-client'

export interface BenchJobs {
  prepare: () => void
  /** Adds a step that the modder chose. @returns the id of its entry; null where it was not kept */
  addStep: (step: string) => Promise<string | null>
  /** Adds a step whose settings are known. */
  putStep: (step: string, parameters?: Record<string, unknown>) => void
  mend: (mend: Mend) => void
  /** Takes an answer and prepares anew with it; the one that was taken already is only confirmed. */
  answer: (question: Question, answer: Answer) => void
  stop: () => void
}

/** Where what preparing came to is shown. */
export const preparedLink = (crate: string, item: string): string =>
  `/crate/${crate}/item/${item}?stage=check&desk=prepared`

/** The long jobs that end in a changed worklist: preparing, answering, adding and mending. */
export function useBenchJobs(item: CrateItem): BenchJobs {
  const { crate, game, send } = useCrate()
  const navigate = useNavigate()
  const id = runId(crate.id, item.id)

  const job = (title: string, work: (ask: Ask) => Promise<void>): Promise<void> =>
    doForItem(id, title, work).catch(tellError)

  const putStep = async (step: string, parameters: Record<string, unknown> = {}): Promise<string | null> => {
    let added: string | null = null
    await job('Looking what is needed', async (ask) => {
      const { entries, at } = await proposeStep(item, game, step, parameters, ask)
      if (await send({ do: 'add-steps', item: item.id, entries, at })) added = newEntryId(item.worklist)
    })
    return added
  }

  /** Prepares the item as the commands leave it; only then they are sent, so that Stop leaves all as it was. */
  const prepare = async (said: readonly Command[], ask: Ask): Promise<void> => {
    const { worklist, rounds } = await prepareItem(afterAll(said), game, ask)
    for (const command of [...said, { do: 'set-worklist', item: item.id, worklist } as const])
      if (!(await send(command))) return
    keepRounds(id, rounds)
    tell(preparedSentence(worklist))
    // Whoever has gone on to something else meanwhile is not called back; a desk that is open stays the same place.
    const here = new URL(window.location.href)
    const atItem = here.pathname === `/crate/${crate.id}/item/${item.id}`
    if (atItem && !here.searchParams.has('desk')) await navigate(preparedLink(crate.id, item.id))
  }

  const afterAll = (said: readonly Command[]): CrateItem =>
    said.reduce<Crate>(applyCommand, crate).items.find((each) => each.id === item.id) ?? item

  const answer = (question: Question, { id: chosen, change }: Answer): void =>
    void job('Preparing', async (ask) => {
      const { step, ...own } = chosen === question.chosen ? {} : change
      const said: Command = { do: 'answer', item: item.id, question: question.id, answer: chosen, change: own }
      if (!step && Object.keys(own).length === 0) await send(said)
      else await prepare([said, ...(step ? [await stepCommand(afterAll([said]), step, ask)] : [])], ask)
    })

  const stepCommand = async (
    from: CrateItem,
    { id: step, parameters }: NonNullable<Answer['change']['step']>,
    ask: Ask,
  ): Promise<SingleCommand> => {
    const present = from.worklist.find((entry) => entry.step === step)
    if (present)
      return {
        do: 'edit-step',
        item: from.id,
        entry: present.id,
        parameters: { ...present.parameters, ...parameters },
      }
    return { do: 'add-steps', item: from.id, ...(await proposeStep(from, game, step, parameters, ask)) }
  }

  const mend = (wanted: Mend): Promise<void> =>
    job('Looking what is needed', async (ask) => {
      for (const command of await mendCommands(item, wanted, game, ask)) await send(command)
    })

  return {
    addStep: putStep,
    putStep: (step, parameters) => void putStep(step, parameters),
    answer,
    prepare: () => void job('Preparing', (ask) => prepare([], ask)),
    mend: (wanted) => void mend(wanted),
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
  return (
    `${plural(proposed, 'step')} ${proposed === 1 ? 'was' : 'were'} proposed, each with its reason. Open one to ` +
    `change it.${kept}`
  )
}
