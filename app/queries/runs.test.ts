import type { Game } from '../../core/game/game'
import { rulebookById } from '../../core/game/load'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { plainItem as item } from '../../core/test-support/crate-items'
import { evaluateItem } from '../workers/bench-client'
import type { Ask } from '../workers/bench-client'
import type { Evaluation, Progress, Scenes } from '../workers/messages'
import {
  askForItem,
  doForItem,
  endWork,
  keepEvaluation,
  requestAgain,
  requestRun,
  runId,
  runKey,
  useProgresses,
  useRuns,
} from './runs'

vi.mock('../workers/bench-client', () => ({ evaluateItem: vi.fn() }))

const game: Game = { rulebook: rulebookById('tarn-and-tiller'), stock: null }

const evaluation = (key: string): Evaluation => ({
  key,
  outcomes: [],
  findings: [],
  gauges: [],
  questions: [],
  paths: [],
  facts: { name: 'item', kind: 'prop', unique: {}, things: [], events: [], names: [] },
  steps: [],
  milliseconds: 1,
  source: {
    triangles: 0,
    parts: [],
    others: [],
    references: [],
    units: { metresPerUnit: 1, from: 'declared' },
    sizes: [],
    axes: { up: '+y', forward: '+z', from: 'declared' },
    clips: [],
    bones: 0,
    oddities: [],
  },
})
const nothing = {
  parts: [],
  places: [],
  links: [],
  materials: [],
  pictures: [],
  looks: [],
  motion: null,
  bend: null,
  lights: [],
  turns: null,
  fit: [],
}
const scenes = { source: nothing, result: nothing } as Scenes
const run = (id = 'gate') => useRuns.getState().runs[runId('landing', id)]
const settled = async (): Promise<void> => {
  for (let turn = 0; turn < 20; turn++) await Promise.resolve()
}
const evaluate = vi.mocked(evaluateItem)

/** What each evaluation was given to be ended by. */
const signals: (AbortSignal | undefined)[] = []

/** An evaluation that is answered when the test says so. */
function pending() {
  let answer: (key: string) => void = () => undefined
  let fail: (error: Error) => void = () => undefined
  let report: (progress: Progress) => void = () => undefined
  evaluate.mockImplementationOnce((_item, _rulebook, withScenes, { onProgress, signal }) => {
    report = onProgress
    signals.push(signal)
    return new Promise((resolve, reject) => {
      answer = (key) => resolve({ evaluation: evaluation(key), scenes: withScenes ? scenes : null })
      fail = reject
    })
  })
  return {
    answer: (key: string) => answer(key),
    fail: (error: Error) => fail(error),
    report: (progress: Progress) => report(progress),
  }
}

beforeEach(async () => {
  await settled()
  useRuns.setState({ runs: {} })
  useProgresses.setState({ runs: {}, jobs: {} })
  signals.length = 0
  evaluate.mockReset()
})

describe('asking for an item’s result', () => {
  it('runs it once, however often it is asked for', async () => {
    const answer = pending()
    requestRun('landing', item(), game, true)
    requestRun('landing', item(), game, true)
    await settled()
    expect(run().state).toBe('running')
    answer.answer('a')
    await settled()
    expect(run()).toMatchObject({ state: 'done', evaluation: { key: 'a' }, scenes })
    requestRun('landing', item(), game, true)
    expect(evaluate).toHaveBeenCalledTimes(1)
  })

  it('runs it again when the crate’s rulebook changes', () => {
    const changed = { ...game, rulebook: { ...game.rulebook, version: '9.9' } }
    expect(runKey(item(), changed)).not.toBe(runKey(item(), game))
    expect(runKey(item(), { ...game, rulebook: { ...game.rulebook } })).toBe(runKey(item(), game))
  })

  it('runs it again for a changed worklist, not for a changed name or waiver', async () => {
    expect(runKey(item({ name: 'Other', waivers: [{ rule: 'a', where: 'b', reason: 'c' }] }), game)).toBe(
      runKey(item(), game),
    )
    const entry = { id: 'step-1', step: 'weld', on: true, parameters: { distance: 1 }, reason: 'why' }
    expect(runKey(item({ worklist: [entry] }), game)).not.toBe(runKey(item(), game))
    expect(runKey(item({ worklist: [{ ...entry, reason: 'other' }] }), game)).toBe(
      runKey(item({ worklist: [entry] }), game),
    )
    expect(runKey(item({ worklist: [{ ...entry, on: false }] }), game)).not.toBe(
      runKey(item({ worklist: [entry] }), game),
    )
  })

  it('brings the picture even when the numbers alone are being worked out just now', async () => {
    const first = pending()
    requestRun('landing', item(), game, false)
    await settled()
    const second = pending()
    requestRun('landing', item(), game, true)
    requestRun('landing', item(), game, true)
    expect(signals[0]?.aborted).toBe(false)
    first.answer('a')
    await settled()
    second.answer('a')
    await settled()
    expect(run()).toMatchObject({ state: 'done', scenes })
    expect(evaluate).toHaveBeenCalledTimes(2)
  })

  it('asks for the picture when only the numbers are there', async () => {
    const first = pending()
    requestRun('landing', item(), game, false)
    await settled()
    first.answer('a')
    await settled()
    expect(run().scenes).toBeNull()
    const second = pending()
    requestRun('landing', item(), game, true)
    await settled()
    second.answer('a')
    await settled()
    expect(run().scenes).toBe(scenes)
  })

  it('ends a run that is no longer wanted, and goes on showing what there was', async () => {
    const first = pending()
    requestRun('landing', item(), game, true)
    await settled()
    const second = pending()
    requestRun('landing', item({ kind: 'loose' }), game, true)
    expect(signals.map((signal) => signal?.aborted)).toEqual([true, false])
    first.fail(Object.assign(new Error('Stopped.'), { name: 'StoppedError' }))
    await settled()
    expect(run().state).toBe('running')
    second.answer('b')
    await settled()
    expect(run()).toMatchObject({ state: 'done', evaluation: { key: 'b' } })
  })

  it('says of each whether somebody looks at it', async () => {
    const answers = [pending(), pending()]
    requestRun('landing', item(), game, true)
    requestRun('landing', item({ id: 'bell' }), game, false)
    await settled()
    expect(evaluate.mock.calls.map(([, , , ask]) => ask.urgent)).toEqual([true, false])
    for (const answer of answers) answer.answer('b')
    await settled()
    expect(run('bell').evaluation?.key).toBe('b')
  })

  it('keeps the picture of one item only', async () => {
    for (const id of ['gate', 'bell']) {
      const answer = pending()
      requestRun('landing', item({ id }), game, true)
      await settled()
      answer.answer(id)
      await settled()
    }
    expect(run('gate').scenes).toBeNull()
    expect(run('gate').evaluation?.key).toBe('gate')
    expect(run('bell').scenes).toBe(scenes)
  })
})

describe('a run that does not end well', () => {
  it('says why, and can be asked for again', async () => {
    const first = pending()
    requestRun('landing', item(), game, true)
    await settled()
    first.fail(new Error('gate.obj: this source is missing from the crate. Bring the file again.'))
    await settled()
    expect(run()).toMatchObject({
      state: 'failed',
      message: expect.stringContaining('Bring the file again'),
    })
    const second = pending()
    requestAgain('landing', item(), game, true)
    await settled()
    second.answer('a')
    await settled()
    expect(run()).toMatchObject({ state: 'done', message: null })
  })

  it('is told apart when it was stopped', async () => {
    const first = pending()
    requestRun('landing', item(), game, true)
    await settled()
    first.fail(Object.assign(new Error('Stopped. What was finished is kept.'), { name: 'StoppedError' }))
    await settled()
    expect(run()).toMatchObject({ state: 'stopped', message: 'Stopped. What was finished is kept.' })
  })

  it('is ended by Stop, and so is whatever else is under way for that item alone', async () => {
    pending()
    pending()
    requestRun('landing', item(), game, true)
    requestRun('landing', item({ id: 'bell' }), game, false)
    const question = vi.fn<(ask: Ask) => Promise<string>>(() => new Promise(() => undefined))
    void askForItem(runId('landing', 'gate'), question)
    endWork(runId('landing', 'gate'))
    expect(signals.map((signal) => signal?.aborted)).toEqual([true, false])
    expect(question.mock.calls[0][0].signal?.aborted).toBe(true)
  })
})

describe('a question about an item', () => {
  it('is still answered when the item is changed meanwhile, and a job is not', async () => {
    pending()
    const id = runId('landing', 'gate')
    const question = vi.fn<(ask: Ask) => Promise<string>>(() => new Promise(() => undefined))
    const job = vi.fn<(ask: Ask) => Promise<string>>(() => new Promise(() => undefined))
    void askForItem(id, question)
    void doForItem(id, 'Preparing', job)
    requestRun('landing', item({ kind: 'loose' }), game, true)
    expect(question.mock.calls[0][0].signal?.aborted).toBe(false)
    expect(job.mock.calls[0][0].signal?.aborted).toBe(true)
  })
})

describe('a job for an item', () => {
  const id = runId('landing', 'gate')
  const shown = () => useProgresses.getState().jobs[id]

  it('is shown from its beginning to its end, and its failure is the caller’s', async () => {
    const job = doForItem(id, 'Preparing', async ({ onProgress }) => {
      expect(shown()).toMatchObject({ title: 'Preparing', fraction: 0 })
      onProgress({ entry: '', title: 'Weld', fraction: 0.5, doing: '' })
      expect(shown()).toMatchObject({ title: 'Weld' })
      throw new Error('job failed')
    })
    await expect(job).rejects.toThrow('job failed')
    expect(shown()).toBeUndefined()
  })

  it('ends when nobody wants its answer any more', async () => {
    const unwanted = new AbortController()
    const asked = vi.fn<(ask: Ask) => Promise<string>>(async () => 'answer')
    expect(await askForItem(id, asked, unwanted.signal)).toBe('answer')
    expect(shown()).toBeUndefined()
    unwanted.abort()
    expect(asked.mock.calls[0][0].signal?.aborted).toBe(true)
  })
})

describe('progress', () => {
  it('is shown while it runs and gone afterwards', async () => {
    const answer = pending()
    requestRun('landing', item(), game, true)
    await settled()
    answer.report({ entry: 'step-1', title: 'Weld', fraction: 0.4, doing: 'arch' })
    expect(useProgresses.getState().runs[runId('landing', 'gate')]).toEqual({
      entry: 'step-1',
      title: 'Weld',
      fraction: 0.4,
      doing: 'arch',
    })
    answer.answer('a')
    await settled()
    expect(useProgresses.getState().runs[runId('landing', 'gate')]).toBeUndefined()
  })
})

describe('what preparing has told', () => {
  it('is kept as the item’s result, and is not run again', async () => {
    const prepared = item()
    keepEvaluation('landing', prepared, game, evaluation('told'))
    requestRun('landing', prepared, game, false)
    await settled()
    expect(evaluate).not.toHaveBeenCalled()
    expect(run().evaluation).toMatchObject({ key: 'told' })
  })

  it('is not written over by an older run that ends after it, and scenes are still asked for', async () => {
    const old = pending()
    requestRun('landing', item(), game, false)
    await settled()
    const prepared = { ...item(), kind: 'mover' }
    keepEvaluation('landing', prepared, game, evaluation('told'))
    old.answer('old')
    await settled()
    expect(run().evaluation).toMatchObject({ key: 'told' })
    pending()
    requestRun('landing', prepared, game, true)
    await settled()
    expect(evaluate.mock.calls.at(-1)?.[2]).toBe(true)
  })
})
