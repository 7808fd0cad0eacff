import * as Comlink from 'comlink'
import { PlainError } from '../../core/support/plain-error'
import { whenGone } from './serve'

/** A worker with its typed face, that can be ended at any time. */
export interface Spawned<T> {
  api: Comlink.Remote<T>
  /** Rejects when the worker cannot be loaded, dies, or is ended. */
  over: Promise<never>
  /** Whether it has died or was ended. */
  isOver: () => boolean
  end: () => void
}

/** What a call gets that was ended: the same name as the runner's own, so that both are told apart from failures. */
export function stoppedError(): Error {
  const error = new Error('Stopped. What was finished is kept.')
  error.name = 'StoppedError'
  return error
}

/**
 * Starts a worker. Comlink waits for ever for one that never loads or was ended, so each call is raced against `over`.
 * @param create makes the worker; the bundler needs `new Worker(new URL(…))` at the place of the call
 */
export function spawn<T>(create: () => Worker): Spawned<T> {
  const worker = create()
  let isOver = false
  let refuse: (reason: Error) => void = () => undefined
  const over = new Promise<never>((_, reject) => {
    refuse = reject
  })
  const finish = (reason: Error): void => {
    isOver = true
    forget()
    refuse(reason)
    // One that has thrown may still be there, with its memory.
    worker.terminate()
  }
  const fail = (reason: string): void =>
    finish(new PlainError(`the work ended early (${reason})`, BACKGROUND, 'Try again; what was finished is kept.'))
  worker.addEventListener('error', (event) => {
    // It is told below; the page itself has not failed.
    event.preventDefault()
    fail(event.message || 'it could not be loaded')
  })
  worker.addEventListener('messageerror', () => fail('a message could not be read'))
  const forget = whenGone(worker, fail)
  // Nobody may be listening when a worker dies between two calls.
  over.catch(() => undefined)
  return {
    api: Comlink.wrap<T>(worker),
    over,
    isOver: () => isOver,
    end: () => finish(stoppedError()),
  }
}

const BACKGROUND = 'background worker'

/** A worker that is started on first use, and anew after it was ended or has died. */
export function lazyWorker<T>(create: () => Worker) {
  let current: Spawned<T> | null = null
  return {
    /** Runs a call in the worker; a worker that died is replaced on the next call. */
    call<R>(job: (api: Comlink.Remote<T>) => Promise<R>): Promise<R> {
      // One that died between two calls is replaced without a word.
      if (current === null || current.isOver()) current = spawn<T>(create)
      return Promise.race([job(current.api), current.over])
    },
    /** Ends the worker at once, whatever it does; calls that wait for it are told that they were stopped. */
    end: (): void => {
      current?.end()
      current = null
    },
  }
}
