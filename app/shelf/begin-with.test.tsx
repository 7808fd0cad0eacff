import { act, renderHook, screen, waitFor } from '@testing-library/react'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { CrateItem } from '../../core/crate/schema'
import { builtInRulebooks } from '../../core/game/load'
import { itemOf, rulebook, showInCrate } from '../test-support/in-crate'
import { BeginDialog } from './begin-dialog'
import type { ShelfIntent } from './intents'
import { useBeginWith, type Beginning } from './use-begin-with'
import { folderOfCrate } from './use-open-file'

const asked = vi.hoisted(() => ({ answer: (): unknown => ({}), games: [] as unknown[], told: [] as string[] }))
vi.mock('../workers/clients', () => ({
  beginWith: async (choice: unknown) => {
    asked.games.push(choice)
    return { rulebook: rulebookNow(), stock: null }
  },
  bringIn: async () => asked.answer(),
}))
const rulebookNow = (): unknown => rulebook
vi.mock('../ui/notify', () => ({
  tell: (message: string) => asked.told.push(message),
  tellError: (error: Error) => asked.told.push(error.message),
  tellRefused: (sentences: string[]) => asked.told.push(...sentences),
}))
vi.mock('../crate/item-picture', () => ({ ItemPicture: () => <span data-testid="picture" /> }))
vi.mock('../queries/rulebook-queries', () => ({ useOwnRulebooks: () => [] }))

const file = (path: string) => ({ path, bytes: new Uint8Array([1, 2, 3]) })
const read = (...items: CrateItem[]) => ({
  items,
  guesses: items.map(() => rulebook.kinds.map(({ id }) => ({ kind: id, reason: 'It stands still.' }))),
  contents: null,
  refused: [] as string[],
  by: [],
})

function begin() {
  const sent: ShelfIntent[] = []
  const opened: { name: string }[] = []
  const { result } = renderHook(() =>
    useBeginWith(
      async (intent) => void sent.push(intent),
      async (crateFile) => void opened.push(crateFile),
    ),
  )
  return { result, sent, opened }
}

beforeEach(() => Object.assign(asked, { games: [], told: [], answer: () => read(itemOf('Gate')) }))

describe('files dropped on the shelf', () => {
  it('are read for the first game, under a name that they tell', async () => {
    const { result } = begin()
    await act(() => result.current.begin(Promise.resolve([file('old_gate.glb')])))
    expect(asked.games).toEqual([{ id: builtInRulebooks()[0].id }])
    expect(result.current.beginning?.read?.items.map(({ id }) => id)).toEqual(['gate'])
    expect(result.current.beginning?.name.toLowerCase()).toBe('old gate')
  })

  it('become a crate with the kind that was said, kept as an answer', async () => {
    const { result, sent } = begin()
    await act(() => result.current.begin(Promise.resolve([file('gate.glb')])))
    const kind = rulebook.kinds[2].id
    await act(() => result.current.finish('Otterby gate', { gate: kind }))
    expect(sent).toMatchObject([
      { intent: 'begin', crate: { name: 'Otterby gate', items: [{ id: 'gate', kind, answers: { kind } }] } },
    ])
    expect(result.current.beginning).toBeNull()
  })

  it('become several items whose kinds were only guessed', async () => {
    asked.answer = () => read(itemOf('Gate'), itemOf('Bell'))
    const { result, sent } = begin()
    await act(() => result.current.begin(Promise.resolve([file('all.zip')])))
    await act(() => result.current.finish('Otterby', {}))
    const [intent] = sent
    if (intent.intent !== 'begin') throw new Error('nothing was begun')
    expect(intent.crate.items.map(({ answers }) => answers)).toEqual([undefined, undefined])
  })

  it('open a crate file as what it is', async () => {
    asked.answer = () => ({ ...read(), contents: { kind: 'crate', title: 'landing', items: [], textures: [] } })
    const { result, opened } = begin()
    await act(() => result.current.begin(Promise.resolve([file('landing.crate.zip')])))
    expect(opened.map(({ name }) => name)).toEqual(['landing.crate.zip'])
    expect(result.current.beginning).toBeNull()
  })

  it('open a folder that a repository keeps as the crate that it is', async () => {
    const { result, opened } = begin()
    await act(() =>
      result.current.begin(Promise.resolve([file('landing/crate.json'), file('landing/items/gate.json')])),
    )
    expect(opened.map(({ name }) => name)).toEqual(['landing'])
    expect(asked.games).toEqual([])
  })

  it('say of a pack where it belongs', async () => {
    asked.answer = () => ({ ...read(), contents: { kind: 'pack', title: 'landing.zip', items: [], textures: [] } })
    const { result } = begin()
    await act(() => result.current.begin(Promise.resolve([file('landing.zip')])))
    expect(asked.told).toEqual(['landing.zip is a pack: open a crate and bring it there.'])
  })

  it('that cannot be read are told, and nothing is begun', async () => {
    asked.answer = () => {
      throw new Error('gate.glb: it ends early.')
    }
    const { result } = begin()
    await act(() => result.current.begin(Promise.resolve([file('gate.glb')])))
    expect(asked.told).toEqual(['gate.glb: it ends early.'])
    expect(result.current.beginning).toBeNull()
  })

  it('that could be read in part are told beside the rest', async () => {
    asked.answer = () => ({ ...read(itemOf('Gate')), refused: ['hat.fbx: it ends early.'] })
    const { result } = begin()
    await act(() => result.current.begin(Promise.resolve([file('gate.glb'), file('hat.fbx')])))
    expect(asked.told).toEqual(['hat.fbx: it ends early.'])
    expect(result.current.beginning?.read?.items).toHaveLength(1)
  })

  it('are forgotten when one leaves, and an answer that comes later changes nothing', async () => {
    let answer = (_: unknown): void => undefined
    asked.answer = () => new Promise((resolve) => (answer = resolve))
    const { result } = begin()
    let reading = Promise.resolve()
    act(() => void (reading = result.current.begin(Promise.resolve([file('gate.glb')]))))
    await waitFor(() => expect(result.current.beginning).not.toBeNull())
    act(() => result.current.leave())
    expect(result.current.beginning).toBeNull()
    await act(async () => {
      answer(Promise.reject(new Error('stopped')))
      await reading
    })
    expect(asked.told).toEqual([])
  })
})

describe('a folder of a crate', () => {
  it('is known by its description beside other files', () => {
    expect(folderOfCrate([file('landing/crate.json'), file('landing/a.json')])?.name).toBe('landing')
    expect(folderOfCrate([file('landing/crate.json')])).toBeNull()
    expect(folderOfCrate([file('a/b/crate.json'), file('a/b/c.json')])).toBeNull()
    expect(folderOfCrate([file('gate.obj'), file('gate.mtl')])).toBeNull()
  })
})

describe('the question what it becomes', () => {
  const beginning = (...items: CrateItem[]): Beginning => ({
    name: 'Old gate',
    read: { game: { rulebook, stock: null } as never, items, guesses: read(...items).guesses as never },
    progress: { fraction: 1, doing: '' },
  })
  const show = async (shown: Beginning | null) => {
    const done = { begin: vi.fn(), game: vi.fn(), close: vi.fn() }
    const { user } = await showInCrate(
      <BeginDialog beginning={shown} onBegin={done.begin} onGame={done.game} onClose={done.close} />,
    )
    return { user, ...done }
  }

  it('has a picture, the kinds with the guess chosen, and one press prepares it', async () => {
    const gate = itemOf('Gate')
    const { user, begin: begun } = await show(beginning(gate))
    expect(screen.getByTestId('picture')).toBeDefined()
    expect(screen.getByText('It stands still.')).toBeDefined()
    expect(screen.getAllByRole('radio')).toHaveLength(rulebook.kinds.length)
    await user.click(screen.getByRole('button', { name: 'Prepare it' }))
    expect(begun).toHaveBeenCalledWith('Old gate', { gate: gate.kind })
  })

  it('takes another kind, another name and another game', async () => {
    const { user, begin: begun, game } = await show(beginning(itemOf('Gate')))
    const kind = rulebook.kinds[1]
    await user.click(screen.getByRole('radio', { name: new RegExp(`^${kind.title}`) }))
    const name = screen.getByLabelText('Name of the mod')
    await user.clear(name)
    await user.type(name, 'New gate')
    await user.click(screen.getByRole('button', { name: 'Prepare it' }))
    expect(begun).toHaveBeenCalledWith('New gate', { gate: kind.id })
    await user.selectOptions(screen.getByLabelText('Packs for'), builtInRulebooks()[1].id)
    expect(game).toHaveBeenCalledWith({ id: builtInRulebooks()[1].id })
  })

  it('lists a few of many, each with its kind', async () => {
    const { user, begin: begun } = await show(beginning(...Array.from({ length: 9 }, (_, at) => itemOf(`Item ${at}`))))
    expect(screen.getByRole('dialog', { name: 'Begin a crate with 9 items' })).toBeDefined()
    expect(screen.getAllByTestId('picture')).toHaveLength(6)
    expect(screen.getByText('and 3 more')).toBeDefined()
    await user.click(screen.getByRole('button', { name: 'Begin' }))
    expect(begun).toHaveBeenCalledWith('Old gate', {})
  })

  it('waits until the files are read, and can be stopped meanwhile', async () => {
    const {
      user,
      begin: begun,
      close,
    } = await show({
      name: 'Old gate',
      read: null,
      progress: { fraction: 0.4, doing: 'gate.fbx' },
    })
    expect(screen.getByRole('button', { name: 'Prepare it' })).toHaveProperty('disabled', true)
    expect(screen.getByText(/gate\.fbx/)).toBeDefined()
    await user.click(screen.getByRole('button', { name: /Stop/ }))
    expect(close).toHaveBeenCalledOnce()
    expect(begun).not.toHaveBeenCalled()
  })
})
