import { create } from 'zustand'
import type { Command, SingleCommand } from '../../core/crate/commands'
import type { CrateItem } from '../../core/crate/schema'
import { plainMessage } from '../../core/support/plain-error'
import { latestItem, sourceBytes } from '../queries/crate-runs'
import { doForItem, endWork, runId } from '../queries/runs'
import { tell, tellError } from '../ui/notify'
import { plural } from '../ui/format'
import type { Ask } from '../workers/bench-client'

/** Something that is done for many items of a crate at once. */
export interface ManyJob {
  crateId: string
  title: string
  of: number
  done: number
  stop: () => void
  /** Items that the modder stopped one by one. */
  letGo: Set<string>
}

/** Ends whatever is under way for one item, and does not begin it again. */
export function stopOne(crateId: string, item: string): void {
  useManyJob.getState().job?.letGo.add(item)
  endWork(runId(crateId, item))
}

/** What is under way for many items; one such thing at a time. */
export const useManyJob = create<{ job: ManyJob | null }>(() => ({ job: null }))

/** The first results come soon; then changes come into the crate together, so that many items are not as many saves. */
const FIRST_MILLISECONDS = 200
const TOGETHER_MILLISECONDS = 2000

/** How often an item is begun again that was changed while it was worked on. */
const MOST_ATTEMPTS = 5
const AGAIN_MILLISECONDS = 50

const isStopped = (error: unknown): boolean => error instanceof Error && error.name === 'StoppedError'

interface ManyWork {
  crateId: string
  /** What is done, as it is shown: “Preparing”. */
  title: string
  items: readonly CrateItem[]
  /** What an item comes to; changes of it are kept as soon as there are some. */
  work: (item: CrateItem, ask: Ask) => Promise<SingleCommand[]>
  send: (command: Command) => Promise<boolean>
}

/**
 * Does something for many items on all workers, the smallest first, so that the first results come soon. One that fails
 * holds up no other.
 * @returns how many were done, and what went wrong with the others
 */
export async function doForMany({ crateId, title, items, work, send }: ManyWork): Promise<void> {
  if (useManyJob.getState().job) return tell('Wait until what is under way has ended, or stop it.')
  let stopped = false
  const stop = (): void => {
    stopped = true
    for (const { id } of items) endWork(runId(crateId, id))
  }
  const letGo = new Set<string>()
  useManyJob.setState({ job: { crateId, title, of: items.length, done: 0, stop, letGo } })
  const failed: string[] = []
  const gathered = gatherer(send)
  const one = async (item: CrateItem): Promise<void> => {
    try {
      const commands = await untilDone(item)
      if (!stopped && commands.length > 0) gathered.add(commands)
    } catch (error) {
      if (!isStopped(error)) failed.push(`${item.name}: ${plainMessage(error)}`)
    }
    useManyJob.setState(({ job }) => ({ job: job && { ...job, done: job.done + 1 } }))
  }
  /** An item that was changed meanwhile has its work ended: it is begun again with what it is now. */
  const untilDone = async (item: CrateItem): Promise<SingleCommand[]> => {
    for (let attempt = 1; ; attempt++) {
      try {
        const now = (attempt > 1 && latestItem(crateId, item.id)) || item
        return await doForItem(runId(crateId, item.id), title, (ask) => work(now, { ...ask, urgent: false }))
      } catch (error) {
        const wanted = !stopped && !letGo.has(item.id)
        if (!isStopped(error) || !wanted || attempt === MOST_ATTEMPTS) throw error
        await new Promise((resolve) => setTimeout(resolve, AGAIN_MILLISECONDS))
      }
    }
  }
  try {
    const begun: Promise<void>[] = []
    for (const item of items.toSorted((a, b) => sourceBytes(a) - sourceBytes(b))) {
      // All of them at once would hold the page up: each has its progress shown.
      if (begun.length % BEGUN_AT_ONCE === BEGUN_AT_ONCE - 1) await new Promise((resolve) => setTimeout(resolve, 0))
      if (stopped) break
      begun.push(one(item))
    }
    await Promise.all(begun)
    await gathered.rest()
  } finally {
    useManyJob.setState({ job: null })
  }
  if (failed.length > 0)
    tellError(
      new Error(
        `${plural(failed.length, 'item')} of ${items.length} did not work. ` +
          `${failed.slice(0, 3).join(' ')}${failed.length > 3 ? ' …' : ''}`,
      ),
    )
  if (stopped) tell('Stopped. What was finished is kept.')
}

const BEGUN_AT_ONCE = 4

/** Sends changes a few at a time, one message after the other; where one of them is refused, the others are kept. */
function gatherer(send: ManyWork['send']) {
  let waiting: SingleCommand[] = []
  let timer: ReturnType<typeof setTimeout> | undefined
  let sending: Promise<unknown> = Promise.resolve()
  let wait = FIRST_MILLISECONDS
  const flush = (): void => {
    clearTimeout(timer)
    timer = undefined
    const commands = waiting
    waiting = []
    if (commands.length > 0) sending = sending.then(() => send({ do: 'several', commands }))
  }
  return {
    add(commands: readonly SingleCommand[]): void {
      waiting.push(...commands)
      timer ??= setTimeout(flush, wait)
      wait = TOGETHER_MILLISECONDS
    },
    async rest(): Promise<void> {
      flush()
      await sending
    },
  }
}
