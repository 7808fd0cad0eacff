import { fireEvent, render, screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import type { ReactNode } from 'react'
import { createRoutesStub, useLocation } from 'react-router'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { builtInRulebooks, rulebookById } from '../../core/game/load'
import type { LearnedReport } from '../workers/rulebook-messages'
import { LearnScreen } from './learn-screen'
import { RulebookPage } from './rulebook-page'
import { RulebooksScreen } from './rulebooks-screen'

const asked = vi.hoisted(() => ({
  own: [] as object[],
  told: [] as string[],
  kept: [] as string[],
  removed: [] as string[],
  added: [] as { id: string; text: string }[],
  saved: [] as unknown[][],
  learned: [] as unknown[][],
  begun: [] as unknown[][],
  report: null as unknown,
}))
vi.mock('../queries/rulebook-queries', () => ({
  useOwnRulebooks: () => asked.own,
  useRulebooksChanged: () => async () => undefined,
}))
vi.mock('../storage/rulebooks', () => ({
  removeRulebook: async (key: string) => void asked.removed.push(key),
  addRulebook: async (id: string, text: string) => {
    asked.added.push({ id, text })
    return id
  },
}))
vi.mock('../workers/clients', () => ({
  keepRulebook: async (_bytes: Uint8Array, name: string) => {
    if (name === 'broken.json') throw new Error('broken.json: it is no JSON.')
    asked.kept.push(name)
  },
  giveStock: async () => ({ objects: 2, textures: 1, donors: 0, skeletons: 0 }),
  learnFiles: async (...given: unknown[]) => {
    asked.learned.push(given)
    return asked.report
  },
  beginLearned: async (...given: unknown[]) => {
    asked.begun.push(given)
    return 'lantern'
  },
}))
vi.mock('./save-rulebook', () => ({ saveRulebook: async (...given: unknown[]) => void asked.saved.push(given) }))
vi.mock('../ui/notify', () => ({
  tell: (message: string) => asked.told.push(message),
  tellError: (error: Error) => asked.told.push(error.message),
}))

const tarn = rulebookById('tarn-and-tiller')

async function show(children: ReactNode, at = '/'): Promise<void> {
  function Elsewhere() {
    return <p data-testid="elsewhere">{useLocation().pathname}</p>
  }
  const Page = createRoutesStub([
    { path: '/', Component: () => <div data-testid="shown">{children}</div> },
    { path: '*', Component: Elsewhere },
  ])
  render(<Page initialEntries={[at]} />)
  await screen.findByTestId('shown')
}
const pick = (label: string, ...names: string[]): void => {
  fireEvent.change(screen.getByLabelText(label), { target: { files: names.map((name) => new File(['{}'], name)) } })
}

beforeEach(() => {
  Object.assign(asked, {
    own: [],
    told: [],
    kept: [],
    removed: [],
    added: [],
    saved: [],
    learned: [],
    begun: [],
    report: null,
  })
})

describe('reading a rulebook', () => {
  const rules = (): number =>
    screen.getAllByRole('listitem').filter((each) => each.closest('section')?.getAttribute('aria-labelledby')).length

  it('tells every demand in a sentence, by topic, with why', async () => {
    await show(<RulebookPage rulebook={tarn} />)
    expect(screen.getByRole('heading', { level: 1 }).textContent).toBe(`${tarn.title} rulebook ${tarn.version}`)
    for (const topic of ['Space and figure', 'Names', 'Mesh', 'Maps and materials', 'Solids'])
      expect(screen.getByRole('heading', { name: topic })).toBeDefined()
    expect(screen.getByRole('status').textContent).toBe(`${rules()} rules`)
    expect(rules()).toBeGreaterThan(60)
  })

  it('is narrowed to a kind and to words, and says where nothing is left', async () => {
    await show(<RulebookPage rulebook={tarn} />)
    const all = rules()
    const [kind] = tarn.kinds
    await userEvent.selectOptions(screen.getByLabelText('What holds for'), kind.title)
    const ofKind = rules()
    expect(ofKind).toBeLessThan(all)
    const search = screen.getByLabelText('Search the rules')
    await userEvent.type(search, 'triangles')
    expect(rules()).toBeLessThan(ofKind)
    for (const each of screen.getAllByRole('listitem')) expect(each.textContent?.toLowerCase()).toContain('triangle')
    await userEvent.clear(search)
    await userEvent.type(search, 'zeppelin')
    expect(screen.getByText('No rule of this game says that. Try another word, or every kind.')).toBeDefined()
  })

  it('stays as it was asked for in its address', async () => {
    await show(<RulebookPage rulebook={tarn} />, '/?find=normal&kind=prop')
    expect(screen.getByLabelText('Search the rules')).toHaveProperty('value', 'normal')
    expect(screen.getByLabelText('What holds for')).toHaveProperty('value', 'prop')
  })

  it('stands beside another game, demand by demand', async () => {
    await show(<RulebookPage rulebook={tarn} />)
    const [other] = builtInRulebooks().filter(({ id }) => id !== tarn.id)
    await userEvent.selectOptions(screen.getByLabelText('Beside'), other.title)
    const changes = screen.getByRole('region', { name: 'What changes' })
    expect(within(changes).getByText(/demands \d+ things otherwise\.$/)).toBeDefined()
    expect(within(changes).getAllByRole('row').length).toBeGreaterThan(20)
  })

  it('can be started from; one’s own can be edited', async () => {
    await show(<RulebookPage rulebook={tarn} ownKey="lantern" />)
    expect(screen.getByRole('link', { name: 'Edit' }).getAttribute('href')).toBe('/rulebooks/lantern/edit')
    await userEvent.click(screen.getByRole('button', { name: 'Start from it' }))
    const dialog = await screen.findByRole('dialog', { name: `Start from ${tarn.title}` })
    expect(within(dialog).getByRole('button', { name: 'Start' })).toHaveProperty('disabled', true)
    await userEvent.type(within(dialog).getByLabelText('What your game is called'), 'Lantern Row')
    await userEvent.click(within(dialog).getByRole('button', { name: 'Start' }))
    expect((await screen.findByTestId('elsewhere')).textContent).toMatch(/^\/rulebooks\/lantern.row\/edit$/)
    const [{ id, text }] = asked.added
    expect(JSON.parse(text)).toMatchObject({
      id,
      title: 'Lantern Row',
      kinds: tarn.kinds.map(({ id: kind }) => ({ id: kind })),
    })
  })
})

describe('all rulebooks', () => {
  const lantern = { key: 'lantern', rulebook: { ...tarn, title: 'Lantern Row' }, fault: null, savedAt: Date.now() }

  it('are those that ship, each to read, to start from and to save', async () => {
    await show(<RulebooksScreen />)
    expect(screen.getByText(/^None yet\./)).toBeDefined()
    for (const { id, title } of builtInRulebooks()) {
      expect(screen.getByRole('link', { name: title }).getAttribute('href')).toBe(`/rulebooks/${id}`)
      await userEvent.click(screen.getByRole('button', { name: `Save ${title} as a file` }))
    }
    expect(asked.saved).toEqual(builtInRulebooks().map(({ id }) => [{ id }, id]))
  })

  it('and one’s own, which can be removed without harm to crates', async () => {
    asked.own = [lantern]
    await show(<RulebooksScreen />)
    expect(screen.getByText(/^Changed just now/)).toBeDefined()
    await userEvent.click(screen.getByRole('button', { name: 'Remove Lantern Row' }))
    expect(asked.removed).toEqual(['lantern'])
    await waitFor(() => expect(asked.told).toEqual(['The rulebook is gone. Crates that carry it keep it.']))
  })

  it('with a fault can only be mended or removed', async () => {
    asked.own = [{ ...lantern, rulebook: null, fault: 'kinds: there is none.' }]
    await show(<RulebooksScreen />)
    const [line] = within(screen.getByRole('region', { name: 'Your own' })).getAllByRole('listitem')
    expect(within(line).getByText('kinds: there is none.')).toBeDefined()
    expect(within(line).getByText('blocks')).toBeDefined()
    expect(within(line).getByRole('link', { name: 'Edit lantern' }).getAttribute('href')).toBe(
      '/rulebooks/lantern/edit',
    )
    expect(within(line).queryByRole('button', { name: 'Start from it' })).toBeNull()
  })

  it('come in as files; what cannot be read is told', async () => {
    await show(<RulebooksScreen />)
    pick('Rulebook file', 'lantern.json', 'broken.json')
    await waitFor(() => expect(asked.told).toEqual(['broken.json: it is no JSON.']))
    expect(asked.kept).toEqual(['lantern.json'])
  })

  it('are given stock, and it is said what came in', async () => {
    asked.own = [lantern]
    await show(<RulebooksScreen />)
    pick('Stock of Lantern Row', 'gate.glb')
    await waitFor(() =>
      expect(asked.told).toEqual(['Lantern Row has 2 objects, 1 texture, 0 donors and 0 skeletons more in stock.']),
    )
  })
})

describe('learning a rulebook from files', () => {
  const report: LearnedReport = {
    base: 'Tarn & Tiller',
    meshes: ['gate.glb', 'bell.glb'],
    unread: [{ file: 'notes.txt', why: 'it is none of the game’s files' }],
    entryFields: [{ place: 'weight', said: 'a number, 1 to 9' }],
    lines: [
      { path: ['space', 'up'], value: '+z', sureness: 'sure', files: 5, why: 'all stand on it', against: [] },
      {
        path: ['maps', 'most'],
        value: 1024,
        sureness: 'guess',
        files: 1,
        why: 'the largest seen',
        against: [{ file: 'sea.dds', value: 2048 }],
      },
      { path: ['levels', 'asked'], value: true, sureness: 'likely', files: 2, why: 'two have them', against: [] },
    ],
  } as unknown as LearnedReport
  const learned = async (): Promise<void> => {
    asked.report = report
    await show(<LearnScreen />)
    pick('Files that the game accepts', 'gate.glb', 'sea.dds')
    await screen.findByRole('table')
  }

  it('says what was learned, how surely, from how many files, and what speaks against it', async () => {
    await learned()
    expect(screen.getByRole('status').textContent).toBe(
      '3 fields learned; everything else is as in Tarn & Tiller. notes.txt was not read: it is none of the game’s files.',
    )
    const rows = screen.getAllByRole('row').slice(1)
    expect(within(rows[0]).getByText('sure')).toBeDefined()
    expect(within(rows[1]).getByText('2048 in sea.dds')).toBeDefined()
    expect(within(rows[1]).getByText(/^1 file: the largest seen/)).toBeDefined()
    expect(screen.getByText('a number, 1 to 9')).toBeDefined()
  })

  it('begins with what is kept, as it was changed', async () => {
    await learned()
    await userEvent.click(screen.getByRole('checkbox', { name: 'Keep levels.asked' }))
    const most = screen.getByLabelText('Value of maps.most')
    await userEvent.clear(most)
    await userEvent.type(most, '2048')
    await userEvent.type(screen.getByLabelText('What the game is called'), 'Lantern Row')
    await userEvent.click(screen.getByRole('button', { name: 'Begin with what is kept' }))
    expect((await screen.findByTestId('elsewhere')).textContent).toBe('/rulebooks/lantern/edit')
    const [[kept, , title]] = asked.begun
    expect(kept).toEqual([{ value: '+z' }, { value: 2048 }, null])
    expect(title).toBe('Lantern Row')
  })

  it('measures again with a height that the modder knows', async () => {
    await learned()
    expect(screen.getByLabelText('Its height in metres')).toHaveProperty('disabled', true)
    await userEvent.selectOptions(screen.getByLabelText('You know how tall one of them is'), 'bell.glb')
    await userEvent.type(screen.getByLabelText('Its height in metres'), '1.8')
    await userEvent.click(screen.getByRole('button', { name: 'Measure again' }))
    await waitFor(() => expect(asked.learned).toHaveLength(2))
    expect(asked.learned[0][1]).toEqual([])
    expect(asked.learned[1][1]).toEqual([{ path: 'bell.glb', metres: 1.8 }])
  })

  it('begins nothing without a name', async () => {
    await learned()
    expect(screen.getByRole('button', { name: 'Begin with what is kept' })).toHaveProperty('disabled', true)
  })
})
