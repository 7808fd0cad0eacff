import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Command } from '../../core/crate/commands'
import type { CrateItem } from '../../core/crate/schema'
import { PlainError } from '../../core/support/plain-error'
import { tell, tellError } from '../ui/notify'
import type { Ask } from '../workers/bench-client'
import { doForMany, stopOne, useManyJob } from './many-jobs'

vi.mock('../workers/bench-client', () => ({ evaluateItem: vi.fn() }))
vi.mock('../ui/notify', () => ({ tell: vi.fn(), tellError: vi.fn() }))

const item = (name: string, bytes: number): CrateItem => ({
  id: name,
  name,
  kind: 'prop',
  main: `${name}.glb`,
  sources: [{ path: `${name}.glb`, sha256: 'a'.repeat(64), bytes }],
  reading: { links: {} },
  worklist: [],
  waivers: [],
})
const items = [item('hull', 900), item('bell', 10), item('gate', 300)]
const setKind = (id: string) => ({ do: 'set-kind' as const, item: id, kind: 'mover' })
const sent: Command[] = []
const send = async (command: Command): Promise<boolean> => {
  sent.push(command)
  return true
}
const stoppedNow = (): Error => {
  const stopped = new Error('Stopped.')
  stopped.name = 'StoppedError'
  return stopped
}
const about = { crateId: 'landing', title: 'Preparing', items, send }

beforeEach(() => {
  sent.length = 0
  vi.mocked(tell).mockClear()
  vi.mocked(tellError).mockClear()
})

describe('work on many items', () => {
  it('begins with the smallest, waits for nobody in front of the screen, and keeps changes together', async () => {
    const begun: string[] = []
    const urgent: unknown[] = []
    await doForMany({
      ...about,
      work: async ({ id }, ask) => {
        begun.push(id)
        urgent.push(ask.urgent)
        return [setKind(id)]
      },
    })
    expect(begun).toEqual(['bell', 'gate', 'hull'])
    expect(urgent).toEqual([false, false, false])
    expect(sent).toEqual([{ do: 'several', commands: ['bell', 'gate', 'hull'].map(setKind) }])
    expect(useManyJob.getState().job).toBeNull()
  })

  it('is told how far it is, and there is one such thing at a time', async () => {
    let release: () => void = () => undefined
    const held = new Promise<void>((resolve) => {
      release = resolve
    })
    const work = async ({ id }: CrateItem) => {
      if (id === 'hull') await held
      return []
    }
    const whole = doForMany({ ...about, work })
    await vi.waitFor(() => expect(useManyJob.getState().job).toMatchObject({ title: 'Preparing', done: 2, of: 3 }))
    await doForMany({ ...about, title: 'Mending', work })
    expect(tell).toHaveBeenCalledWith(expect.stringMatching(/under way/))
    release()
    await whole
    expect(sent).toEqual([])
  })

  it('keeps what the others came to where one fails, and says which', async () => {
    await doForMany({
      ...about,
      work: async ({ id }) => {
        if (id === 'gate') throw new PlainError('it is torn', 'gate.glb', 'Bring it again.')
        return [setKind(id)]
      },
    })
    expect(sent).toEqual([{ do: 'several', commands: ['bell', 'hull'].map(setKind) }])
    expect(String(vi.mocked(tellError).mock.calls[0][0])).toMatch(/1 item of 3 did not work.*gate\.glb: it is torn/)
  })

  it('begins again what was ended because the item was changed meanwhile', async () => {
    const tries = new Map<string, number>()
    await doForMany({
      ...about,
      work: async ({ id }) => {
        tries.set(id, (tries.get(id) ?? 0) + 1)
        if (id === 'gate' && tries.get(id) === 1) throw stoppedNow()
        return [setKind(id)]
      },
    })
    expect(tries.get('gate')).toBe(2)
    expect(sent.flatMap((command) => (command.do === 'several' ? command.commands : []))).toHaveLength(3)
  })

  it('does not begin again what the modder stopped by itself', async () => {
    let tries = 0
    const whole = doForMany({
      ...about,
      items: [items[0]],
      work: async (_item, ask) => {
        tries++
        return new Promise<never>((_resolve, reject) => {
          ask.signal?.addEventListener('abort', () => reject(stoppedNow()))
        })
      },
    })
    await vi.waitFor(() => expect(tries).toBe(1))
    stopOne('landing', 'hull')
    await whole
    expect([tries, sent]).toEqual([1, []])
  })

  it('ends for Stop: what is under way is let go, what was finished is kept', async () => {
    const stoppable = (ask: Ask) =>
      new Promise<never>((_resolve, reject) => {
        ask.signal?.addEventListener('abort', () => {
          reject(stoppedNow())
        })
      })
    const whole = doForMany({
      ...about,
      work: async ({ id }, ask) => (id === 'bell' ? [setKind(id)] : stoppable(ask)),
    })
    await vi.waitFor(() => expect(sent).toHaveLength(1), { timeout: 3000 })
    useManyJob.getState().job?.stop()
    await whole
    expect(sent).toEqual([{ do: 'several', commands: [setKind('bell')] }])
    expect(tellError).not.toHaveBeenCalled()
    expect(tell).toHaveBeenCalledWith(expect.stringMatching(/Stopped/))
  })
})
