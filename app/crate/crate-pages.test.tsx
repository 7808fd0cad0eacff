import { render, screen, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { CrateItem } from '../../core/crate/schema'
import { runId, useRuns, type ItemRun } from '../queries/runs'
import { CrateKeys } from '../search/crate-keys'
import type { PackedFileFacts, PackFacts } from '../storage/database'
import { crateOf, itemOf, rulebook, showInCrate } from '../test-support/in-crate'
import { CrateBar } from './crate-bar'
import { ItemRail } from './item-rail'
import { PackTreemap } from './pack-treemap'
import { RouteBar } from './route-bar'

const asked = vi.hoisted(() => ({ added: [] as string[], prepared: 0 }))
vi.mock('./item-picture', () => ({ ItemPicture: () => <span data-testid="picture" /> }))
vi.mock('./use-bench-jobs', () => ({
  useBenchJobs: () => ({ addStep: (step: string) => asked.added.push(step), prepare: () => asked.prepared++ }),
}))
vi.mock('@tanstack/react-virtual', () => ({
  useVirtualizer: ({ count, getItemKey }: { count: number; getItemKey: (index: number) => string }) => ({
    getVirtualItems: () =>
      Array.from({ length: count }, (_, index) => ({ index, key: getItemKey(index), start: index * 50, size: 50 })),
    getTotalSize: () => count * 50,
  }),
}))

const finding = (rule: string, severity: 'blocks' | 'risky' | 'note', title: string, stage = 'mesh') => ({
  rule,
  severity,
  stage,
  title,
  where: 'leaf',
  place: { parts: ['leaf'], bounds: null, spots: [], texture: null },
  value: '38,098',
  limit: '12,000',
  message: `${title} on leaf.`,
  why: 'The game draws so many.',
  mend: null,
})
const steps = [
  { id: 'weld', title: 'Weld', purpose: 'Joins corners that stand in one place.', stage: 'mesh' },
  { id: 'unwrap', title: 'Unwrap', purpose: 'Lays UVs out.', stage: 'surface' },
]
function ran(item: CrateItem, findings: object[], state = 'done'): void {
  useRuns.setState(({ runs }) => ({
    runs: {
      ...runs,
      [runId('otterby', item.id)]: {
        state,
        together: [],
        evaluation: state === 'failed' ? null : { findings, steps },
      } as unknown as ItemRun,
    },
  }))
}

const [gate, bell, hat] = [itemOf('Gate'), itemOf('Bell'), itemOf('Hat')]
const crate = crateOf(gate, bell, hat)

beforeEach(() => {
  useRuns.setState({ runs: {} })
  Object.assign(asked, { added: [], prepared: 0 })
})

describe('the head of a crate’s pages', () => {
  it('says what blocks in all items together, an item that cannot run as one', async () => {
    ran(gate, [finding('a', 'blocks', 'Too many triangles'), finding('b', 'risky', 'Slivers')])
    ran(bell, [finding('a', 'blocks', 'Too many triangles')])
    ran(hat, [], 'failed')
    await showInCrate(<CrateBar keys={null} />, crate)
    const pack = screen.getByRole('link', { name: 'Pack — 3 blocks left' })
    expect(pack.getAttribute('href')).toBe('/crate/otterby/pack')
  })

  it('counts no finding that was waived, and says Pack where nothing is left', async () => {
    const waived = { ...gate, waivers: [{ rule: 'a', where: 'leaf', reason: 'It is meant.' }] }
    ran(waived, [finding('a', 'blocks', 'Too many triangles')])
    await showInCrate(<CrateBar keys={null} />, crateOf(waived))
    expect(screen.getByRole('link', { name: 'Pack' })).toBeDefined()
  })

  it('names the crate, its game and when it was kept', async () => {
    await showInCrate(<CrateBar keys={null} />, crate, '', { savedAt: Date.now() - 120_000 })
    expect(screen.getByRole('link', { name: rulebook.title }).getAttribute('href')).toBe('/crate/otterby/rulebook')
    expect(screen.getByRole('status').textContent).toBe('Kept in this browser · 2 min ago')
  })

  it('undoes and redoes where there is something to', async () => {
    const { user, intents } = await showInCrate(<CrateBar keys={null} />, crate, '', { canUndo: true })
    expect(screen.getByRole('button', { name: 'Redo' })).toHaveProperty('disabled', true)
    await user.click(screen.getByRole('button', { name: 'Undo' }))
    await vi.waitFor(() => expect(intents.map(({ intent }) => intent)).toEqual(['undo']))
  })
})

describe('keys of a crate’s pages', () => {
  it('undo and redo in both ways of writing it', async () => {
    const { user, intents } = await showInCrate(<CrateKeys />, crate, '', { canUndo: true, canRedo: true })
    for (const keys of ['{Control>}z{/Control}', '{Control>}{Shift>}z{/Shift}{/Control}', '{Control>}y{/Control}'])
      await user.keyboard(keys)
    await vi.waitFor(() => expect(intents.map(({ intent }) => intent)).toEqual(['undo', 'redo', 'redo']))
  })

  it('do nothing where nothing can be undone, nor where text is typed', async () => {
    const { user, intents } = await showInCrate(
      <>
        <CrateKeys />
        <input aria-label="Name" />
      </>,
      crate,
      '',
      { canRedo: true },
    )
    await user.keyboard('{Control>}z{/Control}')
    await user.click(screen.getByLabelText('Name'))
    await user.keyboard('{Control>}y{/Control}?')
    expect(intents).toEqual([])
    expect(screen.queryByRole('dialog')).toBeNull()
    expect(screen.getByLabelText('Name')).toHaveProperty('value', '?')
  })

  it('are all on a sheet', async () => {
    const { user } = await showInCrate(<CrateKeys />, crate)
    await user.keyboard('{Shift>}?{/Shift}')
    const sheet = await screen.findByRole('dialog', { name: 'Keys' })
    expect(within(sheet).getByText('Ctrl + Z')).toBeDefined()
    expect(within(sheet).getByText('Search items, steps, findings and screens')).toBeDefined()
    await user.click(within(sheet).getByRole('button', { name: 'Close' }))
    expect(screen.queryByRole('dialog')).toBeNull()
  })
})

describe('the search of a crate', () => {
  const open = async (at = '') => {
    ran(gate, [finding('slivers', 'risky', 'Slivers')])
    const shown = await showInCrate(<CrateKeys />, crate, at)
    await shown.user.keyboard('{Control>}k{/Control}')
    await screen.findByPlaceholderText(/^An item, a step/)
    return shown
  }
  const found = (): string[] => screen.getAllByRole('option').map(({ textContent }) => textContent)

  it('finds items and screens by the beginnings of their words, and goes there', async () => {
    const { user } = await open()
    await user.keyboard('be')
    expect(found()).toEqual([`Bell${bell.kind}`])
    await user.keyboard('{Enter}')
    expect(await screen.findByText('Another page')).toBeDefined()
  })

  it('says that nothing is called so', async () => {
    const { user } = await open()
    await user.keyboard('zzz')
    expect(screen.getByText('Nothing is called so here.')).toBeDefined()
  })

  it('offers steps and findings of the item on the bench only', async () => {
    const { user } = await open()
    await user.keyboard('weld')
    expect(screen.queryAllByRole('option')).toEqual([])
  })

  it('adds a step that is found by what it is for', async () => {
    const { user } = await open('/item/gate')
    await user.keyboard('corners')
    expect(found()).toEqual(['WeldJoins corners that stand in one place.'])
    await user.keyboard('{Enter}')
    expect(asked.added).toEqual(['weld'])
    expect(screen.queryByRole('dialog')).toBeNull()
  })

  it('prepares, and leads to the stage of a finding', async () => {
    const { user } = await open('/item/gate')
    await user.keyboard('prepare{Enter}')
    expect(asked.prepared).toBe(1)
    await user.keyboard('{Control>}k{/Control}')
    await screen.findByPlaceholderText(/^An item, a step/)
    await user.keyboard('sliv')
    expect(found()).toEqual(['riskySliversSlivers on leaf.'])
  })
})

describe('the rail of items', () => {
  it('shows each with its worst open finding, and leads to it', async () => {
    ran(gate, [finding('b', 'risky', 'Slivers'), finding('a', 'blocks', 'Too many triangles')])
    ran(bell, [finding('c', 'note', 'Holes')])
    await showInCrate(<ItemRail crate={crate} />, crate)
    const rows = screen.getAllByRole('link').slice(0, 3)
    expect(rows.map((row) => within(row).getByText(/^(?:blocks|risky|note|clear|not run)$/).textContent)).toEqual([
      'blocks',
      'clear',
      'not run',
    ])
    expect(rows[1].getAttribute('href')).toBe('/crate/otterby/item/bell')
    expect(screen.getByText('3')).toBeDefined()
  })
})

describe('the route of stages', () => {
  it('has all nine in order, each a link with its status, one of them where one is', async () => {
    await showInCrate(
      <RouteBar
        current="mesh"
        linkOf={(stage) => `/crate/otterby/item/gate?stage=${stage}`}
        statusOf={(stage) =>
          stage === 'fit' ? { status: 'blocks', text: '2 block' } : { status: 'clear', text: 'clear' }
        }
      />,
      crate,
    )
    const links = within(screen.getByRole('navigation', { name: 'Stages' })).getAllByRole('link')
    expect(links.map((link) => link.querySelector('b')?.textContent)).toEqual([
      'Intake',
      'Fit',
      'Mesh',
      'Surface',
      'Solids',
      'Motion',
      'Check',
      'Pack',
      'Trial',
    ])
    expect(links.filter((link) => link.getAttribute('aria-current') === 'step')).toEqual([links[2]])
    expect(within(links[1]).getByText('blocks')).toBeDefined()
    expect(links[1].getAttribute('href')).toContain('stage=fit')
  })
})

describe('what takes room in a pack', () => {
  const file = (path: string, kibibytes: number, more: Partial<PackedFileFacts> = {}): PackedFileFacts => ({
    path,
    bytes: kibibytes * 1024,
    sort: 'map',
    askedBy: [{ item: 'gate', by: 'the look plain' }],
    ...more,
  })
  const pack = {
    size: 1,
    files: [
      file('items/gate/maps/oak.dds', 1000),
      file('items/gate/gate.glb', 500, { sort: 'mesh' }),
      file('maps/iron.dds', 250, {
        askedBy: [
          { item: 'gate', by: 'a' },
          { item: 'bell', by: 'b' },
        ],
      }),
      file('manifest.json', 1, { sort: 'manifest', askedBy: [] }),
    ],
  } as unknown as PackFacts

  it('is told by item: each, what several share, and the pack’s own', () => {
    render(<PackTreemap pack={pack} size={{ width: 400, height: 300 }} />)
    expect(screen.getByRole('img', { name: /^What takes room/ }).getAttribute('aria-label')).toBe(
      'What takes room: gate 1.5 MB, Shared 250 kB, The pack itself 1 kB',
    )
    expect(screen.getByText('1.7 MB unpacked in 4 files')).toBeDefined()
  })

  it('is told by what it is', async () => {
    render(<PackTreemap pack={pack} size={{ width: 400, height: 300 }} />)
    await userEvent.click(screen.getByRole('button', { name: 'By what it is' }))
    expect(screen.getByRole('img', { name: /^What takes room/ }).getAttribute('aria-label')).toBe(
      'What takes room: Maps 1.2 MB, Meshes 500 kB, Manifest 1 kB',
    )
  })

  it('draws every file, the smallest too, and names none that has no room for it', () => {
    const { container } = render(<PackTreemap pack={pack} size={{ width: 400, height: 300 }} />)
    const areas = [...container.querySelectorAll('rect')]
    expect(areas).toHaveLength(4)
    for (const area of areas)
      expect(Number(area.getAttribute('width')) * Number(area.getAttribute('height'))).toBeGreaterThan(0)
    expect(areas.map((area) => area.querySelector('title')?.textContent)).toContain('manifest.json, 1 kB')
    expect(screen.queryByText('manifest.json')).toBeNull()
  })

  it('holds three thousand files', () => {
    const files = Array.from({ length: 3000 }, (_, at) => file(`items/i${at % 300}/f${at}.dds`, 1 + (at % 7)))
    const { container } = render(<PackTreemap pack={{ ...pack, files }} size={{ width: 400, height: 300 }} />)
    expect(container.querySelectorAll('rect')).toHaveLength(3000)
  })
})
