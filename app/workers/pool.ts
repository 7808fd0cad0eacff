import type * as Comlink from 'comlink'
import { spawn, stoppedError, type Spawned } from './spawn'

/** What the pool has to know of a piece of work. */
export interface Job {
  /** Jobs about one thing run one after the other, in the worker that was at it last: it has its states open. */
  about: string
  /**
   * What somebody waits for in front of the screen goes before what only fills a list, and a worker is always left for
   * it.
   */
  urgent: boolean
  /** Ends the job: one that waits never starts; one that runs is asked to stop, and nobody waits for it any more. */
  signal?: AbortSignal
}

/** A worker that can be asked to end its present job at its next pause. */
interface Stoppable {
  stop: () => void
}

interface Waiting<T> extends Job {
  start: (spawned: Spawned<T>) => Promise<unknown>
  refuse: (reason: unknown) => void
  /** Done once when the job came to an end, whichever. */
  release: () => void
}

interface Slot<T> {
  spawned: Spawned<T> | null
  job: Waiting<T> | null
  lastAbout: string | null
  /** Ends its worker when it has rested for long. */
  rest: ReturnType<typeof setTimeout> | undefined
}

/** How long a worker that was asked to stop may go on before it is ended and replaced. */
const PATIENCE_MILLISECONDS = 800

/** How long a worker may rest before it is ended with all that it holds open; the last one of the pool stays. */
const REST_MILLISECONDS = 30_000

/**
 * As many workers as `size`, each started when it is first needed and replaced when it has died or does not listen.
 * @param create makes a worker; the bundler needs `new Worker(new URL(…))` at the place of the call
 */
export function workerPool<T extends Stoppable>(create: () => Worker, size: number) {
  const slots: Slot<T>[] = Array.from({ length: size }, () => ({
    spawned: null,
    job: null,
    lastAbout: null,
    rest: undefined,
  }))
  const waiting: Waiting<T>[] = []

  const fill = (): void => {
    for (let next = takeNext(); next; next = takeNext()) void begin(next.slot, next.job)
  }

  /** The job that goes next and the slot for it; what is at hand about the same thing counts, then any that is free. */
  function takeNext(): { slot: Slot<T>; job: Waiting<T> } | null {
    const free = slots.filter(({ job }) => job === null)
    if (free.length === 0) return null
    const busy = new Set(slots.flatMap(({ job }) => (job ? [job.about] : [])))
    const leftForUrgent = size > 1 && free.length === 1
    const possible = waiting.filter(({ about, urgent }) => !busy.has(about) && (urgent || !leftForUrgent))
    const job = possible.find(({ urgent }) => urgent) ?? possible.at(0)
    if (!job) return null
    waiting.splice(waiting.indexOf(job), 1)
    const slot =
      free.find(({ lastAbout }) => lastAbout === job.about) ??
      free.find(({ spawned, lastAbout }) => spawned !== null && lastAbout === null) ??
      free.find(({ spawned }) => spawned === null) ??
      free[0]
    return { slot, job }
  }

  function endRested(slot: Slot<T>): void {
    if (slot.job !== null || slots.filter(({ spawned }) => spawned?.isOver() === false).length < 2) return
    slot.spawned?.end()
    Object.assign(slot, { spawned: null, lastAbout: null })
  }

  async function begin(slot: Slot<T>, job: Waiting<T>): Promise<void> {
    slot.job = job
    slot.lastAbout = job.about
    clearTimeout(slot.rest)
    // One that died between two jobs is not given the next.
    if (slot.spawned === null || slot.spawned.isOver()) slot.spawned = spawn<T>(create)
    const { spawned } = slot
    const end = (): void => spawned.end()
    let patience: ReturnType<typeof setTimeout> | undefined
    const askToStop = (): void => {
      void (spawned.api as Comlink.Remote<Stoppable>).stop()
      patience = setTimeout(end, PATIENCE_MILLISECONDS)
    }
    job.signal?.addEventListener('abort', askToStop, { once: true })
    await job.start(spawned)
    clearTimeout(patience)
    job.signal?.removeEventListener('abort', askToStop)
    job.release()
    slot.job = null
    slot.rest = setTimeout(() => endRested(slot), REST_MILLISECONDS)
    fill()
  }

  return {
    /**
     * Runs a job when a worker is free for it.
     * @throws StoppedError when its signal ends it; PlainError when its worker dies
     */
    run<R>(job: Job, work: (api: Comlink.Remote<T>) => Promise<R>): Promise<R> {
      return new Promise<R>((resolve, reject) => {
        const { signal } = job
        if (signal?.aborted) return reject(stoppedError())
        const letGo = (): void => {
          const at = waiting.indexOf(entry)
          if (at >= 0) waiting.splice(at, 1)
          reject(stoppedError())
        }
        const entry: Waiting<T> = {
          ...job,
          refuse: reject,
          release: () => signal?.removeEventListener('abort', letGo),
          start: ({ api, over }) => Promise.race([work(api), over]).then(resolve, reject),
        }
        signal?.addEventListener('abort', letGo, { once: true })
        waiting.push(entry)
        fill()
      })
    },

    /** Ends all workers and whatever they do or would have done. */
    end(): void {
      for (const job of waiting.splice(0)) job.refuse(stoppedError())
      for (const slot of slots) slot.spawned?.end()
    },
  }
}
