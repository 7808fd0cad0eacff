import { fireEvent, screen, within } from '@testing-library/react'
import { beforeEach, describe, expect, it } from 'vitest'
import { showField as shown } from '../test-support/in-field'
import type { Field } from '../workers/field-messages'
import { resetYardView, useYardView } from '../yard/yard-view'

const button = (name: string | RegExp): HTMLElement => screen.getByRole('button', { name })
const choice = (name: string): HTMLSelectElement => screen.getByRole('combobox', { name })

beforeEach(resetYardView)

describe('points and faces that are clicked in the yard', () => {
  const waiting = () => useYardView.getState().pick

  it('wait for clicks until one is done', async () => {
    const { user } = await shown({ type: 'points', key: 'points', label: 'Hinge', count: 2, unit: 'spans' }, [])
    await user.click(button('Click two points'))
    expect(waiting()).toEqual({ entry: 'step-1', key: 'points', kind: 'points', count: 2 })
    await user.click(button('Done'))
    expect(waiting()).toBeNull()
  })

  it('can be typed, and say how far apart they are', async () => {
    const { user, values } = await shown({ type: 'points', key: 'points', label: 'Hinge', count: 2, unit: 'spans' }, [
      [0, 0, 0],
      [3, 0, 4],
    ])
    expect(screen.getByText(/They are/).textContent).toBe('They are 5 spans apart now.')
    const [first] = screen.getAllByRole<HTMLInputElement>('textbox', { name: /of point 1/ })
    await user.clear(first)
    await user.type(first, '2{Enter}')
    expect(values.at(-1)).toEqual([
      [2, 0, 0],
      [3, 0, 4],
    ])
  })

  it('can be left out where there are many', async () => {
    const { user, values } = await shown({ type: 'points', key: 'points', label: 'Posts', count: 8, unit: 'spans' }, [
      [0, 0, 0],
      [1, 0, 0],
    ])
    await user.click(button('Leave out point 1'))
    expect(values.at(-1)).toEqual([[1, 0, 0]])
  })

  it('take a whole part without a pointer, from its middle', async () => {
    const { user, values } = await shown({ type: 'faces', key: 'faces', label: 'Faces' }, [])
    await user.selectOptions(choice('Add a part'), 'leaf')
    expect(values.at(-1)).toEqual([{ part: 'leaf', point: [1, 2, 3], growth: 'surface', angleDegrees: 20, radius: 0 }])
    await user.selectOptions(choice('How far pick 1 reaches'), 'the connected piece')
    expect(values.at(-1)).toMatchObject([{ part: 'leaf', growth: 'piece' }])
    await user.click(button('Remove pick 1'))
    expect(values.at(-1)).toEqual([])
  })

  it('show a stroke of the brush as one line, which goes as one', async () => {
    const dab = (x: number) => ({ part: 'arch', point: [x, 0, 0], growth: 'round', angleDegrees: 20, radius: 0.5 })
    const { user, values } = await shown({ type: 'faces', key: 'faces', label: 'Faces' }, [dab(0), dab(1), dab(2)])
    expect(screen.getByText('brush, 3 places')).toBeDefined()
    await user.click(button('Remove pick 1'))
    expect(values.at(-1)).toEqual([])
  })

  it('ask for the bend that stops them, or the width of the brush', async () => {
    const { user } = await shown({ type: 'faces', key: 'faces', label: 'Faces' }, [])
    const bend = screen.getByRole<HTMLInputElement>('textbox', { name: 'Least bend that stops it' })
    await user.clear(bend)
    await user.type(bend, '35{Enter}')
    expect(useYardView.getState().reach).toMatchObject({ growth: 'flat', angleDegrees: 35 })
    await user.selectOptions(choice('What a click takes'), 'a brush')
    expect(screen.getByRole('textbox', { name: 'Radius of the brush' })).toBeDefined()
    await user.selectOptions(choice('What a click takes'), 'one face')
    expect(screen.queryByRole('textbox', { name: 'Radius of the brush' })).toBeNull()
  })
})

describe('colours of looks', () => {
  const field: Field = {
    type: 'variants',
    key: 'variants',
    label: 'Looks',
    modes: [
      { value: 'tint', label: 'tint' },
      { value: 'cover', label: 'cover' },
    ],
  }
  const dusk = {
    name: 'Dusk',
    hueDegrees: 0,
    saturation: 0,
    lightness: 0,
    colour: '#2f5f9e',
    mode: 'tint',
    strength: 1,
  }

  it('are added, named, laid over otherwise and removed', async () => {
    const { user, values } = await shown(field, [])
    await user.click(button('Another look'))
    expect(values.at(-1)).toMatchObject([{ name: 'look 2', mode: 'tint', strength: 1 }])
    const name = screen.getByRole<HTMLInputElement>('textbox', { name: 'Name of look 1' })
    await user.clear(name)
    await user.type(name, 'Dawn{Enter}')
    await user.selectOptions(choice('How Dawn is laid over'), 'cover')
    expect(values.at(-1)).toMatchObject([{ name: 'Dawn', mode: 'cover' }])
    await user.click(button('Remove Dawn'))
    expect(values.at(-1)).toEqual([])
  })

  it('are shifted within their limits', async () => {
    const { user, values } = await shown(field, [dusk])
    const hue = screen.getByRole<HTMLInputElement>('textbox', { name: 'Hue °' })
    await user.clear(hue)
    await user.type(hue, '400{Enter}')
    expect(values.at(-1)).toEqual([{ ...dusk, hueDegrees: 180 }])
  })

  it('change all hues until some are named', async () => {
    const { user, values } = await shown({ type: 'hues', key: 'hues', label: 'Which hues' }, [])
    expect(screen.getByText('Which hues: all')).toBeDefined()
    await user.click(button('Only some hues'))
    expect(values.at(-1)).toEqual([{ hueDegrees: 90, reachDegrees: 40 }])
    expect(screen.getByText('Which hues: 1 of the circle')).toBeDefined()
    await user.click(button('Remove hues 1'))
    expect(values.at(-1)).toEqual([])
  })
})

describe('what is shared among parts', () => {
  it('counts each once until somebody says otherwise, and forgets what counts once again', async () => {
    const field: Field = { type: 'weights', key: 'weights', label: 'Counts for', least: 0.1, most: 10 }
    const { values } = await shown(field, [])
    const slider = screen.getByRole('slider', { name: 'How much arch counts' })
    fireEvent.change(slider, { target: { value: '1' } })
    fireEvent.keyUp(slider)
    expect(values.at(-1)).toEqual([{ part: 'arch', weight: 10 }])
    const again = screen.getByRole('slider', { name: 'How much arch counts' })
    fireEvent.change(again, { target: { value: '0' } })
    fireEvent.keyUp(again)
    expect(values.at(-1)).toEqual([])
  })
})

describe('a shape that is moved', () => {
  it('is changed as a setting of its own step', async () => {
    const { user, commands } = await shown(
      { type: 'shape-edit', key: 'moved', label: 'Place and size', unit: 'spans' },
      null,
    )
    const moved = within(screen.getByRole('group', { name: 'Moved' })).getAllByRole<HTMLInputElement>('textbox')
    await user.clear(moved[0])
    await user.type(moved[0], '2{Enter}')
    expect(commands()).toMatchObject([
      { do: 'edit-step', item: 'gate', entry: 'step-1', parameters: { moved: [2, 0, 0] } },
    ])
  })
})

describe('what pictures are for', () => {
  it('is chosen for each by its name', async () => {
    const { user, values } = await shown(
      {
        type: 'map-roles',
        key: 'roles',
        label: 'Pictures',
        names: [],
        options: [
          { value: 'colour', label: 'Colour' },
          { value: 'normal', label: 'Normals' },
        ],
      },
      [
        { texture: 'stone.png', role: 'colour' },
        { texture: 'stone_n.png', role: 'colour' },
      ],
    )
    await user.selectOptions(choice('What stone_n.png is for'), 'Normals')
    expect(values).toEqual([
      [
        { texture: 'stone.png', role: 'colour' },
        { texture: 'stone_n.png', role: 'normal' },
      ],
    ])
  })
})
