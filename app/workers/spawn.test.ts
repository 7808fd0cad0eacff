import { describe, expect, it, vi } from 'vitest'
import { PlainError } from '../../core/support/plain-error'
import { lazyWorker } from './spawn'

/** A worker that does nothing until it is told to die. */
class SilentWorker extends EventTarget {
  static made: SilentWorker[] = []
  terminated = false
  constructor() {
    super()
    SilentWorker.made.push(this)
  }
  postMessage(): void {
    // It never answers.
  }
  terminate(): void {
    this.terminated = true
  }
  die(message: string): void {
    this.dispatchEvent(Object.assign(new Event('error'), { message }))
  }
}

function silent() {
  SilentWorker.made = []
  return lazyWorker<{ work: () => Promise<number> }>(() => new SilentWorker() as unknown as Worker)
}
const forEver = (): Promise<never> => new Promise(() => undefined)

describe('a worker', () => {
  it('is started on first use and kept', async () => {
    const worker = silent()
    expect(SilentWorker.made).toHaveLength(0)
    expect(await worker.call(async () => 7)).toBe(7)
    expect(await worker.call(async () => 8)).toBe(8)
    expect(SilentWorker.made).toHaveLength(1)
  })

  it('that is ended lets nobody wait for ever, and is replaced', async () => {
    const worker = silent()
    const waiting = worker.call(forEver)
    worker.end()
    await expect(waiting).rejects.toMatchObject({
      name: 'StoppedError',
      message: 'Stopped. What was finished is kept.',
    })
    expect(SilentWorker.made[0].terminated).toBe(true)
    expect(await worker.call(async () => 1)).toBe(1)
    expect(SilentWorker.made).toHaveLength(2)
  })

  it('that dies gives a sentence, and is replaced', async () => {
    const worker = silent()
    const waiting = worker.call(forEver)
    SilentWorker.made[0].die('out of memory')
    await expect(waiting).rejects.toBeInstanceOf(PlainError)
    await expect(waiting).rejects.toThrow(/ended early \(out of memory\).*Try again/)
    expect(await worker.call(async () => 2)).toBe(2)
    expect(SilentWorker.made).toHaveLength(2)
  })

  it('that cannot be loaded says so instead of hanging', async () => {
    const worker = silent()
    const waiting = worker.call(forEver)
    SilentWorker.made[0].die('')
    await expect(waiting).rejects.toThrow(/could not be loaded/)
  })

  it('passes on what a call throws, and goes on working', async () => {
    const worker = silent()
    await expect(
      worker.call(async () => {
        throw new PlainError('it is cut off', 'a.glb', 'Copy it again.')
      }),
    ).rejects.toThrow(/^a\.glb: it is cut off/)
    expect(await worker.call(async () => 3)).toBe(3)
    expect(SilentWorker.made).toHaveLength(1)
  })

  it('may die between two calls without anyone noticing', async () => {
    const unhandled = vi.fn()
    process.on('unhandledRejection', unhandled)
    const worker = silent()
    await worker.call(async () => 1)
    SilentWorker.made[0].die('gone')
    await new Promise((resolve) => setTimeout(resolve, 5))
    process.off('unhandledRejection', unhandled)
    expect(unhandled).not.toHaveBeenCalled()
    expect(await worker.call(async () => 4)).toBe(4)
    expect(SilentWorker.made).toHaveLength(2)
  })
})
