import { parentPort, workerData } from 'node:worker_threads'
import type { BroughtGame } from '../core/crate/brought-game.ts'
import { PlainError, plainMessage } from '../core/support/plain-error.ts'
import { itemJobs, type ItemJob } from './item-jobs.ts'

/** The other end of `itemWorkers`: one piece of work at a time. */
const work = itemJobs(workerData as BroughtGame)

parentPort?.on('message', ({ job }: { job: ItemJob }) => {
  void work(job, ({ title, fraction, doing }) => parentPort?.postMessage({ progress: { title, fraction, doing } }))
    .then((answer) => parentPort?.postMessage({ answer }))
    .catch((error: unknown) => parentPort?.postMessage({ fault: faultOf(error) }))
})

const faultOf = (error: unknown) =>
  error instanceof PlainError
    ? { what: error.what, where: error.where, mend: error.mend }
    : { what: plainMessage(error), where: 'this item', mend: 'Bring it by itself to see more.' }
