import type * as Comlink from 'comlink'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { workerPool } from './pool'

interface Endpoint {
  stop: () => void
}

/** A worker that answers nothing by itself: the jobs of these tests are promises that the test settles. */
class SilentWorker extends EventTarget {
  static made: SilentWorker[] = []
  terminated = false
  asked: unknown[] = []
  constructor() {
    super()
    SilentWorker.made.push(this)
    // As every worker does where there are no locks.
    queueMicrotask(() => this.dispatchEvent(Object.assign(new Event('message'), { data: { holds: null } })))
  }
  postMessage(message: unknown): void {
    this.asked.push(message)
  }
  terminate(): void {
    this.terminated = true
  }
}

const pool = (size: number) => workerPool<Endpoint>(() => new SilentWorker() as unknown as Worker, size)
const settled = async (): Promise<void> => {
  for (let turn = 0; turn < 20; turn++) await Promise.resolve()
}

/** A job that runs until the test ends it. */
function job() {
  let finish: () => void = () => undefined
  const work = vi.fn<(api: Comlink.Remote<Endpoint>) => Promise<string>>(
    () => new Promise((resolve) => (finish = () => resolve('done'))),
  )
  return { work, finish: () => finish() }
}

beforeEach(() => {
  SilentWorker.made = []
  vi.useFakeTimers()
})
afterEach(() => vi.useRealTimers())

describe('a pool of workers', () => {
  it('runs as many jobs at once as it has workers, and starts none before it is needed', async () => {
    const workers = pool(3)
    const jobs = ['a', 'b', 'c', 'd'].map((about) => ({ about, ...job() }))
    expect(SilentWorker.made).toHaveLength(0)
    const answers = jobs.map(({ about, work }) => workers.run({ about, urgent: true }, work))
    expect(jobs.map(({ work }) => work.mock.calls.length)).toEqual([1, 1, 1, 0])
    jobs[1].finish()
    expect(await answers[1]).toBe('done')
    await settled()
    expect(jobs[3].work).toHaveBeenCalledOnce()
    expect(SilentWorker.made).toHaveLength(3)
  })

  it('takes what is urgent first, and leaves it a worker', async () => {
    const workers = pool(2)
    const [slow, alsoSlow, urgent] = [job(), job(), job()]
    void workers.run({ about: 'a', urgent: false }, slow.work)
    void workers.run({ about: 'b', urgent: false }, alsoSlow.work)
    expect(alsoSlow.work).not.toHaveBeenCalled()
    void workers.run({ about: 'c', urgent: true }, urgent.work)
    expect(urgent.work).toHaveBeenCalledOnce()
    slow.finish()
    await settled()
    // The urgent one is still at work, and the other worker is free for what comes next.
    expect(alsoSlow.work).not.toHaveBeenCalled()
    urgent.finish()
    await settled()
    expect(alsoSlow.work).toHaveBeenCalledOnce()
  })

  it('does all work with one worker where there is one', async () => {
    const workers = pool(1)
    const [first, second] = [job(), job()]
    void workers.run({ about: 'a', urgent: false }, first.work)
    void workers.run({ about: 'b', urgent: false }, second.work)
    first.finish()
    await settled()
    expect(second.work).toHaveBeenCalledOnce()
  })

  it('never runs two jobs about one thing at once, and keeps to the worker that was at it', async () => {
    const workers = pool(2)
    const [first, second, other] = [job(), job(), job()]
    void workers.run({ about: 'gate', urgent: true }, first.work)
    void workers.run({ about: 'gate', urgent: true }, second.work)
    expect(second.work).not.toHaveBeenCalled()
    void workers.run({ about: 'bell', urgent: true }, other.work)
    first.finish()
    other.finish()
    await settled()
    expect(second.work.mock.calls[0][0]).toBe(first.work.mock.calls[0][0])
  })

  it('gives control back at once when a job is ended, and its worker when that has paused', async () => {
    const workers = pool(1)
    const [long, next] = [job(), job()]
    const stop = new AbortController()
    const ended = workers.run({ about: 'gate', urgent: true, signal: stop.signal }, long.work)
    void workers.run({ about: 'gate', urgent: true }, next.work)
    stop.abort()
    await expect(ended).rejects.toMatchObject({ name: 'StoppedError' })
    expect(SilentWorker.made[0].asked).toContainEqual(expect.objectContaining({ path: ['stop'] }))
    expect(next.work).not.toHaveBeenCalled()
    long.finish()
    await settled()
    expect(next.work).toHaveBeenCalledOnce()
    expect(SilentWorker.made).toHaveLength(1)
    await vi.advanceTimersByTimeAsync(5000)
    expect(SilentWorker.made[0].terminated).toBe(false)
  })

  it('replaces a worker that does not listen', async () => {
    const workers = pool(1)
    const [deaf, next] = [job(), job()]
    const stop = new AbortController()
    workers.run({ about: 'gate', urgent: true, signal: stop.signal }, deaf.work).catch(() => undefined)
    void workers.run({ about: 'gate', urgent: true }, next.work)
    stop.abort()
    await vi.advanceTimersByTimeAsync(1600)
    expect(SilentWorker.made[0].terminated).toBe(true)
    expect(next.work).toHaveBeenCalledOnce()
    expect(SilentWorker.made).toHaveLength(2)
  })

  it('ends workers that have rested for long, and keeps the last', async () => {
    const workers = pool(3)
    const jobs = ['a', 'b', 'c'].map((about) => ({ about, ...job() }))
    for (const { about, work } of jobs) void workers.run({ about, urgent: true }, work)
    for (const { finish } of jobs) finish()
    await vi.advanceTimersByTimeAsync(29_000)
    expect(SilentWorker.made.map(({ terminated }) => terminated)).toEqual([false, false, false])
    await vi.advanceTimersByTimeAsync(2000)
    expect(SilentWorker.made.filter(({ terminated }) => terminated)).toHaveLength(2)
    const next = job()
    const answer = workers.run({ about: 'a', urgent: true }, next.work)
    next.finish()
    expect(await answer).toBe('done')
  })

  it('never starts a job that was ended while it waited', async () => {
    const workers = pool(1)
    const [first, second] = [job(), job()]
    const stop = new AbortController()
    void workers.run({ about: 'a', urgent: true }, first.work)
    const ended = workers.run({ about: 'b', urgent: true, signal: stop.signal }, second.work)
    stop.abort()
    await expect(ended).rejects.toMatchObject({ name: 'StoppedError' })
    first.finish()
    await settled()
    expect(second.work).not.toHaveBeenCalled()
    await expect(workers.run({ about: 'b', urgent: true, signal: stop.signal }, second.work)).rejects.toThrow(/Stopped/)
  })

  it('gives a sentence for a worker that dies at work, and none to the one after a worker that died at rest', async () => {
    const workers = pool(1)
    const die = () =>
      SilentWorker.made.at(-1)?.dispatchEvent(Object.assign(new Event('error'), { message: 'no memory' }))
    const [first, second, third] = [job(), job(), job()]
    const dying = workers.run({ about: 'a', urgent: true }, first.work)
    die()
    await expect(dying).rejects.toThrow(/ended early \(no memory\).*Try again/)
    const fine = workers.run({ about: 'a', urgent: true }, second.work)
    second.finish()
    expect(await fine).toBe('done')
    await settled()
    die()
    await settled()
    const after = workers.run({ about: 'a', urgent: true }, third.work)
    third.finish()
    expect(await after).toBe('done')
    expect(SilentWorker.made).toHaveLength(3)
  })
})
