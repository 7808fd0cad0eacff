import { screen, within } from '@testing-library/react'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { CrateItem } from '../../core/crate/schema'
import type { BenchJobs } from '../crate/use-bench-jobs'
import { runId, useProgresses, type ItemRun } from '../queries/runs'
import { crateOf, entryOf, itemOf, showInCrate } from '../test-support/in-crate'
import type { StepSettings } from '../workers/field-messages'
import type { Evaluation, StepInfo } from '../workers/messages'
import { resetYardView, useYardView } from '../yard/yard-view'
import { Belt } from './belt'
import { StepCard } from './step-card'

const asked = vi.hoisted(() => ({ settings: null as unknown, worthwhile: null as string[] | null }))
// What a worker would be asked for.
vi.mock('../queries/item-queries', () => ({
  useStepSettings: () => asked.settings,
  useWorthwhileSteps: () => asked.worthwhile,
}))

const stepInfo = (id: string, stage: StepInfo['stage'], title: string): StepInfo =>
  ({ id, stage, title, purpose: `What ${title} is for.` }) as StepInfo
const steps = [
  stepInfo('weld', 'mesh', 'Weld'),
  stepInfo('fill', 'mesh', 'Fill holes'),
  stepInfo('size-maps', 'surface', 'Size maps'),
]
const done = (entry: string, headline: string, more: object = {}) => ({
  entry,
  state: 'done' as const,
  reused: false,
  record: { key: entry, headline, details: ['One detail.'], changed: true, milliseconds: 12.4, triangles: 9, ...more },
})
const runOf = (outcomes: Evaluation['outcomes'], state: ItemRun['state'] = 'done'): ItemRun =>
  ({ state, evaluation: { outcomes, steps } }) as unknown as ItemRun

const jobsOf = () => ({
  prepare: vi.fn(),
  addStep: vi.fn(() => Promise.resolve('step-9')),
  putStep: vi.fn(),
  mend: vi.fn(),
  answer: vi.fn(),
  stop: vi.fn(),
})
const gate = itemOf('Gate', {
  worklist: [entryOf('step-1', 'weld'), entryOf('step-2', 'size-maps'), { ...entryOf('step-3', 'weld'), on: false }],
})
const button = (name: string | RegExp): HTMLElement => screen.getByRole('button', { name })

beforeEach(() => {
  resetYardView()
  asked.settings = null
  asked.worthwhile = null
  useProgresses.setState({ runs: {}, jobs: {} })
})

describe('the belt', () => {
  async function shown(item: CrateItem, run: ItemRun | undefined, opened: string | null = null) {
    const jobs = jobsOf()
    const onOpen = vi.fn()
    const page = await showInCrate(
      <Belt item={item} run={run} stage="mesh" opened={opened} onOpen={onOpen} jobs={jobs as BenchJobs} />,
      crateOf(item),
    )
    return { ...page, jobs, onOpen }
  }
  const slip = (name: RegExp): HTMLElement =>
    within(screen.getByRole('list', { name: 'Stages of the worklist' })).getByRole('button', { name })

  it('offers to prepare where there is no step yet, and says what that does', async () => {
    const { user, jobs } = await shown(itemOf('Gate'), undefined)
    expect(screen.getByText(/lays out every step that is needed/)).toBeDefined()
    await user.click(button('Prepare for me'))
    expect(jobs.prepare).toHaveBeenCalledOnce()
  })

  it('shows each step with what it did, under its stage', async () => {
    await shown(gate, runOf([done('step-1', '−51,631'), { entry: 'step-2', state: 'failed', message: 'No room.' }]))
    expect(slip(/Weld.*−51,631.*1$/)).toBeDefined()
    expect(slip(/Size maps.*■ failed.*2$/)).toBeDefined()
    expect(slip(/Weld.*off.*3$/)).toBeDefined()
    const captions = [...screen.getByRole('list', { name: 'Stages of the worklist' }).children].map(
      (group) => group.querySelector('span')?.textContent,
    )
    expect(captions).toEqual(['Mesh', 'Surface', 'Mesh'])
  })

  it('says of a step that does not apply that it does not', async () => {
    await shown(gate, runOf([done('step-1', 'nothing', { doesNotApply: 'No clip.' })]))
    expect(slip(/▲ does not apply/)).toBeDefined()
  })

  it('says waiting of what was not run yet, and running of what is', async () => {
    useProgresses.setState({
      runs: { [runId('otterby', 'gate')]: { entry: 'step-2', title: 'Size maps', fraction: 0.5, doing: 'stone' } },
      jobs: {},
    })
    const { user, jobs } = await shown(gate, runOf([]))
    expect(slip(/Weld.*waiting.*1$/)).toBeDefined()
    expect(slip(/Size maps.*running…/)).toBeDefined()
    expect(screen.getByRole('progressbar', { name: 'Size maps, of the steps' }).getAttribute('aria-valuenow')).toBe(
      '50',
    )
    await user.click(button('Stop'))
    expect(jobs.stop).toHaveBeenCalledOnce()
  })

  it('opens a step, and closes the one that is open', async () => {
    const { user, onOpen } = await shown(gate, runOf([]), 'step-2')
    await user.click(slip(/Weld.*1$/))
    await user.click(slip(/Size maps/))
    expect(onOpen.mock.calls).toEqual([['step-1'], [null]])
  })

  it('shows a step that this version does not know by its name', async () => {
    await shown(itemOf('Gate', { worklist: [entryOf('step-1', 'from-later')] }), runOf([]))
    expect(slip(/from-later/)).toBeDefined()
    expect(screen.getByText('Unknown')).toBeDefined()
  })

  it('prepares anew, or goes on where it was stopped', async () => {
    const { user, jobs } = await shown(gate, runOf([]))
    await user.click(button('Prepare anew'))
    expect(jobs.prepare).toHaveBeenCalledOnce()
  })

  it('lets one run again what was stopped', async () => {
    await shown(gate, runOf([], 'stopped'))
    expect(button('Run again')).toBeDefined()
    expect(screen.queryByRole('button', { name: 'Prepare anew' })).toBeNull()
  })

  it('finds a step by what it is for, marks those that would do something, and opens the one that is added', async () => {
    asked.worthwhile = ['fill']
    const { user, jobs, onOpen } = await shown(gate, runOf([]))
    await user.click(button('Add a step'))
    expect(await screen.findByText(/^1 would do something here/)).toBeDefined()
    const options = (): string[] => screen.getAllByRole('option').map(({ textContent }) => textContent)
    expect(options()[0]).toContain('Weld')
    expect(options().find((text) => text.startsWith('Fill holes'))).toContain('would do something here')
    await user.type(screen.getByRole('combobox', { name: 'Search the steps' }), 'size')
    expect(options()).toHaveLength(1)
    await user.click(screen.getByRole('option', { name: /Size maps/ }))
    expect(jobs.addStep.mock.calls).toEqual([['size-maps']])
    await vi.waitFor(() => expect(onOpen.mock.calls).toEqual([['step-9']]))
  })

  it('says so when no step is called like what was typed', async () => {
    const { user } = await shown(gate, runOf([]))
    await user.click(button('Add a step'))
    await user.type(await screen.findByRole('combobox', { name: 'Search the steps' }), 'zzz')
    expect(screen.getByText('No step says so. Try another word.')).toBeDefined()
  })
})

describe('the card of a step', () => {
  const settings: StepSettings = {
    parts: [],
    fields: [
      { type: 'toggle', key: 'hold', label: 'Hold seams' },
      {
        type: 'number',
        key: 'reach',
        label: 'Reach',
        unit: 'spans',
        least: 0,
        most: 9,
        step: 1,
        when: { key: 'hold', is: [true] },
      },
      { type: 'points', key: 'points', label: 'Places', count: 2, unit: 'spans' },
    ],
  }
  async function shown(outcome?: Evaluation['outcomes'][number], parameters = { hold: true, reach: 2, points: [] }) {
    const hands = { onChange: vi.fn(), onSwitch: vi.fn(), onMove: vi.fn(), onRemove: vi.fn(), onClose: vi.fn() }
    const entry = entryOf('step-1', 'weld', parameters)
    const page = await showInCrate(
      <StepCard entry={entry} info={steps[0]} outcome={outcome} item={gate} position={1} count={3} {...hands} />,
      crateOf(gate),
    )
    return { ...page, ...hands }
  }

  it('says what is read while its settings are not there yet', async () => {
    await shown()
    expect(screen.getByText('Reading what the step is given …')).toBeDefined()
  })

  it('tells what it is for, and what it did in which time', async () => {
    asked.settings = settings
    await shown(done('step-1', '−51,631'))
    const card = screen.getByRole('dialog', { name: 'Weld' })
    expect(card.textContent).toContain('What Weld is for.')
    expect(card.textContent).toContain('What it did, in 12 ms')
    expect(card.textContent).toContain('One detail.')
  })

  it('tells why it failed', async () => {
    asked.settings = settings
    await shown({ entry: 'step-1', state: 'failed', message: 'Weld: nothing would be left.' })
    expect(screen.getByText('Weld: nothing would be left.')).toBeDefined()
  })

  it('changes one setting and leaves the others', async () => {
    asked.settings = settings
    const { user, onChange } = await shown()
    await user.click(screen.getByRole('switch', { name: 'Hold seams' }))
    expect(onChange.mock.calls).toEqual([[{ hold: false, reach: 2, points: [] }]])
  })

  it('shows a setting only where it counts', async () => {
    asked.settings = settings
    await shown(undefined, { hold: false, reach: 2, points: [] })
    expect(screen.queryByRole('textbox', { name: 'Reach' })).toBeNull()
  })

  it('keeps to the setting that waits for clicks', async () => {
    asked.settings = settings
    const { user } = await shown()
    await user.click(button('Click two points'))
    expect(screen.queryByRole('switch', { name: 'Hold seams' })).toBeNull()
    expect(useYardView.getState().pick).toMatchObject({ entry: 'step-1', key: 'points' })
  })

  it('is switched off, moved, removed and closed', async () => {
    asked.settings = settings
    const { user, onSwitch, onMove, onRemove, onClose } = await shown()
    await user.click(screen.getByRole('switch', { name: 'Use this step' }))
    expect(onSwitch.mock.calls).toEqual([[false]])
    await user.click(button('Move earlier'))
    await user.click(button('Move later'))
    expect(onMove.mock.calls).toEqual([[0], [2]])
    await user.click(button('Remove the step'))
    expect(onRemove).toHaveBeenCalledOnce()
    await user.keyboard('{Escape}')
    await user.click(button('Close the card'))
    expect(onClose).toHaveBeenCalledTimes(2)
  })
})
