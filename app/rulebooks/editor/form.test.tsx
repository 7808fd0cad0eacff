import { render, screen, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import { schemaPlace } from '../../../core/game/schema-walk'
import type { DraftFault } from './draft'
import { FormContext } from './form-context'
import { SchemaField } from './schema-field'

const user = userEvent.setup()

/** A field as the form of a rulebook shows it. */
function shown(place: object, value: unknown, faults: DraftFault[] = []) {
  const [change, add] = [vi.fn(), vi.fn()]
  render(
    <FormContext value={{ faults, change, add }}>
      <SchemaField path={['maps', 'largestPixels']} place={schemaPlace.parse(place)} value={value} />
    </FormContext>,
  )
  return { change, add }
}
const path = ['maps', 'largestPixels']
const box = (name: string): HTMLInputElement => screen.getByRole('textbox', { name })
const fault = (at: DraftFault['path'], message: string): DraftFault => ({
  path: at,
  message,
  severity: 'blocks',
  from: 0,
  to: 0,
})

describe('a field of the form of a rulebook', () => {
  it('is called in words, and counts when it is left or on Enter', async () => {
    const { change } = shown({ type: 'number' }, 1024)
    await user.clear(box('largest pixels'))
    await user.type(box('largest pixels'), '2048')
    expect(change).not.toHaveBeenCalled()
    await user.keyboard('{Enter}')
    expect(change.mock.calls).toEqual([[path, 2048]])
  })

  it('is taken out where a number is emptied, and stays where it is none', async () => {
    const { change } = shown({ type: 'number' }, 1024)
    await user.clear(box('largest pixels'))
    await user.type(box('largest pixels'), 'large{Enter}')
    expect(change).not.toHaveBeenCalled()
    await user.clear(box('largest pixels'))
    await user.tab()
    expect(change.mock.calls).toEqual([[path, undefined]])
  })

  it('is one of its words, of whatever sort they are', async () => {
    const { change } = shown({ enum: [1, 2, 4] }, 1)
    await user.selectOptions(screen.getByRole('combobox', { name: 'largest pixels' }), '4')
    expect(change.mock.calls).toEqual([[path, 4]])
  })

  it('is yes or no', async () => {
    const { change } = shown({ type: 'boolean' }, false)
    await user.click(screen.getByRole('checkbox', { name: 'largest pixels' }))
    expect(change.mock.calls).toEqual([[path, true]])
  })

  it('is a list with commas between', async () => {
    const { change } = shown({ type: 'array', items: { type: 'string' } }, ['dds'])
    await user.type(box('largest pixels'), ', tga , {Enter}')
    expect(change.mock.calls).toEqual([[path, ['dds', 'tga']]])
  })

  it('is a list of numbers only where all of them are', async () => {
    const { change } = shown({ type: 'array', items: { type: 'number' } }, [1, 2])
    await user.type(box('largest pixels'), ', x{Enter}')
    expect(change).not.toHaveBeenCalled()
    await user.clear(box('largest pixels'))
    await user.type(box('largest pixels'), '3, 4.5{Enter}')
    expect(change.mock.calls).toEqual([[path, [3, 4.5]]])
  })

  it('has what is wrong with it beside it, and not what is wrong elsewhere', () => {
    shown({ type: 'number' }, 0, [fault(path, 'It is too small.'), fault(['maps'], 'Something else.')])
    expect(screen.getByText('It is too small.')).toBeDefined()
    expect(screen.queryByText('Something else.')).toBeNull()
  })
})

describe('what a game may not have at all', () => {
  const place = {
    anyOf: [
      { type: 'object', properties: { keysPerSecond: { type: 'number' } }, required: ['keysPerSecond'] },
      { type: 'null' },
    ],
  }

  it('is switched on with something to begin with', async () => {
    const { change } = shown(place, null)
    expect(screen.getByText('not asked')).toBeDefined()
    expect(screen.queryByRole('textbox')).toBeNull()
    await user.click(screen.getByRole('checkbox', { name: /largest pixels/ }))
    expect(change.mock.calls[0][0]).toEqual(path)
    expect(change.mock.calls[0][1]).toHaveProperty('keysPerSecond')
  })

  it('is switched off, and shows its fields while it is on', async () => {
    const { change } = shown(place, { keysPerSecond: 30 })
    expect(box('keys per second').value).toBe('30')
    await user.click(screen.getByRole('checkbox', { name: /largest pixels/ }))
    expect(change.mock.calls).toEqual([[path, null]])
  })
})

describe('several things of one sort', () => {
  const place = {
    type: 'array',
    items: { type: 'object', properties: { name: { type: 'string' }, pixels: { type: 'number' } } },
  }
  const list = [
    { name: 'colour', pixels: 512 },
    { name: 'normal', pixels: 256 },
  ]

  it('are folded under their names, with a mark at those where something is wrong', () => {
    shown(place, list, [fault([...path, 1, 'pixels'], 'It is too small.')])
    const folds = [...document.querySelectorAll('summary')].map(({ textContent }) => textContent)
    expect(folds).toEqual(['colour', 'normal■ something is wrong here'])
  })

  it('are changed and removed at their place', async () => {
    const { change } = shown(place, list)
    const [, second] = document.querySelectorAll('details')
    second.open = true
    const pixels = within(second).getByRole<HTMLInputElement>('textbox', { name: 'pixels', hidden: true })
    await user.clear(pixels)
    await user.type(pixels, '128{Enter}')
    await user.click(screen.getByRole('button', { name: 'Remove colour' }))
    expect(change.mock.calls).toEqual([
      [[...path, 1, 'pixels'], 128],
      [[...path, 0], undefined],
    ])
  })

  it('get one more like the last', async () => {
    const { add } = shown(place, list)
    await user.click(screen.getByRole('button', { name: 'One more of largest pixels' }))
    expect(add.mock.calls).toEqual([[path, 2, list[1]]])
  })

  it('begin with an empty one', async () => {
    const { add } = shown(place, [])
    await user.click(screen.getByRole('button', { name: 'One more of largest pixels' }))
    expect(add.mock.calls[0].slice(0, 2)).toEqual([path, 0])
  })
})
