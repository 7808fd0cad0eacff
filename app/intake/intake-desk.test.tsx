import { screen, within } from '@testing-library/react'
import { useState } from 'react'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { CrateItem } from '../../core/crate/schema'
import type { BenchJobs } from '../crate/use-bench-jobs'
import { crateOf, entryOf, itemOf, rulebook, showInCrate } from '../test-support/in-crate'
import type { Official, SourceReport } from '../workers/source-messages'
import { AxesDialog } from './axes-dialog'
import { OddityList } from './oddity-list'
import { PartList } from './part-list'
import { SizeDialog } from './size-dialog'
import { TextureList } from './texture-list'
import { usePicks, type Picks } from './use-picks'

const asked = vi.hoisted(() => ({ comparison: null as unknown }))
// What workers would be asked for.
vi.mock('../queries/source-queries', () => ({
  useThumbnails: () => [],
  useComparison: () => ({ comparison: asked.comparison, busy: false }),
}))

const part = (name: string, triangles: number, material = 'stone', stray: string | null = null) => ({
  name,
  triangles,
  material,
  stray,
})
const source = (more: Partial<SourceReport> = {}): SourceReport => ({
  triangles: 38_098,
  parts: [part('arch', 20_000), part('post_left', 9000, 'wood'), part('post_right', 9000, 'wood'), part('sheet', 98)],
  others: [{ name: 'Camera', what: 'camera' }],
  references: [],
  units: { metresPerUnit: null, from: 'unknown' },
  sizes: [
    { unit: 'm', metresPerUnit: 1, metres: [4, 3, 1], why: 'guess' },
    { unit: 'cm', metresPerUnit: 0.01, metres: [0.04, 0.03, 0.01], why: '' },
  ],
  axes: { up: '+y', forward: '+z', from: 'customary' },
  clips: [],
  bones: 0,
  oddities: [],
  ...more,
})
const gate = itemOf('Gate')
const button = (name: string): HTMLElement => screen.getByRole('button', { name })

beforeEach(() => {
  asked.comparison = null
})

describe('the parts of a source', () => {
  let picks: Picks
  async function shown(item: CrateItem = gate, report = source()) {
    function Desk() {
      picks = usePicks()
      const [area, setArea] = useState(false)
      return <PartList item={item} source={report} picks={picks} areaPicking={area} onAreaPicking={setArea} />
    }
    return showInCrate(<Desk />, crateOf(item, itemOf('Wall')))
  }
  const listed = (): string[] =>
    within(screen.getByRole('list', { name: 'Parts of the source' }))
      .getAllByRole('checkbox')
      .slice(1)
      .map((box) => box.closest('label')?.querySelector('span')?.textContent ?? '')
  const tick = (name: RegExp): HTMLElement => screen.getByRole('checkbox', { name })

  it('are all there, with what came along without faces', async () => {
    await shown()
    expect(listed()).toEqual(['arch', 'post_left', 'post_right', 'sheet'])
    expect(screen.getByText('Camera')).toBeDefined()
  })

  it('are found by a pattern and by material', async () => {
    const { user } = await shown()
    const name = screen.getByRole('textbox', { name: 'Part name or pattern' })
    await user.type(name, 'post_*')
    expect(listed()).toEqual(['post_left', 'post_right'])
    await user.clear(name)
    await user.selectOptions(screen.getByRole('combobox', { name: 'Material' }), 'stone')
    expect(listed()).toEqual(['arch', 'sheet'])
  })

  it('are all picked that are shown, and the others stay as they were', async () => {
    const { user } = await shown()
    await user.click(tick(/^arch/))
    await user.type(screen.getByRole('textbox', { name: 'Part name or pattern' }), 'post')
    await user.click(tick(/^all 2 shown/))
    expect([...picks.names]).toEqual(['arch', 'post_left', 'post_right'])
    await user.click(tick(/^all 2 shown/))
    expect([...picks.names]).toEqual(['arch'])
  })

  it('are left out by one step at the front, nothing else of which is on', async () => {
    const { user, commands } = await shown()
    await user.click(tick(/^sheet/))
    await user.click(button('Leave out'))
    expect(commands()).toMatchObject([
      {
        do: 'add-steps',
        item: 'gate',
        at: 0,
        entries: [{ step: 'drop-strays', on: true, parameters: { cameras: false, lamps: false, parts: ['sheet'] } }],
      },
    ])
  })

  it('are added to those that a step leaves out already', async () => {
    const item = itemOf('Gate', { worklist: [entryOf('step-1', 'drop-strays', { parts: ['arch'], cameras: true })] })
    const { user, commands } = await shown(item)
    await user.click(tick(/^sheet/))
    await user.click(button('Leave out'))
    expect(commands()).toEqual([
      {
        do: 'edit-step',
        item: 'gate',
        entry: 'step-1',
        parameters: { cameras: true, parts: ['arch', 'sheet'] },
      },
    ])
  })

  it('are kept alone as they are picked now', async () => {
    const item = itemOf('Gate', { worklist: [entryOf('step-1', 'keep-parts', { parts: ['arch'] })] })
    const { user, commands } = await shown(item)
    await user.click(tick(/^post_left/))
    await user.click(button('Keep only these'))
    expect(commands()).toMatchObject([{ do: 'edit-step', parameters: { parts: ['post_left'] } }])
  })

  it('are taken out as an item of their own', async () => {
    const { user, commands } = await shown()
    await user.click(tick(/^post_left/))
    await user.click(button('Take out as an item'))
    await screen.findByText('Another page')
    expect(commands()).toMatchObject([{ do: 'add-items', items: [{ name: 'Gate, post_left', kind: gate.kind }] }])
  })

  it('say how they differ from an official object, and what is new is taken', async () => {
    asked.comparison = {
      parts: [
        { name: 'arch', state: 'untouched', official: 'arch', triangles: 20_000 },
        { name: 'sheet', state: 'new', official: null, triangles: 98 },
      ],
      gone: ['lantern'],
    } satisfies Official
    const { user, commands } = await shown()
    expect(listed()[0]).toBe('arch · official')
    expect(screen.getByText(/lantern/).textContent).toContain('of the official one, not here')
    await user.click(button('Take what is new (1)'))
    await screen.findByText('Another page')
    expect(commands()).toMatchObject([{ do: 'add-items', items: [{ name: 'Gate addition' }] }])
  })
})

describe('the textures that a source asks for', () => {
  const reference = (more: Partial<SourceReport['references'][number]>) => ({
    material: 'stone',
    role: 'colour',
    path: 'E:\\Edda\\stone.png',
    found: null,
    stock: null,
    problem: null,
    pixels: null,
    ...more,
  })
  const shown = (references: SourceReport['references']) => {
    const onLinking = vi.fn()
    return showInCrate(
      <TextureList item={gate} source={source({ references })} linking={null} onLinking={onLinking} />,
      crateOf(gate),
    ).then((page) => ({ ...page, onLinking }))
  }

  it('are none', async () => {
    await shown([])
    expect(screen.getByText('The materials ask for no textures.')).toBeDefined()
  })

  it.each([
    ['was not found', {}, 'blocks', 'not found', 'Point to it'],
    [
      'was found',
      { found: 'maps/stone.png', pixels: { width: 512, height: 256 } },
      'clear',
      'stone.png · 512 × 256',
      'Change',
    ],
    ['cannot be read', { found: 'stone.png', problem: 'no picture' }, 'risky', 'found, but not readable', 'Change'],
    ['is the game’s own', { stock: 'brick' }, 'clear', 'the game’s own: brick', 'Change'],
  ] as const)('say of one that %s', async (_what, more, status, outcome, action) => {
    const { user, onLinking } = await shown([reference(more)])
    const [line] = within(screen.getByRole('list', { name: 'Textures asked for' })).getAllByRole('listitem')
    expect(line.textContent).toContain(status)
    expect(line.textContent).toContain(outcome)
    const choose = within(line).getByRole('button', { name: 'Choose the file for E:\\Edda\\stone.png' })
    expect(choose.textContent).toBe(action)
    await user.click(choose)
    expect(onLinking.mock.calls).toEqual([['E:\\Edda\\stone.png']])
  })
})

describe('what looks off about a source', () => {
  const odd = (id: string, mend: SourceReport['oddities'][number]['mend'], where = 'arch') => ({
    id,
    where,
    message: `${id} at ${where}.`,
    mend,
  })
  const weld = { do: 'step' as const, step: 'weld', label: 'Weld' }
  async function shown(oddities: SourceReport['oddities'], item: CrateItem = gate) {
    const hands = { onLink: vi.fn(), onOpenStep: vi.fn(), onPick: vi.fn() }
    const putStep = vi.fn()
    const page = await showInCrate(
      <OddityList item={item} source={source({ oddities })} jobs={{ putStep } as unknown as BenchJobs} {...hands} />,
      crateOf(item),
    )
    return { ...page, ...hands, putStep }
  }

  it('is nothing', async () => {
    await shown([])
    expect(screen.getByText('Nothing looks off')).toBeDefined()
    expect(screen.getByText('It came in clean.')).toBeDefined()
  })

  it('is counted, and shown where it is a part', async () => {
    const { user, onPick } = await shown([odd('seams', weld), odd('unit', null, 'item')])
    expect(screen.getByText('2 things look off')).toBeDefined()
    await user.click(button('Show me'))
    expect(onPick.mock.calls).toEqual([[['arch']]])
  })

  it('is mended by a step, or by opening the one that is there', async () => {
    const { user, putStep } = await shown([odd('seams', weld)])
    await user.click(button('Weld'))
    expect(putStep.mock.calls).toEqual([['weld']])
  })

  it('counts as mended where its step is there', async () => {
    const item = itemOf('Gate', { worklist: [entryOf('step-1', 'weld')] })
    const { user, onOpenStep, putStep } = await shown([odd('seams', weld)], item)
    await user.click(button('Open the step'))
    expect(onOpenStep.mock.calls).toEqual([['step-1']])
    expect(putStep).not.toHaveBeenCalled()
  })

  it('is mended by a unit, or by a file', async () => {
    const { user, commands, onLink } = await shown([
      odd('large', { do: 'set-unit', metresPerUnit: 0.01, label: 'Read it in cm' }, 'item'),
      odd('lost', { do: 'link-texture', label: 'Point to it' }, 'stone.png'),
    ])
    await user.click(button('Read it in cm'))
    await user.click(button('Point to it'))
    expect(commands()).toEqual([{ do: 'set-reading', item: 'gate', reading: { metresPerUnit: 0.01 } }])
    expect(onLink.mock.calls).toEqual([['stone.png']])
  })
})

describe('what nobody says of a source', () => {
  it('is its unit: chosen by looking, the likeliest being chosen already', async () => {
    const onClose = vi.fn()
    const { user, commands } = await showInCrate(
      <SizeDialog open item={gate} source={source()} scene={null} onClose={onClose} />,
      crateOf(gate),
    )
    const radios = screen.getAllByRole('radio')
    expect(radios.map((radio) => radio.getAttribute('aria-checked'))).toEqual(['true', 'false'])
    expect(radios[0].textContent).toContain('4 × 3 × 1 m')
    expect(radios[0].textContent).toContain('most likely')
    expect(screen.queryByRole('button', { name: 'Read it as the file says' })).toBeNull()
    await user.click(radios[1])
    await user.click(button('Read it so'))
    expect(commands()).toEqual([{ do: 'set-reading', item: 'gate', reading: { metresPerUnit: 0.01 } }])
    await vi.waitFor(() => expect(onClose).toHaveBeenCalledOnce())
  })

  it('is which way is up: one of the views that programs use', async () => {
    const { user, commands } = await showInCrate(
      <AxesDialog open item={gate} source={source()} scene={null} onClose={vi.fn()} />,
      crateOf(gate),
    )
    expect(screen.getByRole('radio', { name: /\+Y up, \+Z forward/ }).textContent).toContain('now')
    await user.click(screen.getByRole('radio', { name: /\+Z up, −Y forward/ }))
    await user.click(button('Read it so'))
    expect(commands()).toEqual([{ do: 'set-reading', item: 'gate', reading: { up: '+z', forward: '-y' } }])
  })

  it('can be read as the file says again', async () => {
    const item = itemOf('Gate', { reading: { links: {}, metresPerUnit: 0.01, up: '+z' } })
    const { user, commands } = await showInCrate(
      <>
        <SizeDialog open item={item} source={source()} scene={null} onClose={vi.fn()} />
      </>,
      crateOf(item),
    )
    await user.click(button('Read it as the file says'))
    expect(commands()).toEqual([{ do: 'set-reading', item: 'gate', reading: { metresPerUnit: null } }])
  })
})

it('has a kind for each item of these tests', () => expect(rulebook.kinds[0].id).toBe(gate.kind))
