import { fireEvent, screen, waitFor, within } from '@testing-library/react'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { PathRow } from '../../core/crate/path-row'
import { crateOf, itemOf, showInCrate } from '../test-support/in-crate'
import { PathsScreen } from './paths-screen'

const asked = vi.hoisted(() => ({
  rows: [] as unknown[],
  waiting: 0,
  brought: [] as { path: string }[][],
  told: [] as string[],
}))
vi.mock('../queries/crate-runs', () => ({ requestRuns: () => undefined }))
vi.mock('./use-path-rows', () => ({ usePathRows: () => ({ rows: asked.rows, waiting: asked.waiting }) }))
vi.mock('../workers/clients', () => ({
  bringImages: async (files: { path: string; bytes: Uint8Array }[]) => {
    asked.brought.push(files)
    return files.map(({ path, bytes }, at) => ({ path, sha256: String(at).repeat(64), bytes: bytes.length }))
  },
}))
vi.mock('../ui/notify', () => ({
  tell: (message: string) => asked.told.push(message),
  tellError: (error: Error) => asked.told.push(error.message),
}))
vi.mock('@tanstack/react-virtual', () => ({
  useVirtualizer: ({ count }: { count: number }) => ({
    getVirtualItems: () =>
      Array.from({ length: count }, (_, index) => ({ index, key: index, start: 0, end: 0, size: 45 })),
    getTotalSize: () => count * 45,
    measureElement: () => undefined,
    options: { scrollMargin: 0 },
  }),
}))

const row = (written: string, more: Partial<PathRow> = {}): PathRow =>
  ({
    id: 'gate',
    item: 'Gate',
    sort: 'picture',
    asks: 'oak, colour',
    written,
    found: null,
    stock: null,
    packed: [],
    trouble: null,
    ...more,
  }) as PathRow

const rows = [
  row('gate.glb', { sort: 'mesh', asks: 'the item', found: 'gate.glb', packed: ['items/gate/gate.glb'] }),
  row('D:/art/maps/oak.png', { trouble: 'missing' }),
  row('D:/art/maps/iron.png', { id: 'bell', item: 'Bell', found: 'iron.png', trouble: 'own disk' }),
  row('rope_c.dds', { stock: 'textures/rope_c.dds', packed: [] }),
  row('leaf.001', { sort: 'part', asks: 'part', packed: ['leaf_001'] }),
  row('oak', { sort: 'material', asks: 'material', packed: ['oak'] }),
]
const crate = crateOf(itemOf('Gate'), itemOf('Bell'))
const listed = (): string[] =>
  screen
    .getAllByRole('row')
    .slice(1)
    .flatMap((each) => {
      const [, written] = within(each).queryAllByRole('cell')
      return written ? [written.textContent] : []
    })

beforeEach(() => Object.assign(asked, { rows, waiting: 0, brought: [], told: [] }))

describe('names and paths', () => {
  it('lists files as they were written, found and packed', async () => {
    await showInCrate(<PathsScreen />, crate)
    expect(listed()).toEqual(['gate.glb', 'D:/art/maps/oak.png', 'D:/art/maps/iron.png', 'rope_c.dds'])
    expect(screen.getByText('the same')).toBeDefined()
    expect(screen.getByText('the game’s own')).toBeDefined()
    expect(screen.getByText('items/gate/gate.glb')).toBeDefined()
    expect(screen.getByRole('status').textContent).toBe('4 paths')
  })

  it('lists names of parts and materials, and which are kept', async () => {
    const { user } = await showInCrate(<PathsScreen />, crate)
    await user.selectOptions(screen.getByLabelText('What is listed'), 'names of parts')
    expect(listed()).toEqual(['leaf.001'])
    expect(screen.getByText('renamed')).toBeDefined()
    await user.selectOptions(screen.getByLabelText('What is listed'), 'names of materials')
    expect(screen.getByText('kept')).toBeDefined()
  })

  it('finds by a piece of a path, an item or a pattern', async () => {
    const { user } = await showInCrate(<PathsScreen />, crate)
    const find = screen.getByLabelText('Find a path, item or material')
    await user.type(find, 'iron')
    expect(listed()).toEqual(['D:/art/maps/iron.png'])
    expect(screen.getByRole('status').textContent).toBe('1 of 4 paths')
    await user.clear(find)
    await user.type(find, '*.dds')
    expect(listed()).toEqual(['rope_c.dds'])
    await user.clear(find)
    await user.type(find, 'nothing like it')
    expect(screen.getByText(/^Nothing is like that/)).toBeDefined()
  })

  it('shows what there is to look at, by what is wrong', async () => {
    const { user } = await showInCrate(<PathsScreen />, crate)
    const wrong = screen.getByLabelText('What is wrong')
    expect(
      within(wrong)
        .getAllByRole('option')
        .map(({ textContent }) => textContent),
    ).toEqual(['all of them', 'with something to look at', 'missing (1)', 'on a disk of yours (1)'])
    await user.selectOptions(wrong, 'with something to look at')
    expect(listed()).toEqual(['D:/art/maps/oak.png', 'D:/art/maps/iron.png'])
    await user.selectOptions(wrong, 'missing (1)')
    expect(listed()).toEqual(['D:/art/maps/oak.png'])
    // What is listed anew is listed whole.
    await user.selectOptions(screen.getByLabelText('What is listed'), 'files and names')
    expect(listed()).toHaveLength(6)
  })

  it('says how many items are still read', async () => {
    asked.waiting = 2
    await showInCrate(<PathsScreen />, crate)
    expect(screen.getByRole('status').textContent).toBe('4 paths; 2 items still being read')
  })

  it('leads to the item that asks', async () => {
    await showInCrate(<PathsScreen />, crate)
    expect(screen.getByRole('link', { name: 'Bell' }).getAttribute('href')).toBe(
      '/crate/otterby/item/bell?stage=intake',
    )
  })
})

describe('paths of someone’s disk', () => {
  const pick = (...names: string[]): void => {
    const files = names.map((name) => new File(['png'], name))
    fireEvent.change(screen.getByLabelText('The folder that the pictures lie in'), { target: { files } })
  }

  it('are led to the pictures of a folder, in all items at once', async () => {
    const { commands } = await showInCrate(<PathsScreen />, crate)
    pick('oak.png', 'iron.png', 'unasked.png')
    await waitFor(() => expect(commands()).toHaveLength(1))
    expect(asked.brought[0].map(({ path }) => path).toSorted()).toEqual(['iron.png', 'oak.png'])
    const [command] = commands()
    if (command.do !== 'several') throw new Error('not one change')
    expect(command.commands.filter((each) => each.do === 'link-texture').map((each) => each.item)).toEqual([
      'gate',
      'bell',
    ])
    await waitFor(() => expect(asked.told).toEqual(['2 paths led to the new folder. Undo takes it back.']))
  })

  it('stay where no picture is called alike, and it is said', async () => {
    const { commands } = await showInCrate(<PathsScreen />, crate)
    pick('sea.png')
    await waitFor(() => expect(asked.told[0]).toMatch(/^None of these pictures is called like what lies under D:\//))
    expect(commands()).toEqual([])
    expect(asked.brought).toEqual([])
  })

  it('are not asked for where there are none', async () => {
    asked.rows = [rows[0]]
    await showInCrate(<PathsScreen />, crate)
    expect(screen.queryByLabelText('The folder that the pictures lie in')).toBeNull()
  })
})
