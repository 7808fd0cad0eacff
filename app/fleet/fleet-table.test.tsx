import { screen, waitFor, within } from '@testing-library/react'
import { useState } from 'react'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { CrateItem } from '../../core/crate/schema'
import { runId, useProgresses } from '../queries/runs'
import { crateOf, entryOf, itemOf, rulebook, showInCrate } from '../test-support/in-crate'
import { FleetTable } from './fleet-table'
import { rowOf, type FleetSort, type RowRun } from './fleet-rows'
import { PresetsDialog } from './presets-dialog'

const asked = vi.hoisted(() => ({ stopped: [] as string[], again: [] as string[], saved: [] as string[] }))
vi.mock('../crate/item-picture', () => ({ ItemPicture: () => <span data-testid="picture" /> }))
vi.mock('../crate/many-jobs', () => ({ stopOne: (_crate: string, item: string) => asked.stopped.push(item) }))
vi.mock('../queries/runs', async (original) => ({
  ...(await original<object>()),
  requestAgain: (_crate: string, item: CrateItem) => asked.again.push(item.id),
}))
vi.mock('../ui/download', () => ({
  download: (bytes: Uint8Array) => asked.saved.push(new TextDecoder().decode(bytes)),
}))
vi.mock('@tanstack/react-virtual', () => ({
  useVirtualizer: ({ count }: { count: number }) => ({
    getVirtualItems: () =>
      Array.from({ length: count }, (_, index) => ({ index, key: index, start: 0, end: 0, size: 61 })),
    getTotalSize: () => count * 61,
    measureElement: () => undefined,
    options: { scrollMargin: 0 },
  }),
}))

const finding = (severity: 'blocks' | 'risky' | 'note') => ({
  rule: severity,
  severity,
  stage: 'mesh',
  title: severity,
  where: severity,
  place: { parts: [], bounds: null, spots: [], texture: null },
  value: '2',
  limit: '1',
  message: `It is ${severity}.`,
  why: 'So it is.',
  mend: null,
})
const runWith = (findings: object[], state: RowRun['state'] = 'done', message: string | null = null): RowRun =>
  ({
    state,
    message,
    together: [],
    evaluation: {
      findings,
      gauges: [
        { id: 'triangles', label: 'Triangles', stage: 'mesh', value: 9000, limit: 12_000, least: 0, unit: 'count' },
        {
          id: 'texture-memory',
          label: 'Texture memory',
          stage: 'surface',
          value: 3 * 1024 * 1024,
          limit: 8 * 1024 * 1024,
          least: 0,
          unit: 'bytes',
        },
      ],
    },
  }) as unknown as RowRun

const gate = itemOf('Gate', { worklist: [entryOf('a', 'weld'), entryOf('b', 'clean-names')] })
const bell = itemOf('Bell')
const hat = itemOf('Hat')

/** The table of some items, as somebody chooses and sorts them. */
async function table(runs: Record<string, RowRun | undefined>, items = [gate, bell, hat]) {
  const sorts: FleetSort[] = []
  const chosen: [string, boolean, boolean][] = []
  function Kept() {
    const [sort, setSort] = useState<FleetSort>({ by: null, descending: false })
    const [selected, setSelected] = useState<ReadonlySet<string>>(new Set())
    return (
      <FleetTable
        rows={items.map((item) => rowOf(item, runs[item.id], false))}
        sort={sort}
        onSort={(next) => {
          sorts.push(next)
          setSort(next)
        }}
        selected={selected}
        onSelect={(item, on, upTo) => {
          chosen.push([item, on, upTo])
          setSelected(new Set(on ? [...selected, item] : [...selected].filter((each) => each !== item)))
        }}
        onSelectAll={(on) => setSelected(new Set(on ? items.map(({ id }) => id) : []))}
      />
    )
  }
  return { ...(await showInCrate(<Kept />, crateOf(...items))), sorts, chosen }
}
const cells = (name: string): HTMLElement =>
  screen.getByRole('checkbox', { name: `Choose ${name}` }).closest('tr') as HTMLElement

beforeEach(() => {
  useProgresses.setState({ runs: {}, jobs: {} })
  Object.assign(asked, { stopped: [], again: [], saved: [] })
})

describe('the table of a crate’s items', () => {
  it('tells of each its steps, gauges beside their limits, and what was found', async () => {
    await table({
      gate: runWith([finding('blocks'), finding('risky'), finding('note'), finding('note')]),
      bell: runWith([]),
    })
    expect(within(cells('Gate')).getByText('2 steps')).toBeDefined()
    expect(within(cells('Gate')).getByText('9,000 / 12,000')).toBeDefined()
    expect(within(cells('Gate')).getByText('3.0 / 8.0 MB')).toBeDefined()
    expect(cells('Gate').textContent).toContain('1 block, 1 risky, 2 notes')
    expect(within(cells('Bell')).getByText('not prepared')).toBeDefined()
    expect(cells('Bell').textContent).toContain('clear')
    expect(within(cells('Hat')).getByText('not run')).toBeDefined()
  })

  it('counts what was waived apart', async () => {
    const waived = { ...gate, waivers: [{ rule: 'blocks', where: 'blocks', reason: 'It is meant.' }] }
    await table({ gate: runWith([finding('blocks')]) }, [waived])
    expect(cells('Gate').textContent).toContain('clear, 1 waived')
  })

  it('shows how far one is that runs, and stops it', async () => {
    useProgresses.setState({
      runs: {
        [runId('otterby', 'gate')]: { entry: '', title: 'Weld', fraction: 0.42, doing: '' },
        [runId('otterby', 'bell')]: { entry: '', title: '', fraction: 0, doing: '' },
      },
    })
    const { user } = await table({})
    expect(within(cells('Gate')).getByText('42 %')).toBeDefined()
    expect(within(cells('Bell')).getByText('in the queue')).toBeDefined()
    await user.click(screen.getByRole('button', { name: 'Stop Gate' }))
    expect(asked.stopped).toEqual(['gate'])
  })

  it('says why one did not run, and runs it again', async () => {
    const { user } = await table({ gate: runWith([], 'failed', 'Its source is gone.'), bell: runWith([], 'stopped') })
    expect(within(cells('Gate')).getByText('Its source is gone.')).toBeDefined()
    expect(within(cells('Bell')).getByText('stopped')).toBeDefined()
    await user.click(screen.getByRole('button', { name: 'Run Bell again' }))
    expect(asked.again).toEqual(['bell'])
  })

  it('changes the kind of one, and removes one, each in one change', async () => {
    const { user, commands } = await table({})
    await user.selectOptions(screen.getByLabelText('Kind of Bell'), rulebook.kinds[2].id)
    await user.click(screen.getByRole('button', { name: 'Remove Hat' }))
    await waitFor(() =>
      expect(commands()).toEqual([
        { do: 'set-kind', item: 'bell', kind: rulebook.kinds[2].id },
        { do: 'remove-item', item: 'hat' },
      ]),
    )
  })

  it('keeps a kind that the game does not have until another is chosen', async () => {
    await table({}, [itemOf('Gate', { kind: 'airship' })])
    expect(screen.getByLabelText('Kind of Gate')).toHaveProperty('value', 'airship')
    expect(screen.getByRole('option', { name: 'airship (not in this game)' })).toBeDefined()
  })

  it('is sorted by its heads, once more the other way', async () => {
    const { user, sorts } = await table({})
    await user.click(screen.getByRole('button', { name: 'Findings' }))
    expect(screen.getByRole('columnheader', { name: 'Findings' }).getAttribute('aria-sort')).not.toBe('none')
    await user.click(screen.getByRole('button', { name: 'Findings' }))
    expect(sorts.map(({ by }) => by)).toEqual(['findings', 'findings'])
    expect(sorts[0].descending).not.toBe(sorts[1].descending)
    expect(screen.queryByRole('button', { name: 'Entry' })).toBeNull()
  })

  it('chooses one, a range with Shift, and all of them', async () => {
    const { user, chosen } = await table({})
    const all = screen.getByRole('checkbox', { name: 'Choose all that are shown' })
    await user.click(screen.getByRole('checkbox', { name: 'Choose Gate' }))
    expect(all).toHaveProperty('indeterminate', true)
    await user.keyboard('{Shift>}')
    await user.click(screen.getByRole('checkbox', { name: 'Choose Hat' }))
    await user.keyboard('{/Shift}')
    expect(chosen).toEqual([
      ['gate', true, false],
      ['hat', true, true],
    ])
    await user.click(all)
    expect(screen.getByRole('checkbox', { name: 'Choose Bell' })).toHaveProperty('checked', true)
    expect(all).toHaveProperty('indeterminate', false)
  })

  it('leads to an item and to its entry', async () => {
    await table({})
    const links = within(cells('Gate')).getAllByRole('link')
    expect(links.map((link) => link.getAttribute('href'))).toEqual([
      '/crate/otterby/item/gate',
      '/crate/otterby/item/gate/entry',
    ])
  })
})

describe('presets for files by their names', () => {
  const preset = { title: 'Posts', files: ['post_*'], worklist: null }
  const dialog = async (presets: object[] = []) => {
    const closed = vi.fn()
    const crate = { ...crateOf(gate), presets } as ReturnType<typeof crateOf>
    return { ...(await showInCrate(<PresetsDialog added={[]} onClose={closed} />, crate)), closed }
  }

  it('say what files become, in which unit, and are kept together', async () => {
    const { user, commands, closed } = await dialog()
    expect(screen.getByText(/^None yet\./)).toBeDefined()
    await user.click(screen.getByRole('button', { name: 'Add a preset' }))
    const fields = screen.getByRole('group', { name: 'Preset 1' })
    await user.clear(within(fields).getByLabelText('Name'))
    await user.type(within(fields).getByLabelText('Name'), 'Posts')
    await user.clear(within(fields).getByLabelText('Files'))
    await user.type(within(fields).getByLabelText('Files'), 'post_* art/*.glb')
    await user.selectOptions(within(fields).getByLabelText('become'), rulebook.kinds[0].id)
    await user.selectOptions(within(fields).getByLabelText('one unit is'), 'cm')
    await user.selectOptions(within(fields).getByLabelText('up is'), '+z')
    await user.click(within(fields).getByLabelText('an item of each thing in it'))
    await user.click(screen.getByRole('button', { name: 'Keep' }))
    await waitFor(() => expect(commands()).toHaveLength(1))
    expect(commands()[0]).toEqual({
      do: 'set-presets',
      presets: [
        {
          title: 'Posts',
          files: ['post_*', 'art/*.glb'],
          worklist: null,
          kind: rulebook.kinds[0].id,
          unit: 'cm',
          up: '+z',
          split: true,
        },
      ],
    })
    await waitFor(() => expect(closed).toHaveBeenCalledOnce())
  })

  it('are taken out, and saved as a file as they stand', async () => {
    const { user } = await dialog([preset, { ...preset, title: 'Gates', files: ['gate_??.glb'] }])
    await user.click(screen.getByRole('button', { name: 'Remove preset Posts' }))
    await user.click(screen.getByRole('button', { name: 'Save as a file' }))
    expect(JSON.parse(asked.saved[0])).toMatchObject([{ title: 'Gates', files: ['gate_??.glb'] }])
  })

  it('with a worklist of their own can be prepared instead', async () => {
    const { user } = await dialog([{ ...preset, worklist: [entryOf('a', 'weld')] }])
    expect(screen.getByText(/1 step of its own/)).toBeDefined()
    await user.click(screen.getByRole('button', { name: 'Prepare instead' }))
    expect(screen.getByText('prepared for what they are')).toBeDefined()
  })
})
