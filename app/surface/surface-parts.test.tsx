import { screen, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { render } from '@testing-library/react'
import { useState } from 'react'
import { describe, expect, it, vi } from 'vitest'
import { rulebook } from '../test-support/in-crate'
import type { LookChain, MapFacts, MapPicture } from '../workers/map-messages'
import { LooksTable } from './looks-table'
import { codecsFor, pictureTitle, sideTitle } from './map-controls'
import { MapStrip } from './map-strip'
import { MapMemory, MapTable, lossText } from './map-table'
import { MapToolbar } from './map-toolbar'
import { freshMapView, type MapView } from './map-view'

const MEBIBYTE = 1024 * 1024
const thumbnail = { width: 1, height: 1, data: new Uint8Array(4) }
const map = (name: string, more: Partial<MapFacts> = {}): MapFacts => ({
  name,
  key: 'colour',
  role: 'colour',
  materials: ['oak'],
  packed: true,
  from: 'oak.png',
  cameAs: 'PNG',
  width: 1024,
  height: 1024,
  codec: 'bc7',
  mipmaps: 11,
  memory: 1.33 * MEBIBYTE,
  quality: { codec: 'bc7', psnrDecibels: 42.31, meanAngleDegrees: null, worstBlock: null },
  density: 256.4,
  thumbnail,
  ...more,
})
const picture = (more: Partial<MapPicture> = {}): MapPicture => ({
  ...thumbnail,
  level: 0,
  levels: 4,
  codec: 'bc7',
  memory: MEBIBYTE,
  psnrDecibels: null,
  meanAngleDegrees: null,
  worstBlock: null,
  ...more,
})

describe('the table of maps', () => {
  const rows = (maps: MapFacts[], inBlocks = true): string[][] => {
    render(<MapTable maps={maps} selected={null} unit="step" inBlocks={inBlocks} onSelect={() => undefined} />)
    return screen
      .getAllByRole('row')
      .slice(1)
      .map((row) => [
        ...within(row)
          .getAllByRole('rowheader')
          .map(({ textContent }) => textContent),
        ...within(row)
          .getAllByRole('cell')
          .map(({ textContent }) => textContent),
      ])
  }

  it('says of each map its size, block, mipmaps, memory, loss and density', () => {
    expect(rows([map('oak_c'), map('oak_n', { width: 512, height: 256, codec: 'bc5', density: 3.14 })])).toEqual([
      ['oak_c', '1024²', 'BC7', '11', '1.3 MB', '42.3 dB', '256'],
      ['oak_n', '512 × 256', 'BC5', '11', '1.3 MB', '42.3 dB', '3.1'],
    ])
  })

  it('says what is not yet in blocks where the game reads blocks, and nothing of it where it does not', () => {
    const plain = map('oak_c', { codec: null, quality: null, density: null })
    expect(rows([plain])[0].slice(2)).toEqual(['not yet', '11', '1.3 MB', '', ''])
  })

  it('calls pixels as they are “none” in a game without blocks', () => {
    expect(rows([map('oak_c', { codec: null })], false)[0][2]).toBe('none')
  })

  it('leaves out what is not packed, and says when that is all', () => {
    render(
      <MapTable maps={[map('x', { packed: false })]} selected={null} unit="step" inBlocks onSelect={() => undefined} />,
    )
    expect(screen.queryByText('x')).toBeNull()
    expect(screen.getByText('No material shows a map yet.')).toBeDefined()
  })

  it('shows a map above when its name is pressed', async () => {
    const shown: string[] = []
    render(
      <MapTable maps={[map('oak_c')]} selected={null} unit="step" inBlocks onSelect={(name) => shown.push(name)} />,
    )
    await userEvent.click(screen.getByRole('button', { name: 'oak_c' }))
    expect(shown).toEqual(['oak_c'])
  })

  it('tells loss as an angle for directions, and “none” where nothing was lost', () => {
    const quality = { codec: 'bc5', psnrDecibels: null, meanAngleDegrees: 0.517, worstBlock: null }
    expect(lossText({ quality })).toBe('0.52°')
    expect(lossText({ quality: { ...quality, meanAngleDegrees: null } })).toBe('none')
    expect(lossText({ quality: null })).toBe('')
  })
})

describe('memory on the card', () => {
  it('counts what is packed against the limit', () => {
    render(<MapMemory maps={[map('a'), map('b'), map('c', { packed: false })]} limit={4 * MEBIBYTE} />)
    expect(screen.getByText('2.7 MB of 4.0 MB').className).not.toContain('text-block')
  })

  it('stands out beyond the limit', () => {
    render(<MapMemory maps={[map('a'), map('b')]} limit={2 * MEBIBYTE} />)
    expect(screen.getByText('2.7 MB of 2.0 MB').className).toContain('text-block')
  })
})

describe('the strip of maps', () => {
  it('names role, size and file, and shows which is looked at', async () => {
    const chosen: string[] = []
    render(
      <MapStrip
        maps={[map('oak_c'), map('oak_n', { role: 'normal', key: 'normal', width: 2048 })]}
        selected="oak_n"
        problems={new Set(['oak_n'])}
        onSelect={(name) => chosen.push(name)}
      />,
    )
    const normal = screen.getByRole('button', { name: /normal/i, pressed: true })
    expect(normal.textContent).toBe('normal2048 × 1024oak_n')
    // What a finding is about is told by weight and colour at its size.
    expect(screen.getByText('2048 × 1024').className).toContain('text-risk')
    expect(screen.getByText('1024 × 1024').className).not.toContain('text-risk')
    await userEvent.click(screen.getByRole('button', { name: /oak_c/ }))
    expect(chosen).toEqual(['oak_c'])
  })
})

describe('titles of both sides', () => {
  it('say codec, memory and what was lost', () => {
    expect(pictureTitle(picture({ psnrDecibels: 41.26 }))).toBe('BC7 · 1.00 MB · 41.3 dB')
    expect(pictureTitle(picture({ meanAngleDegrees: 0.2 }))).toBe('BC7 · 1.00 MB · 0.20° off')
    expect(pictureTitle(picture({ codec: null }))).toBe('32 bits a pixel · 1.00 MB')
    expect(pictureTitle(null)).toBe('…')
  })

  it('say the worst block of the largest level only', () => {
    const worstBlock = { x: 4, y: 8, psnrDecibels: 24.04 }
    expect(pictureTitle(picture({ psnrDecibels: 40, worstBlock }))).toContain('worst block 24.0')
    expect(pictureTitle(picture({ psnrDecibels: 40, worstBlock, level: 1 }))).not.toContain('worst block')
  })

  it('say what stands there', () => {
    expect(sideTitle('drawn', null)).toBe('As drawn · …')
    expect(sideTitle('kept', null)).toBe('As packed · …')
    expect(sideTitle('bc1', null)).toBe('Tried · …')
  })

  it('offer the game’s codecs for a role first, then others to compare', () => {
    const codecs = codecsFor(rulebook, map('oak_c'))
    expect(codecs).toEqual([...new Set(codecs)])
    expect(codecs).toEqual(expect.arrayContaining(['bc1', 'bc3', 'bc7']))
    expect(codecs).not.toContain('none')
  })
})

/** The toolbar over a view that changes as somebody sets it; returns what it is set to. */
function showToolbar(more: Partial<Parameters<typeof MapToolbar>[0]> = {}): { view: () => MapView } {
  let now = freshMapView(false)
  function Kept() {
    const [view, setView] = useState(now)
    return (
      <MapToolbar
        view={view}
        onChange={(part) => {
          now = { ...view, ...part }
          setView(now)
        }}
        map={map('oak_c')}
        left={picture()}
        right={picture({ levels: 3 })}
        rulebook={rulebook}
        sides
        hasLayout
        {...more}
      />
    )
  }
  render(<Kept />)
  return { view: () => now }
}

describe('how a map is shown', () => {
  it('is set by channel, size, difference, repetition and layout', async () => {
    const { view } = showToolbar()
    await userEvent.click(screen.getByRole('button', { name: 'Alpha' }))
    await userEvent.click(screen.getByRole('button', { name: '4 : 1' }))
    await userEvent.click(screen.getByRole('button', { name: 'Difference × 8' }))
    await userEvent.click(screen.getByRole('button', { name: 'Repeated' }))
    expect(view()).toMatchObject({ channel: 'alpha', zoom: 4, difference: true, repeat: true })
    expect(screen.getByRole('button', { name: 'Alpha', pressed: true })).toBeDefined()
    expect(screen.getByRole('button', { name: 'Colour', pressed: false })).toBeDefined()
  })

  it('goes down to the mipmaps that are there, each with its size', async () => {
    const { view } = showToolbar()
    const mip = screen.getByLabelText('Mip')
    expect(
      within(mip)
        .getAllByRole('option')
        .map(({ textContent }) => textContent),
    ).toEqual(['0: 1024 × 1024', '1: 512 × 512', '2: 256 × 256'])
    await userEvent.selectOptions(mip, '2')
    expect(view().level).toBe(2)
  })

  it('puts a codec that is tried at either side', async () => {
    const { view } = showToolbar()
    await userEvent.selectOptions(screen.getByLabelText('Left'), 'as packed')
    await userEvent.selectOptions(screen.getByLabelText('Right'), 'BC1 tried')
    expect(view()).toMatchObject({ left: 'kept', right: 'bc1' })
  })

  it('has no sides while a step is open, no difference without two pictures, no UVs without a mesh', () => {
    showToolbar({ sides: false, left: null, hasLayout: false })
    expect(screen.queryByLabelText('Left')).toBeNull()
    expect(screen.getByRole('button', { name: 'Difference × 8' })).toHaveProperty('disabled', true)
    expect(screen.queryByRole('group', { name: 'UVs' })).toBeNull()
  })
})

describe('the chain of looks', () => {
  const roles = [
    { role: 'colour', title: 'Colour', key: 'colour' },
    { role: 'normal', title: 'Normal', key: 'normal' },
  ]
  const looks: LookChain[] = [
    {
      look: 'first',
      file: 'looks/first.json',
      materials: [
        {
          name: 'oak#wood',
          base: 'oak',
          shading: 'lit',
          maps: [{ role: 'colour', texture: 'oak_c', file: 'textures/oak_c.dds', stock: false }],
        },
        {
          name: 'iron#metal',
          base: 'iron',
          shading: 'lit',
          maps: [{ role: 'colour', texture: 'iron', file: 'stock/iron.dds', stock: true }],
        },
      ],
    },
  ]
  const table = (shown: readonly LookChain[] | null) => {
    const [onSelect, onPut, onShading] = [vi.fn(), vi.fn(), vi.fn()]
    render(<LooksTable looks={shown} roles={roles} onSelect={onSelect} onPut={onPut} onShading={onShading} />)
    return { onSelect, onPut, onShading }
  }

  it('names a look once, and of each material its shading and maps', () => {
    table(looks)
    expect(screen.getAllByRole('rowheader').map(({ textContent }) => textContent)).toEqual(['first', ''])
    expect(screen.getAllByRole('cell', { name: /lit/ })).toHaveLength(2)
    expect(screen.getByTitle('stock/iron.dds, of the game’s own')).toHaveProperty('disabled', true)
  })

  it('shows a map, and begins to put another into a place of it', async () => {
    const { onSelect, onPut, onShading } = table(looks)
    await userEvent.click(screen.getByRole('button', { name: 'oak_c' }))
    expect(onSelect).toHaveBeenCalledWith('oak_c')
    await userEvent.click(screen.getByRole('button', { name: 'Add a normal map for iron in first' }))
    expect(onPut).toHaveBeenCalledWith({ look: 'first', material: 'iron', role: 'normal' })
    await userEvent.click(screen.getByRole('button', { name: 'Another colour map for oak in first' }))
    expect(onPut).toHaveBeenLastCalledWith({ look: 'first', material: 'oak', role: 'colour' })
    await userEvent.click(screen.getAllByRole('button', { name: 'lit' })[0])
    expect(onShading).toHaveBeenCalledOnce()
  })

  it('begins a second look with the first material', async () => {
    const { onPut } = table(looks)
    await userEvent.click(screen.getByRole('button', { name: 'Another look' }))
    expect(onPut).toHaveBeenCalledWith({ look: 'look 2', material: 'oak', role: 'colour' })
  })

  it('says that it is being read, and offers nothing where nothing is shown', () => {
    table(null)
    expect(screen.getByText('Reading the looks…')).toBeDefined()
    table([{ look: 'first', file: 'looks/first.json', materials: [] }])
    expect(screen.queryByRole('button', { name: 'Another look' })).toBeNull()
  })
})
