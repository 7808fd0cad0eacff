import { availableParallelism } from 'node:os'
import { Worker } from 'node:worker_threads'
import { z } from 'zod'
import type { BroughtGame } from '../core/crate/brought-game.ts'
import { PlainError } from '../core/support/plain-error.ts'
import { itemJobs, type ItemJob, type JobAnswers } from './item-jobs.ts'

/** Where work on items is done, here or in workers. */
export interface ItemWorkers {
  /**
   * Does a piece of work when there is room for it.
   * @param onProgress share of this piece, 0 to 1, and what is done just now
   * @throws PlainError when it cannot be done
   */
  run: <J extends ItemJob>(
    job: J,
    onProgress?: (fraction: number, doing: string) => void,
  ) => Promise<JobAnswers[J['do']]>
  close: () => Promise<void>
}

const answerSchema = z.object({
  answer: z.unknown().optional(),
  progress: z.object({ title: z.string(), fraction: z.number(), doing: z.string() }).optional(),
  fault: z.object({ what: z.string(), where: z.string(), mend: z.string() }).optional(),
})

interface Waiting {
  job: ItemJob
  onProgress: (fraction: number, doing: string) => void
  resolve: (answer: unknown) => void
  reject: (error: Error) => void
}

interface Hand {
  worker: Worker
  at: Waiting | null
  /** File of the item that it was at last: it has its states open. */
  lastMain: string | null
}

const mainOf = (job: ItemJob): string => (job.do === 'prepare' ? job.planned.main : job.named.item.main)

/** More workers than this seldom help, and each holds an item in memory. */
const MOST_WORKERS = 8

/**
 * As many workers as the machine has cores, or as there are items; for one item none: it is done here.
 * @example
 *   const workers = itemWorkers(game, items.length)
 *   try { … await workers.run({ do: 'pack', named, sources }) … } finally { await workers.close() }
 */
export function itemWorkers(game: BroughtGame, items: number): ItemWorkers {
  const count = Math.min(items, availableParallelism(), MOST_WORKERS)
  if (count < 2) {
    const work = itemJobs(game)
    return {
      run: (job, onProgress) => work(job, ({ title, fraction, doing }) => onProgress?.(fraction, `${title} ${doing}`)),
      close: async () => undefined,
    }
  }
  const hands: Hand[] = []
  const waiting: Waiting[] = []

  const fill = (): void => {
    for (const next of [...waiting]) {
      const free = hands.filter(({ at }) => at === null)
      const known = free.find(({ lastMain }) => lastMain === mainOf(next.job))
      const hand = known ?? (hands.length < count ? begin() : free[0])
      if (!hand) return
      waiting.splice(waiting.indexOf(next), 1)
      hand.at = next
      hand.lastMain = mainOf(next.job)
      hand.worker.postMessage({ job: next.job })
    }
  }

  const begin = (): Hand => {
    // The command line begins the worker as it begins itself: compiled where it can be, else from the sources.
    const worker = new Worker(new URL('./worker.mjs', import.meta.url), { workerData: game })
    const hand: Hand = { worker, at: null, lastMain: null }
    const done = (): void => {
      hand.at = null
      fill()
    }
    worker.on('message', (message: unknown) => {
      const { answer, progress, fault } = answerSchema.parse(message)
      if (progress) return hand.at?.onProgress(progress.fraction, `${progress.title} ${progress.doing}`.trim())
      if (fault) hand.at?.reject(new PlainError(fault.what, fault.where, fault.mend))
      else hand.at?.resolve(answer)
      done()
    })
    worker.on('error', (error) => {
      hands.splice(hands.indexOf(hand), 1)
      hand.at?.reject(
        new PlainError(`it could not be worked on (${error.message})`, mainOf(hand.at.job), 'Try it by itself.'),
      )
      fill()
    })
    hands.push(hand)
    return hand
  }

  return {
    run: (job, onProgress = () => undefined) =>
      new Promise<never>((resolve, reject) => {
        waiting.push({ job, onProgress, resolve: resolve as (answer: unknown) => void, reject })
        fill()
      }),
    close: async () => {
      await Promise.all(hands.map(({ worker }) => worker.terminate()))
    },
  }
}
