import { screen, within } from '@testing-library/react'
import { useState } from 'react'
import { beforeEach, describe, expect, it } from 'vitest'
import { CompareBar } from './compare-bar'
import { PartChips } from './part-chips'
import type { Compared } from './use-compared'
import { showInCrate } from '../test-support/in-crate'
import type { SceneData, ScenePart } from '../workers/scene-data'
import { resetYardView, useYardView } from '../yard/yard-view'

const part = (name: string, triangles = 12, role: ScenePart['role'] = 'part'): ScenePart =>
  ({ name, triangles, role, bounds: { min: [0, 0, 0], max: [1, 1, 1] } }) as ScenePart
const button = (name: string | RegExp): HTMLElement => screen.getByRole('button', { name })

beforeEach(resetYardView)

describe('the parts in the yard', () => {
  async function shown(parts: ScenePart[], dropped: string[] = []) {
    const chosen: (string | null)[] = []
    function Yard() {
      const [selected, select] = useState<string | null>(null)
      return (
        <PartChips
          parts={parts}
          dropped={dropped}
          selected={selected}
          onSelect={(name) => {
            chosen.push(name)
            select(name)
          }}
        />
      )
    }
    return { ...(await showInCrate(<Yard />)), chosen }
  }

  it('stand by themselves while they are few, without levels and solids', async () => {
    await shown([part('arch', 12_000), part('arch_level_1', 400, 'level')], ['sheet'])
    const chips = within(screen.getByRole('list', { name: 'Parts' })).getAllByRole('listitem')
    expect(chips.map(({ textContent }) => textContent)).toEqual(['arch 12,000', 'sheet was left out'])
  })

  it('are picked, and let go by a second click', async () => {
    const { user, chosen } = await shown([part('arch'), part('leaf')])
    await user.click(button(/leaf/))
    expect(button(/leaf/).getAttribute('aria-pressed')).toBe('true')
    await user.click(button(/leaf/))
    expect(chosen).toEqual(['leaf', null])
  })

  it('are a list that opens where there are three hundred, and are found by typing', async () => {
    const many = Array.from({ length: 300 }, (_, number) => part(`post_${number}`))
    const { user, chosen } = await shown(many, ['sheet'])
    expect(within(screen.getByRole('list', { name: 'Parts' })).getAllByRole('listitem')).toHaveLength(1)
    await user.click(button(/300 parts, 1 left out/))
    const found = await screen.findByRole('list', { name: 'Parts found' })
    expect(within(found).getByText('and 100 more')).toBeDefined()
    await user.type(screen.getByRole('textbox', { name: 'Search the parts' }), 'POST_29')
    expect(within(found).getAllByRole('button')).toHaveLength(11)
    await user.click(within(found).getByRole('button', { name: /post_299/ }))
    expect(chosen).toEqual(['post_299'])
    await user.keyboard('{Escape}')
    expect(button(/^post_299/).getAttribute('aria-pressed')).toBe('true')
  })

  it('say so where none is called like what was typed', async () => {
    const { user } = await shown(Array.from({ length: 20 }, (_, number) => part(`post_${number}`)))
    await user.click(button(/20 parts/))
    await user.type(await screen.findByRole('textbox', { name: 'Search the parts' }), 'roof')
    expect(screen.getByText('No part is called so.')).toBeDefined()
  })
})

describe('two states of an item, set against each other', () => {
  const scene = (triangles: number): SceneData => ({ parts: [part('arch', triangles)] }) as unknown as SceneData
  const compared = (more: Partial<Compared> = {}): Compared => ({
    mode: 'wipe',
    wipe: 0.5,
    left: 0,
    right: 2,
    other: { scene: scene(38_098), placement: [] },
    shown: scene(10_000),
    ...more,
  })
  const states = ['Source', '1 Weld', '2 Reduce'].map((title, steps) => ({ steps, title }))
  const shown = (more?: Partial<Compared>) =>
    showInCrate(<CompareBar compared={compared(more)} states={states} subject={scene(10_000)} />)

  it('are told with their triangles', async () => {
    await shown()
    const bar = screen.getByRole('group', { name: 'Comparison' })
    expect(bar.textContent).toContain('38,098')
    expect(bar.textContent).toContain('10,000')
    expect(screen.queryByRole('status')).toBeNull()
  })

  it('are chosen, and the way in which they are compared stays', async () => {
    const { user } = await shown({ mode: 'flicker' })
    await user.selectOptions(screen.getByRole('combobox', { name: /^Left/ }), '1 Weld')
    expect(useYardView.getState().compare).toEqual({ mode: 'flicker', left: 1, right: 2, wipe: 0.5 })
  })

  it('are compared in another way', async () => {
    const { user } = await shown()
    await user.click(button('Side by side'))
    expect(useYardView.getState().compare).toMatchObject({ mode: 'side', left: 0, right: 2 })
  })

  it('say that one of them is being fetched', async () => {
    await shown({ other: null })
    expect(screen.getByRole('status').textContent).toBe('Fetching…')
  })
})
