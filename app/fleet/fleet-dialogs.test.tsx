import { screen, within } from '@testing-library/react'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { CrateItem } from '../../core/crate/schema'
import { useRuns } from '../queries/runs'
import { crateOf, entryOf, itemOf, rulebook, showInCrate } from '../test-support/in-crate'
import { ChangeDialog } from './change-dialog'
import { CopyDialog } from './copy-dialog'
import type { TroubleEverywhere } from './everywhere'
import { TroublesPanel } from './troubles-panel'

const gate = itemOf('Gate', {
  worklist: [
    entryOf('step-1', 'weld', { reach: 2 }),
    entryOf('step-2', 'write-entry', { fields: { price: 12, title: 'Gate' } }),
  ],
})
const wall = itemOf('Wall')
const post = itemOf('Post', { worklist: [entryOf('step-1', 'weld', { reach: 9 })] })
const crate = crateOf(gate, wall, post)
const button = (name: string | RegExp): HTMLElement => screen.getByRole('button', { name })
const choice = (name: string): HTMLSelectElement => screen.getByRole('combobox', { name })

beforeEach(() => useRuns.setState({ runs: {} }))

describe('several items that are changed together', () => {
  const shown = async (items: readonly CrateItem[] | null) => {
    const onClose = vi.fn()
    return { ...(await showInCrate(<ChangeDialog items={items} onClose={onClose} />, crate)), onClose }
  }

  it('are not asked about while none are chosen', async () => {
    await shown(null)
    expect(screen.queryByRole('dialog')).toBeNull()
  })

  it('get what is said in one change, which one Undo takes back', async () => {
    const { user, commands, onClose } = await shown([gate, wall])
    const kind = rulebook.kinds[1]
    await user.selectOptions(choice('They become'), kind.title)
    await user.selectOptions(choice('One unit of their sources is'), '1 cm')
    await user.click(button('Change'))
    await vi.waitFor(() => expect(onClose).toHaveBeenCalledOnce())
    expect(commands()).toEqual([
      {
        do: 'several',
        commands: [
          { do: 'set-kind', item: 'gate', kind: kind.id },
          { do: 'set-reading', item: 'gate', reading: { metresPerUnit: 0.01 } },
          { do: 'set-kind', item: 'wall', kind: kind.id },
          { do: 'set-reading', item: 'wall', reading: { metresPerUnit: 0.01 } },
        ],
      },
    ])
  })

  it('stay as they are where nothing is said', async () => {
    const { user, commands, onClose } = await shown([gate, wall])
    await user.click(button('Change'))
    await vi.waitFor(() => expect(onClose).toHaveBeenCalledOnce())
    expect(commands()).toEqual([])
  })
})

describe('what is copied from one item to others', () => {
  const shown = async (to: readonly CrateItem[] | null, of = crate) => {
    const onClose = vi.fn()
    return { ...(await showInCrate(<CopyDialog to={to} onClose={onClose} />, of)), onClose }
  }
  const several = (commands: ReturnType<Awaited<ReturnType<typeof shown>>['commands']>) =>
    commands.flatMap((command) => (command.do === 'several' ? command.commands : []))

  it('comes from an item that is not among them', async () => {
    await shown([wall, post])
    expect(choice('From').value).toBe('gate')
    expect(screen.getByRole('dialog', { name: 'Copy to 2 items' })).toBeDefined()
    expect(screen.getByText('Their own worklists are replaced.')).toBeDefined()
  })

  it('is a whole worklist', async () => {
    const { user, commands } = await shown([wall])
    await user.click(button('Copy'))
    const [command] = several(commands())
    expect(command).toMatchObject({ do: 'set-worklist', item: 'wall' })
    expect(command.do === 'set-worklist' ? command.worklist.map(({ step }) => step) : []).toEqual([
      'weld',
      'write-entry',
    ])
  })

  it('is one step, which takes the place of their own', async () => {
    const { user, commands } = await shown([post])
    await user.selectOptions(choice('What'), '1. weld')
    await user.click(button('Copy'))
    expect(several(commands())).toMatchObject([{ item: 'post', entry: 'step-1', parameters: { reach: 2 } }])
  })

  it('is the lines of an entry that are ticked', async () => {
    const { user, commands } = await shown([wall])
    await user.selectOptions(choice('What'), '2. write-entry')
    await user.click(screen.getByRole('checkbox', { name: /title/ }))
    await user.click(button('Copy'))
    const copied = JSON.stringify(several(commands()))
    expect(copied).toContain('"price":12')
    expect(copied).not.toContain('"title":"Gate"')
  })

  it('cannot be copied where only its own item is chosen, or none has a worklist', async () => {
    await shown([gate], crateOf(gate, wall))
    expect(screen.getByText('Only this item is chosen: choose those that get it as well.')).toBeDefined()
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Copy' }).disabled).toBe(true)
  })

  it('says that one has to be prepared first', async () => {
    await shown([wall], crateOf(wall))
    expect(screen.getByText('No item has a worklist yet: prepare one first.')).toBeDefined()
  })
})

describe('what was found in all items', () => {
  const mend = { step: 'reduce', label: 'Reduce triangles', parameters: {} }
  const trouble = (more: Partial<TroubleEverywhere>): TroubleEverywhere =>
    ({
      rule: 'triangle-budget',
      severity: 'blocks',
      title: 'Too many triangles',
      why: 'Games are so.',
      items: [gate, wall, post],
      mends: [gate, wall].map((item) => ({ item, mend })),
      ...more,
    }) as TroubleEverywhere
  async function shown(troubles: TroubleEverywhere[], more: { shown?: string; busy?: boolean } = {}) {
    const hands = { onShow: vi.fn(), onMend: vi.fn() }
    const page = await showInCrate(
      <TroublesPanel troubles={troubles} shown={more.shown ?? ''} busy={more.busy ?? false} {...hands} />,
      crate,
    )
    return { ...page, ...hands }
  }

  it('is not there when nothing was', async () => {
    await shown([])
    expect(screen.queryByRole('region')).toBeNull()
  })

  it('is a line a trouble with the items that have it', async () => {
    await shown([trouble({})])
    const [line] = within(screen.getByRole('list')).getAllByRole('listitem')
    expect(line.textContent).toContain('Gate, Wall and 1 more')
  })

  it('is mended in all items that can be mended', async () => {
    const all = trouble({})
    const { user, onMend } = await shown([all])
    await user.click(button('Mend in 2 items: Reduce triangles'))
    expect(onMend.mock.calls).toEqual([[all.mends]])
  })

  it('is not mended while something else is under way', async () => {
    await shown([trouble({})], { busy: true })
    expect(screen.getByRole<HTMLButtonElement>('button', { name: /^Mend/ }).disabled).toBe(true)
  })

  it('shows its items alone, and all of them again', async () => {
    const { user, onShow } = await shown([trouble({})])
    await user.click(button('Too many triangles'))
    expect(onShow.mock.calls).toEqual([['triangle-budget']])
  })

  it('lets go of what is shown alone', async () => {
    const { user, onShow } = await shown([trouble({})], { shown: 'triangle-budget' })
    const title = button('Too many triangles')
    expect(title.getAttribute('aria-pressed')).toBe('true')
    await user.click(title)
    expect(onShow.mock.calls).toEqual([['']])
  })
})
