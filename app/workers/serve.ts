import * as Comlink from 'comlink'
import { z } from 'zod'

/** What a worker says first: the lock that it holds for as long as it lives. */
const aliveSchema = z.object({ holds: z.string().nullable() })

/** How long a worker may take to say that it is there, on a machine that is busy. */
const START_MILLISECONDS = 30_000

/**
 * Offers a worker's functions to the page. A promise that is rejected where nobody waits for it ends the worker with an
 * error, as one that is thrown does; and a lock is held until the worker is gone, so that the page is told of that
 * however it went.
 */
export function serve(endpoint: object): void {
  addEventListener('unhandledrejection', ({ reason }) => {
    setTimeout(() => {
      throw reason instanceof Error ? reason : new Error(String(reason))
    })
  })
  Comlink.expose(endpoint)
  const name = `gentle-crate-worker-${crypto.getRandomValues(new Uint32Array(4)).join('-')}`
  if (navigator.locks)
    void navigator.locks.request(name, () => {
      postMessage({ holds: name })
      return new Promise(() => undefined)
    })
  else postMessage({ holds: null })
}

/**
 * Told when a worker is gone, without a word or with one, or does not begin.
 * @param worker one that calls `serve`
 * @returns a function to call when nobody listens any more
 */
export function whenGone(worker: Worker, tell: (how: string) => void): () => void {
  const begins = setTimeout(() => tell('it did not begin'), START_MILLISECONDS)
  worker.addEventListener('message', ({ data }: MessageEvent<unknown>) => {
    const alive = aliveSchema.safeParse(data)
    if (!alive.success) return
    clearTimeout(begins)
    // The lock is given to the page only when the worker lets it go, which it does by ending.
    if (alive.data.holds !== null)
      void navigator.locks.request(alive.data.holds, () => tell('it stopped without a word')).catch(() => undefined)
  })
  return () => clearTimeout(begins)
}
