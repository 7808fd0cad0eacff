import * as Comlink from 'comlink'
import { PlainError } from '../../core/document/plain-error'

/** A worker with its typed face, that can be ended at any time. */
export interface Spawned<T> {
  api: Comlink.Remote<T>
  /** Rejects when the worker cannot be loaded or dies. */
  died: Promise<never>
  end: () => void
}

/**
 * Starts a worker. Comlink waits for ever for one that never loads, so each call is raced against `died`.
 * @param create makes the worker; the bundler needs `new Worker(new URL(…))` at the place of the call
 */
export function spawn<T>(create: () => Worker): Spawned<T> {
  const worker = create()
  const died = new Promise<never>((_, reject) => {
    const fail = (reason: string): void => reject(new PlainError(`the work ended early (${reason})`, 'background worker', 'Try again; what was finished is kept.'))
    worker.addEventListener('error', (event) => fail(event.message || 'it could not be loaded'))
    worker.addEventListener('messageerror', () => fail('a message could not be read'))
  })
  // Nobody may be listening when a worker dies between two calls.
  died.catch(() => undefined)
  return { api: Comlink.wrap<T>(worker), died, end: () => worker.terminate() }
}

/** A worker that is started on first use, and anew after it was ended or has died. */
export function lazyWorker<T>(create: () => Worker) {
  let current: Spawned<T> | null = null
  return {
    /** Runs a call in the worker; a worker that died is replaced on the next call. */
    async call<R>(job: (api: Comlink.Remote<T>) => Promise<R>): Promise<R> {
      const spawned = (current ??= spawn<T>(create))
      try {
        return await Promise.race([job(spawned.api), spawned.died])
      } catch (error) {
        if (error instanceof PlainError && error.where === 'background worker') {
          spawned.end()
          if (current === spawned) current = null
        }
        throw error
      }
    },
    /** Ends the worker at once, whatever it does. */
    end(): void {
      current?.end()
      current = null
    },
  }
}
