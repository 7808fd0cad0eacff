import { fireEvent, screen, waitFor, within } from '@testing-library/react'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { CrateItem } from '../../core/crate/schema'
import { crateOf, itemOf, rulebook, showInCrate } from '../test-support/in-crate'
import type { ArchiveContents } from '../workers/source-messages'
import { BringIn } from './bring-in'

const asked = vi.hoisted(() => ({
  bringIn: [] as unknown[][],
  takeOut: [] as unknown[][],
  takeStock: [] as unknown[][],
  answer: (): unknown => ({}),
  told: [] as string[],
}))
vi.mock('../workers/clients', () => ({
  bringIn: async (...given: unknown[]) => {
    asked.bringIn.push(given)
    return asked.answer()
  },
  takeOut: async (...given: unknown[]) => {
    asked.takeOut.push(given)
    return [itemOf('Taken')]
  },
  takeStock: async (...given: unknown[]) => {
    asked.takeStock.push(given)
    return itemOf('Bell')
  },
}))
vi.mock('../ui/notify', () => ({
  tell: (message: string) => asked.told.push(message),
  tellError: (error: Error) => asked.told.push(error.message),
  tellRefused: (sentences: string[]) => asked.told.push(...sentences),
}))

interface Brought {
  items: CrateItem[]
  contents: ArchiveContents | null
  refused: string[]
  by: (string | null)[]
}
const brought = (more: Partial<Brought> = {}): Brought => ({ items: [], contents: null, refused: [], by: [], ...more })
const file = (name: string): File => new File(['o gate'], name)
const bring = async (...files: File[]): Promise<void> => {
  const before = asked.bringIn.length
  fireEvent.change(screen.getByLabelText('Meshes and textures'), { target: { files } })
  await waitFor(() => expect(asked.bringIn.length).toBe(before + 1))
}

beforeEach(() => {
  Object.assign(asked, { bringIn: [], takeOut: [], takeStock: [], told: [], answer: () => brought() })
})

describe('bringing files in', () => {
  it('says what to bring first, and that more may come', async () => {
    await showInCrate(<BringIn empty />)
    expect(screen.getByText(/^Drop GLB, glTF, FBX, OBJ/)).toBeDefined()
  })

  it('reads them as they are unless something was said', async () => {
    await showInCrate(<BringIn empty />)
    await bring(file('gate.obj'), file('gate.mtl'))
    const [files, kind, options, taken, , how] = asked.bringIn[0]
    expect((files as { path: string }[]).map(({ path }) => path)).toEqual(['gate.obj', 'gate.mtl'])
    expect(kind).toBeNull()
    expect(options).toEqual({ models: undefined, metresPerUnit: undefined, up: undefined })
    expect(taken).toEqual([])
    expect(how).toEqual({ presets: [], split: false })
  })

  it('reads them in the kind, unit and axis that were said, and scenes apart', async () => {
    const { user } = await showInCrate(<BringIn empty={false} />, crateOf(itemOf('Bell')))
    const kind = rulebook.kinds[1]
    await user.selectOptions(screen.getByLabelText('It becomes'), kind.title.toLowerCase())
    await user.selectOptions(screen.getByLabelText('One unit is'), '1 cm')
    await user.selectOptions(screen.getByLabelText('Up is'), '+Z')
    await user.click(screen.getByLabelText('Split scenes into items'))
    await bring(file('gate.obj'))
    const [, givenKind, options, taken, , how] = asked.bringIn[0]
    expect(givenKind).toBe(kind.id)
    expect(options).toEqual({ models: kind.models, metresPerUnit: 0.01, up: '+z' })
    expect(taken).toEqual(['bell'])
    expect(how).toMatchObject({ split: true })
  })

  it('adds one item and goes to its intake; several stay in the list', async () => {
    asked.answer = () => brought({ items: [itemOf('Gate')] })
    const one = await showInCrate(<BringIn empty />)
    await bring(file('gate.obj'))
    await screen.findByText('Another page')
    expect(one.commands()).toMatchObject([{ do: 'add-items', items: [{ id: 'gate' }] }])
  })

  it('stays in the list with several, and says which preset fitted how many', async () => {
    asked.answer = () =>
      brought({ items: [itemOf('Gate'), itemOf('Wall'), itemOf('Hat')], by: ['Stonework', 'Stonework', null] })
    const { commands } = await showInCrate(<BringIn empty />)
    await bring(file('all.zip'))
    await waitFor(() => expect(commands()).toHaveLength(1))
    expect(screen.queryByText('Another page')).toBeNull()
    expect(asked.told).toEqual(['2 items by “Stonework”.'])
  })

  it('tells a file that is there already, and those that could not be read; the others come in', async () => {
    asked.answer = () => brought({ items: [itemOf('Gate'), itemOf('Wall')], refused: ['broken.fbx: it ends early.'] })
    const { commands } = await showInCrate(<BringIn empty={false} />, crateOf(itemOf('Old gate', { id: 'old' })))
    await bring(file('gate.obj'))
    await waitFor(() => expect(commands()).toHaveLength(1))
    expect(asked.told[0]).toBe('Gate is the same file as Old gate, brought a second time.')
    expect(asked.told).toContain('broken.fbx: it ends early.')
  })

  it('adds nothing where nothing could be read, and says why', async () => {
    asked.answer = () => {
      throw new Error('gate.obj: it has no faces.')
    }
    const { commands } = await showInCrate(<BringIn empty />)
    await bring(file('gate.obj'))
    await waitFor(() => expect(asked.told).toEqual(['gate.obj: it has no faces.']))
    expect(commands()).toEqual([])
    expect(screen.getByRole('button', { name: 'Choose files' })).toBeDefined()
  })

  it('is stopped, and can be begun again', async () => {
    let signal: AbortSignal | undefined
    asked.answer = () => {
      signal = asked.bringIn.at(-1)?.[7] as AbortSignal
      return new Promise(() => undefined)
    }
    const { user } = await showInCrate(<BringIn empty />)
    await bring(file('large.fbx'))
    await user.click(await screen.findByRole('button', { name: /Stop/ }))
    expect(signal?.aborted).toBe(true)
    expect(screen.getByRole('button', { name: 'Choose files' })).toBeDefined()
  })

  it('takes an object out of the game’s stock', async () => {
    const { user, commands } = await showInCrate(<BringIn empty />)
    const [object] = rulebook.stock.objects
    await user.selectOptions(screen.getByLabelText('Or from the game'), object.title)
    await waitFor(() => expect(commands()).toMatchObject([{ do: 'add-items', items: [{ id: 'bell' }] }]))
    expect(asked.takeStock[0][1]).toBe(object.id)
  })
})

describe('a pack that was brought', () => {
  const contents: ArchiveContents = {
    title: 'landing.zip',
    kind: 'pack',
    items: [
      { name: 'mooring_bell', kind: 'mover' },
      { name: 'ferry', kind: 'vehicle' },
    ],
    textures: ['textures/oak_c.dds'],
  }

  it('is looked into, and what is ticked is taken out of it', async () => {
    asked.answer = () => brought({ contents })
    const { user, commands } = await showInCrate(<BringIn empty />)
    await bring(file('landing.zip'))
    const dialog = await screen.findByRole('dialog', { name: 'landing.zip is a pack' })
    expect(within(dialog).getByText(/Items come as the game reads them/)).toBeDefined()
    await user.click(within(dialog).getByRole('checkbox', { name: /ferry/ }))
    await user.click(within(dialog).getByRole('checkbox', { name: /oak_c/ }))
    await user.click(within(dialog).getByRole('button', { name: 'Take out' }))
    await waitFor(() => expect(commands()).toMatchObject([{ do: 'add-items', items: [{ id: 'taken' }] }]))
    expect(asked.takeOut[0]).toEqual([['ferry'], ['textures/oak_c.dds'], rulebook.kinds[0].id, []])
  })

  it('gives nothing where nothing is ticked', async () => {
    asked.answer = () => brought({ contents: { ...contents, kind: 'crate', textures: [] } })
    const { user } = await showInCrate(<BringIn empty />)
    await bring(file('landing.crate.zip'))
    const dialog = await screen.findByRole('dialog', { name: 'landing.zip is a crate file' })
    await user.click(within(dialog).getByRole('button', { name: 'Take out' }))
    expect(asked.takeOut).toEqual([])
    expect(within(dialog).queryByText(/Textures/)).toBeNull()
  })
})
