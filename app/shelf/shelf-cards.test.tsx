import { screen } from '@testing-library/react'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Usage } from '../storage/usage'
import { crateOf, itemOf, showInCrate } from '../test-support/in-crate'
import { CrateCard } from './crate-card'
import { DamagedCard } from './damaged-card'
import { KeptHere } from './kept-here'
import { TwiceDialog, type TwiceAnswer } from './twice-dialog'
import { WayOfAModel } from './way-of-a-model'

const saved = vi.hoisted(() => [] as { name: string; text: string }[])
vi.mock('../crate/item-picture', () => ({
  ItemPicture: ({ item }: { item: { name: string } }) => <span data-testid="picture">{item.name}</span>,
}))
vi.mock('../ui/download', () => ({
  download: (bytes: Uint8Array, name: string) => saved.push({ name, text: new TextDecoder().decode(bytes) }),
}))
vi.mock('../storage/asides', () => ({
  rawRecord: async (id: string) => ({ id, crate: 'not a crate' }),
  asText: (value: unknown) => JSON.stringify(value),
}))

const MINUTE = 60_000
const kept = (items: number, more: { damaged?: number; minutes?: number } = {}) => ({
  crate: crateOf(...Array.from({ length: items }, (_, at) => itemOf(`Item ${at}`))),
  savedAt: Date.now() - (more.minutes ?? 0) * MINUTE,
  canUndo: false,
  canRedo: false,
  damaged: more.damaged ?? 0,
})

beforeEach(() => void saved.splice(0))

describe('a crate on the shelf', () => {
  it('says its name, game, age, size, and shows its items', async () => {
    await showInCrate(<CrateCard kept={kept(3, { minutes: 5 })} bytes={2.5 * 1024 * 1024} onRemove={vi.fn()} />)
    expect(screen.getByRole('link', { name: 'Otterby' }).getAttribute('href')).toBe('/crate/otterby')
    expect(screen.getByText(/^packs for .+ · kept 5 min ago$/)).toBeDefined()
    expect(screen.getByText(/^3 items · 2\.5 MB$/)).toBeDefined()
    expect(screen.getAllByTestId('picture')).toHaveLength(3)
  })

  it('shows six of many, and how many more there are', async () => {
    await showInCrate(<CrateCard kept={kept(300)} bytes={0} onRemove={vi.fn()} />)
    expect(screen.getAllByTestId('picture')).toHaveLength(6)
    expect(screen.getByText('+294')).toBeDefined()
  })

  it('warns of what cannot be read, and of nothing where all can', async () => {
    await showInCrate(<CrateCard kept={kept(1, { damaged: 2 })} bytes={0} onRemove={vi.fn()} />)
    expect(screen.getByText(/^2 pieces of it cannot be read/)).toBeDefined()
  })

  it('is removed with one press', async () => {
    const remove = vi.fn()
    const { user } = await showInCrate(<CrateCard kept={kept(1)} bytes={0} onRemove={remove} />)
    expect(screen.queryByText(/cannot be read/)).toBeNull()
    await user.click(screen.getByRole('button', { name: 'Remove Otterby' }))
    expect(remove).toHaveBeenCalledOnce()
  })
})

describe('a crate that cannot be opened', () => {
  const damaged = { id: 'otterby', name: 'Otterby', reason: 'its items are no list', wantsGame: false }

  it('says why, and can be saved as it lies', async () => {
    const { user } = await showInCrate(<DamagedCard crate={damaged} onGiveGame={vi.fn()} onRemove={vi.fn()} />)
    expect(screen.getByText('This crate cannot be read as it is: its items are no list.')).toBeDefined()
    await user.click(screen.getByRole('button', { name: 'Save what is kept as a file' }))
    await vi.waitFor(() => expect(saved).toHaveLength(1))
    expect(saved[0]).toEqual({ name: 'otterby.damaged.json', text: '{"id":"otterby","crate":"not a crate"}' })
    expect(screen.queryByRole('button', { name: 'Give it a rulebook' })).toBeNull()
  })

  it('is given a rulebook where that is what it lacks', async () => {
    const give = vi.fn()
    const { user } = await showInCrate(
      <DamagedCard crate={{ ...damaged, wantsGame: true }} onGiveGame={give} onRemove={vi.fn()} />,
    )
    await user.click(screen.getByRole('button', { name: 'Give it a rulebook' }))
    expect(give).toHaveBeenCalledOnce()
  })
})

describe('what this browser keeps', () => {
  const usage: Usage = { crates: { old: 2048 }, madeAgain: 0, used: null, allowed: null, lasting: true }
  const show = async (more: Partial<Usage>, removed: { id: string; name: string; removedAt: number }[] = []) => {
    const done = { back: vi.fn(), erase: vi.fn(), clean: vi.fn(), lasting: vi.fn() }
    const { user } = await showInCrate(
      <KeptHere
        usage={{ ...usage, ...more }}
        removed={removed}
        onBringBack={done.back}
        onErase={done.erase}
        onClean={done.clean}
        onAskForLasting={done.lasting}
      />,
    )
    return { user, ...done }
  }

  it('is told with what the browser allows; a browser that does not say shows a dash', async () => {
    await show({ used: 5 * 1024 ** 2, allowed: 3 * 1024 ** 3 })
    expect(screen.getByText('5.0 MB')).toBeDefined()
    expect(screen.getByText('of 3.0 GB that the browser allows')).toBeDefined()
  })

  it('shows a dash where the browser does not say how much it holds', async () => {
    await show({})
    expect(screen.getByText('–')).toBeDefined()
  })

  it('lets go of what is made again, if there is any', async () => {
    const { user, clean } = await show({ madeAgain: 4096 })
    await user.click(screen.getByRole('button', { name: 'Let it go' }))
    expect(clean).toHaveBeenCalledOnce()
  })

  it('offers nothing to let go where there is nothing', async () => {
    await show({})
    expect(screen.getByRole('button', { name: 'Let it go' })).toHaveProperty('disabled', true)
    expect(screen.queryByRole('button', { name: 'Ask the browser to keep it' })).toBeNull()
  })

  it('is asked to last where it may be cleared', async () => {
    const { user, lasting } = await show({ lasting: false })
    await user.click(screen.getByRole('button', { name: 'Ask the browser to keep it' }))
    expect(lasting).toHaveBeenCalledOnce()
  })

  it('brings a removed crate back at once, and erases it at the second press only', async () => {
    const { user, back, erase } = await show({}, [{ id: 'old', name: 'Old pier', removedAt: Date.now() - 90 * MINUTE }])
    expect(screen.getByText('· removed 1 h ago')).toBeDefined()
    expect(screen.getByText('2 kB')).toBeDefined()
    await user.click(screen.getByRole('button', { name: 'Erase Old pier' }))
    expect(erase).not.toHaveBeenCalled()
    await user.click(screen.getByRole('button', { name: 'Erase Old pier for good' }))
    expect(erase).toHaveBeenCalledWith('old')
    await user.click(screen.getByRole('button', { name: 'Bring Old pier back' }))
    expect(back).toHaveBeenCalledWith('old')
  })

  it('forgets that erasing was asked for when one goes elsewhere', async () => {
    const { user, erase } = await show({}, [{ id: 'old', name: 'Old pier', removedAt: Date.now() }])
    await user.click(screen.getByRole('button', { name: 'Erase Old pier' }))
    await user.tab({ shift: true })
    expect(screen.getByRole('button', { name: 'Erase Old pier' })).toBeDefined()
    expect(erase).not.toHaveBeenCalled()
  })
})

describe('a crate file that claims to be a crate of the shelf', () => {
  const ask = async () => {
    const answers: TwiceAnswer[] = []
    const question = {
      brought: { ...crateOf(itemOf('Gate'), itemOf('Bell')), name: 'Otterby 2' },
      kept: kept(5, { minutes: 3 }),
    }
    const { user } = await showInCrate(
      <TwiceDialog question={question} onClose={vi.fn()} onAnswer={(answer) => answers.push(answer)} />,
    )
    return { user, answers }
  }

  it('stands beside it unless somebody says otherwise', async () => {
    const { user, answers } = await ask()
    expect(screen.getByText(/, 5 items, kept/).textContent).toBe('Otterby, 5 items, kept 3 min ago')
    expect(screen.getByText('Otterby 2').closest('dd')?.textContent).toBe('Otterby 2, 2 items')
    await user.click(screen.getByRole('button', { name: 'Open it' }))
    expect(answers).toEqual(['beside'])
  })

  it('takes its place when that was chosen', async () => {
    const { user, answers } = await ask()
    await user.click(screen.getByRole('radio', { name: /Replace the one on the shelf/ }))
    await user.click(screen.getByRole('button', { name: 'Open it' }))
    expect(answers).toEqual(['replace'])
  })
})

describe('the way a model goes', () => {
  it('names the nine stages in their order', async () => {
    await showInCrate(<WayOfAModel />)
    expect(
      screen.getAllByRole('listitem').map(({ textContent }) => /^\d[A-Z][a-z]+?(?=[A-Z])/.exec(textContent)?.[0]),
    ).toEqual(['1Intake', '2Fit', '3Mesh', '4Surface', '5Solids', '6Motion', '7Check', '8Pack', '9Trial'])
  })
})
