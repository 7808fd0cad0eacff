import { screen } from '@testing-library/react'
import { beforeEach, describe, expect, it } from 'vitest'
import { showField as shown } from '../test-support/in-field'
import type { Field } from '../workers/field-messages'
import { resetYardView } from '../yard/yard-view'

const button = (name: string | RegExp): HTMLElement => screen.getByRole('button', { name })
const choice = (name: string): HTMLSelectElement => screen.getByRole('combobox', { name })
const optionsOf = (name: string): string[] => [...choice(name).options].map(({ textContent }) => textContent)

beforeEach(resetYardView)

describe('a setting that is one of several', () => {
  const field: Field = {
    type: 'choice',
    key: 'size',
    label: 'Size',
    options: [
      { value: 256, label: '256 × 256' },
      { value: 512, label: '512 × 512' },
      { value: 8192, label: '8192 × 8192', refused: 'the game reads 4096' },
    ],
  }

  it('gives back the value as it is, and not its text', async () => {
    const { user, values } = await shown(field, 256)
    await user.selectOptions(choice('Size'), '512 × 512')
    expect(values).toEqual([512])
  })

  it('says why one cannot be taken', async () => {
    await shown(field, 256)
    const refused = screen.getByRole<HTMLOptionElement>('option', { name: /8192/ })
    expect(refused.disabled).toBe(true)
    expect(refused.textContent).toBe('8192 × 8192 – no: the game reads 4096')
  })

  it('shows a value that is none of them as it is', async () => {
    await shown(field, 333)
    expect(choice('Size').value).toBe('333')
  })
})

describe('a setting that names parts', () => {
  it('offers the parts that are drawn, and one that is not there any more', async () => {
    await shown({ type: 'part', key: 'part', label: 'Which' }, 'gone')
    expect(optionsOf('Which')).toEqual(['arch', 'leaf', 'gone'])
  })

  it('picks and lets go', async () => {
    const { user, values } = await shown({ type: 'parts', key: 'parts', label: 'Leave alone' }, ['leaf'])
    expect(button('leaf').getAttribute('aria-pressed')).toBe('true')
    await user.click(button('arch'))
    await user.click(button('leaf'))
    expect(values).toEqual([['leaf', 'arch'], ['arch']])
  })

  it('counts what is no list as nothing picked', async () => {
    const { user, values } = await shown({ type: 'parts', key: 'parts', label: 'Leave alone' }, 'leaf')
    await user.click(button('arch'))
    expect(values).toEqual([['arch']])
  })
})

describe('what materials are made of', () => {
  const field: Field = {
    type: 'tags',
    key: 'tags',
    label: 'Tags',
    surfaces: ['stone', 'wood'],
    flags: [{ name: 'two', meaning: 'Seen from both sides' }],
    shadings: [{ name: 'plain', title: 'Plain' }],
  }
  const tags = [
    { material: 'arch', surface: 'stone', flags: ['two'], shading: '' },
    { material: 'leaf', surface: 'stone', flags: [], shading: '' },
  ]

  it('is changed for one material and no other', async () => {
    const { user, values } = await shown(field, tags)
    await user.selectOptions(choice('Surface of leaf'), 'wood')
    await user.selectOptions(choice('Shading of leaf'), 'plain')
    expect(values.at(-1)).toEqual([tags[0], { material: 'leaf', surface: 'wood', flags: [], shading: 'plain' }])
  })

  it('has flags that are told by what they mean, on and off', async () => {
    const { user, values } = await shown(field, tags)
    const flag = button('two for arch')
    expect(flag.title).toBe('Seen from both sides')
    expect(flag.getAttribute('aria-pressed')).toBe('true')
    await user.click(flag)
    await user.click(button('two for leaf'))
    expect(values.at(-1)).toEqual([
      { ...tags[0], flags: [] },
      { ...tags[1], flags: ['two'] },
    ])
  })
})

describe('what happens to an item', () => {
  const word = (value: string) => ({ value, label: value })
  const field: Field = {
    type: 'events',
    key: 'events',
    label: 'Events',
    causes: [word('pushed'), word('passed')],
    actions: [word('ring'), word('open')],
    things: ['bell'],
  }

  it('is nothing at first, and says how to add something', async () => {
    const { user, values } = await shown(field, [])
    expect(screen.getByText(/Nothing happens yet/)).toBeDefined()
    await user.click(button('Add an event'))
    expect(values).toEqual([[{ when: 'pushed', do: 'ring' }]])
  })

  it('is of the item until a thing in it is chosen, and again when the item is', async () => {
    const { user, values } = await shown(field, [{ when: 'pushed', do: 'ring' }])
    await user.selectOptions(choice('Event 1: what'), 'bell')
    expect(values.at(-1)).toEqual([{ at: 'bell', when: 'pushed', do: 'ring' }])
    await user.selectOptions(choice('Event 1: what'), 'the item')
    expect(values.at(-1)).toEqual([{ when: 'pushed', do: 'ring' }])
  })

  it('shows a word that the game does not have, and says so', async () => {
    await shown(field, [{ when: 'kicked', do: 'ring' }])
    expect(optionsOf('Event 1: when')[0]).toBe('kicked (not there)')
  })

  it('is taken away line by line', async () => {
    const { user, values } = await shown(field, [
      { when: 'pushed', do: 'ring' },
      { when: 'passed', do: 'open' },
    ])
    await user.click(button('Remove event 1'))
    expect(values).toEqual([[{ when: 'passed', do: 'open' }]])
  })
})

describe('an outline', () => {
  const field: Field = { type: 'outline', key: 'outline', label: 'Outline' }

  it('is moved by the arrow keys, and stays on the paper', async () => {
    const { user, values } = await shown(field, [
      [-0.5, 0],
      [0.75, 0.2],
    ])
    screen.getByRole('slider', { name: 'Corner 1' }).focus()
    await user.keyboard('{ArrowRight}{ArrowUp}')
    expect(values.at(-1)).toEqual([
      [-0.48, 0.02],
      [0.75, 0.2],
    ])
    screen.getByRole('slider', { name: 'Corner 2' }).focus()
    await user.keyboard('{ArrowRight}')
    expect(values.at(-1)).toEqual([
      [-0.48, 0.02],
      [0.75, 0.2],
    ])
  })

  it('gets corners and loses them, but never has fewer than two', async () => {
    const { user, values } = await shown(field, [
      [-0.5, 0],
      [0.5, 0],
    ])
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Leave out the last corner' }).disabled).toBe(true)
    await user.click(button('Corner'))
    expect(values.at(-1)).toEqual([
      [-0.5, 0],
      [0.5, 0],
      [0.6, 0],
    ])
    await user.click(button('Leave out the last corner'))
    expect(values.at(-1)).toHaveLength(2)
  })
})
