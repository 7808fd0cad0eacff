import { render, screen, within } from '@testing-library/react'
import { describe, expect, it, vi } from 'vitest'
import type { PackedFileFacts, PackFacts } from '../storage/database'
import { ContentsDialog } from '../overview/contents-dialog'
import { showInCrate } from '../test-support/in-crate'
import { PackChanges, StayedOut } from './pack-changes'
import { PackedFiles } from './packed-files'

describe('what differs from the pack before', () => {
  it('is not told of the first', () => {
    const { container } = render(<PackChanges changes={null} />)
    expect(container.textContent).toContain('No pack of the crate is known before this one.')
  })

  it('is nothing, byte for byte', () => {
    const { container } = render(<PackChanges changes={[]} />)
    expect(container.textContent).toContain('Every file is the same, byte for byte.')
  })

  it('is told file by file, by a mark and a word, with sizes before and after', () => {
    render(
      <PackChanges
        changes={[
          { path: 'items/gate.glb', change: 'other', before: 2048, after: 1024 },
          { path: 'items/new.dds', change: 'new', before: null, after: 1024 },
          { path: 'items/old.dds', change: 'gone', before: 4096, after: null },
        ]}
      />,
    )
    const lines = within(screen.getByRole('list', { name: 'Changed files' })).getAllByRole('listitem')
    expect(lines.map(({ textContent }) => textContent)).toEqual([
      '≠ changeditems/gate.glb2 kB → 1 kB',
      '+ newitems/new.dds1 kB',
      '− goneitems/old.dds4 kB',
    ])
  })
})

describe('what stayed out of a pack', () => {
  it('is not there when nothing did', () => {
    const { container } = render(<StayedOut leftOut={[]} />)
    expect(container.textContent).toBe('')
  })

  it('is told with the item and why', () => {
    render(
      <StayedOut
        leftOut={[
          { what: 'stone_disp.png', item: 'Gate', why: 'the game has no such map' },
          { what: 'sketch.png', item: null, why: 'nothing shows it' },
        ]}
      />,
    )
    const list = screen.getByRole('list', { name: 'What stayed out and why' })
    expect(list.textContent).toContain('stone_disp.png of Gate: the game has no such map')
    expect(list.textContent).toContain('sketch.png: nothing shows it')
    expect(screen.getByText('2 pictures')).toBeDefined()
  })
})

describe('the files of a pack', () => {
  const file = (path: string, more: Partial<PackedFileFacts> = {}): PackedFileFacts => ({
    path,
    bytes: 2048,
    sha256: 'b'.repeat(64),
    sort: 'mesh',
    ...more,
  })
  const pack = (files: PackedFileFacts[]): PackFacts => ({
    crateId: 'otterby',
    size: 1,
    sha256: 'c'.repeat(64),
    files,
    blocks: 0,
    crateHash: '',
    packedAt: 0,
  })
  const rows = (): string[] =>
    screen
      .getAllByRole('row')
      .slice(1)
      .map((row) => row.querySelector('td')?.textContent ?? '')
  const files = [
    file('items/gate/gate.glb', { askedBy: [{ item: 'Gate', by: 'its entry' }] }),
    file('items/gate/maps/stone_col.dds', {
      sort: 'map',
      written: 'E:\\Edda\\stone.png',
      askedBy: [
        { item: 'Gate', by: 'material stone' },
        { item: 'Wall', by: 'material stone' },
      ],
    }),
  ]

  it('are listed with what they are, who asks for them and how they were written', async () => {
    await showInCrate(<PackedFiles pack={pack(files)} />)
    expect(rows()).toEqual(['items/gate/gate.glb', 'items/gate/maps/stone_col.ddsas written: E:\\Edda\\stone.png'])
    expect(screen.getByText('the mesh')).toBeDefined()
    expect(screen.getByText('and 1 more')).toBeDefined()
  })

  it('are found by words of their path, of what asks for them, and of how they were written', async () => {
    const { user } = await showInCrate(<PackedFiles pack={pack(files)} />)
    const search = screen.getByRole('searchbox', { name: 'Find a file' })
    await user.type(search, 'edda STONE')
    expect(rows()).toHaveLength(1)
    await user.clear(search)
    await user.type(search, 'entry')
    expect(rows()).toEqual(['items/gate/gate.glb'])
    await user.clear(search)
    await user.type(search, 'nowhere')
    expect(rows()).toEqual([])
    expect(screen.getByText('No file of the pack has these words.')).toBeDefined()
  })

  it('are not all drawn where there are thousands', async () => {
    const many = Array.from({ length: 1500 }, (_, number) => file(`items/${number}.dds`))
    await showInCrate(<PackedFiles pack={pack(many)} />)
    expect(rows()).toHaveLength(400)
    expect(screen.getByText(/1,100 more are not shown/)).toBeDefined()
  })
})

describe('what is in a pack that was brought', () => {
  const contents = {
    kind: 'pack' as const,
    title: 'quay.zip',
    items: [
      { name: 'Gate', kind: 'prop' },
      { name: 'Bell', kind: 'mover' },
    ],
    textures: ['maps/stone.dds'],
  }

  it('is taken out as it is ticked', async () => {
    const [onTake, onClose] = [vi.fn(() => Promise.resolve()), vi.fn()]
    const { user } = await showInCrate(<ContentsDialog contents={contents} onClose={onClose} onTake={onTake} />)
    await user.click(screen.getByRole('checkbox', { name: /Bell/ }))
    await user.click(screen.getByRole('checkbox', { name: /stone/ }))
    await user.click(screen.getByRole('button', { name: 'Take out' }))
    expect(onTake.mock.calls).toEqual([[['Bell'], ['maps/stone.dds']]])
    await vi.waitFor(() => expect(onClose).toHaveBeenCalledOnce())
  })

  it('is not taken out where nothing is ticked', async () => {
    const [onTake, onClose] = [vi.fn(() => Promise.resolve()), vi.fn()]
    const { user } = await showInCrate(<ContentsDialog contents={contents} onClose={onClose} onTake={onTake} />)
    await user.click(screen.getByRole('button', { name: 'Take out' }))
    expect(onTake).not.toHaveBeenCalled()
    expect(onClose).not.toHaveBeenCalled()
  })

  it('stays open where it could not be taken out', async () => {
    const onClose = vi.fn()
    const onTake = vi.fn(() => Promise.reject(new Error('no room')))
    const { user } = await showInCrate(<ContentsDialog contents={contents} onClose={onClose} onTake={onTake} />)
    await user.click(screen.getByRole('checkbox', { name: /Gate/ }))
    await user.click(screen.getByRole('button', { name: 'Take out' }))
    await screen.findByRole('button', { name: 'Take out' })
    expect(onClose).not.toHaveBeenCalled()
  })

  it('is nothing where nothing was brought', async () => {
    await showInCrate(<ContentsDialog contents={null} onClose={vi.fn()} onTake={vi.fn()} />)
    expect(screen.queryByRole('dialog')).toBeNull()
  })
})
