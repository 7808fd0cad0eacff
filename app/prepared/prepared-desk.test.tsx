import { screen, waitFor, within } from '@testing-library/react'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { CrateItem } from '../../core/crate/schema'
import type { JudgedFinding } from '../../core/crate/waivers'
import type { Question } from '../../core/questions/question'
import type { BenchJobs } from '../crate/use-bench-jobs'
import { keepRounds } from '../crate/rounds'
import { runId, useProgresses, type ItemRun } from '../queries/runs'
import { crateOf, entryOf, itemOf, showInCrate } from '../test-support/in-crate'
import { PreparedDesk } from './prepared-desk'
import { useBeginPreparing } from './use-begin-preparing'

const asked = vi.hoisted(() => ({ packed: [] as string[], tried: [] as string[] }))
vi.mock('../crate/use-packing', () => ({
  usePacking: () => ({
    progress: null,
    stop: () => undefined,
    pack: async (then: (tell: () => void) => Promise<void>) => {
      asked.packed.push('packed')
      await then(() => undefined)
    },
  }),
}))
vi.mock('../storage/packs', () => ({ getPackFacts: async () => ({ sha256: 'a'.repeat(64) }) }))
vi.mock('../workers/clients', () => ({
  runTrial: async (crateId: string) => {
    asked.tried.push(crateId)
    return { loads: true, log: [], items: [], scenes: [] }
  },
}))

const question = (id: string, answered = false): Question => ({
  id,
  title: `What about ${id}?`,
  why: 'The file does not say it.',
  decides: [],
  answers: ['yes', 'no'].map((each) => ({ id: each, label: each, note: '', picture: null, change: {} })),
  chosen: 'yes',
  answered,
})
const record = (headline: string, changed = true) => ({
  key: headline,
  headline,
  details: [],
  changed,
  milliseconds: 1,
  triangles: 10,
})
const steps = [
  { id: 'weld', title: 'Weld', stage: 'mesh', purpose: '' },
  { id: 'reduce', title: 'Reduce', stage: 'mesh', purpose: '' },
  { id: 'size-maps', title: 'Size maps', stage: 'surface', purpose: '' },
]
const gate: CrateItem = itemOf('Gate', {
  worklist: [entryOf('a', 'weld'), entryOf('b', 'reduce'), { ...entryOf('c', 'size-maps'), on: false }],
})
const run = (questions: Question[], more: Partial<ItemRun> = {}): ItemRun =>
  ({
    state: 'done',
    together: [],
    scenes: null,
    evaluation: {
      questions,
      steps,
      source: { axes: { up: '+y', forward: '+z' } },
      outcomes: [
        { entry: 'a', state: 'done', record: record('−212'), reused: false },
        { entry: 'b', state: 'done', record: record('38,096 → 11,800'), reused: false },
        { entry: 'c', state: 'off' },
      ],
    },
    ...more,
  }) as unknown as ItemRun
const finding = (severity: 'blocks' | 'risky' | 'note', message: string): JudgedFinding =>
  ({ severity, message, waived: null, rule: severity, where: 'leaf' }) as unknown as JudgedFinding

async function desk(shown: ItemRun | undefined, findings: JudgedFinding[] = [], item = gate) {
  const answered: [string, string][] = []
  const jobs = {
    answer: (of: Question, answer: { id: string }) => answered.push([of.id, answer.id]),
  } as unknown as BenchJobs
  const page = await showInCrate(
    <PreparedDesk item={item} run={shown} findings={findings} jobs={jobs} otherwise={<p>The list of findings</p>} />,
    crateOf(item),
  )
  return { ...page, answered }
}
const region = (name: string): HTMLElement => screen.getByRole('region', { name })

beforeEach(() => {
  useProgresses.setState({ runs: {}, jobs: {} })
  keepRounds(runId('otterby', 'gate'), [])
  Object.assign(asked, { packed: [], tried: [] })
})

describe('what preparing came to', () => {
  it('is told in a line a stage, with the number of steps that are on', async () => {
    await desk(run([]))
    const done = region('What was done')
    expect(within(done).getByText('What was done, in 2 steps')).toBeDefined()
    expect(within(done).getByText('Weld −212, Reduce 38,096 → 11,800')).toBeDefined()
    expect(within(done).queryByText('Surface')).toBeNull()
  })

  it('tells what was given up, three at most, and how often it was checked again', async () => {
    keepRounds(runId('otterby', 'gate'), ['Slivers: “Clean” was tried and stays; nothing is left.'])
    await desk(
      run([question('unit')]),
      [1, 2, 3, 4].map((at) => finding('note', `Given up ${at}.`)),
    )
    const done = region('What was done')
    expect(within(done).getAllByText(/^Given up/)).toHaveLength(3)
    expect(within(done).getByText('Checked again 1 time')).toBeDefined()
  })

  const idle = (): ItemRun => run([], { evaluation: { ...run([]).evaluation, outcomes: [] } as never })

  it('says that nothing had to be changed', async () => {
    await desk(idle())
    expect(screen.getByText('Nothing had to be changed.')).toBeDefined()
  })

  it('says that nothing was done yet, and where to begin', async () => {
    await desk(idle(), [], itemOf('Gate'))
    expect(screen.getByText('Nothing yet.')).toBeDefined()
    expect(screen.getByText('Prepare it on the belt above.')).toBeDefined()
  })

  it.each([
    [[finding('blocks', 'a'), finding('risky', 'b')], 'The loader would refuse it', '1 block · 1 risky · 0 notes'],
    [[finding('risky', 'a'), finding('note', 'b')], 'It loads, with complaints', '0 block · 1 risky · 1 note'],
    [[], 'The game would take it', '0 block · 0 risky · 0 notes'],
  ])('says how it stands', async (findings, verdict, counts) => {
    await desk(run([question('unit')]), findings)
    expect(screen.getByRole('status').textContent).toContain(verdict)
    expect(screen.getByRole('status').textContent).toContain(counts)
  })

  it('counts no finding that was waived', async () => {
    await desk(run([question('unit')]), [{ ...finding('blocks', 'a'), waived: 'It is meant.' } as JudgedFinding])
    expect(screen.getByRole('status').textContent).toContain('The game would take it')
  })
})

describe('what is still asked', () => {
  it('says how many are open, and goes through them', async () => {
    const { user } = await desk(run([question('unit'), question('up', true), question('kind')]))
    const still = region('Still asked')
    expect(within(still).getByText('Still asked: 2. Answered or not, it goes on.')).toBeDefined()
    expect(within(still).getByText('What about unit?')).toBeDefined()
    await user.click(within(still).getByRole('button', { name: /What about kind\?$/ }))
    expect(within(still).getByText('What about kind?')).toBeDefined()
  })

  it('takes an answer', async () => {
    const { user, answered } = await desk(run([question('unit')]))
    await user.click(screen.getByRole('radio', { name: /^no/ }))
    expect(answered).toEqual([['unit', 'no']])
  })

  it('leaves its place to the findings where nothing is asked', async () => {
    await desk(run([]))
    expect(screen.getByText('The list of findings')).toBeDefined()
    expect(screen.queryByRole('region', { name: 'Still asked' })).toBeNull()
  })

  it('waits while the source is read', async () => {
    await desk(undefined)
    expect(screen.getByText('The source is being read.')).toBeDefined()
    expect(screen.getByText('Being worked out…')).toBeDefined()
    expect(screen.getByRole('button', { name: 'Pack and try it' })).toHaveProperty('disabled', true)
  })
})

describe('going on', () => {
  it('packs, lets the loader read it, and goes to where that is shown', async () => {
    const { user } = await desk(run([]))
    await user.click(screen.getByRole('button', { name: 'Pack and try it' }))
    expect(await screen.findByText('Another page')).toBeDefined()
    expect(asked).toEqual({ packed: ['packed'], tried: ['otterby'] })
  })

  it('waits while something is under way', async () => {
    useProgresses.setState({
      jobs: { [runId('otterby', 'gate')]: { entry: '', title: 'Preparing', fraction: 0.5, doing: 'Weld' } },
    })
    await desk(run([]))
    expect(screen.getByRole('button', { name: 'Pack and try it' })).toHaveProperty('disabled', true)
  })
})

describe('an address that asks for preparing', () => {
  function Begins({ prepare }: { prepare: () => void }) {
    useBeginPreparing(prepare)
    return null
  }

  it('prepares once, and does not when it is loaded again', async () => {
    const prepare = vi.fn()
    await showInCrate(<Begins prepare={prepare} />, crateOf(gate), '?begin=preparing')
    await waitFor(() => expect(prepare).toHaveBeenCalledOnce())
  })

  it('prepares nothing where it does not ask', async () => {
    const prepare = vi.fn()
    await showInCrate(<Begins prepare={prepare} />, crateOf(gate))
    expect(prepare).not.toHaveBeenCalled()
  })
})
