import { screen, within } from '@testing-library/react'
import { useState } from 'react'
import { describe, expect, it, vi } from 'vitest'
import type { EntryFault } from '../../core/game/catalogue/entry-faults'
import { catalogueFieldSchema, type CatalogueField, type FieldValue } from '../../core/game/schema-catalogue'
import { crateOf, itemOf, rulebook, showInCrate } from '../test-support/in-crate'
import { EntryLines } from './entry-lines'
import { LineField } from './line-field'
import type { EntryHands } from './use-entry'

type Value = Parameters<typeof LineField>[0]['value']

/** A line whose value stays as somebody sets it. */
async function shown(allowed: FieldValue, first: Value, names: string[] = []) {
  const values: Value[] = []
  function Kept() {
    const [value, setValue] = useState(first)
    return (
      <LineField
        id="line"
        label="Price"
        allowed={allowed}
        value={value}
        namesFor={() => (names.length > 0 ? [{ title: 'Parts', names }] : [])}
        onChange={(next) => {
          values.push(next)
          setValue(next)
        }}
      />
    )
  }
  return { ...(await showInCrate(<Kept />)), values }
}
const choice = (name = 'Price'): HTMLSelectElement => screen.getByRole('combobox', { name })
const optionsOf = (): string[] => [...choice().options].map(({ textContent }) => textContent)
const box = (name = 'Price'): HTMLInputElement => screen.getByRole('textbox', { name })

describe('a line of an entry', () => {
  const number: FieldValue = { sort: 'number', unit: 'shillings', least: 1, most: 5000, whole: true }

  it('that is a number says its range and stays whole within it', async () => {
    const { user, values } = await shown(number, 12)
    expect(screen.getByText('1 to 5,000 shillings')).toBeDefined()
    await user.clear(box())
    await user.type(box(), '12.7{Enter}')
    await user.clear(box())
    await user.type(box(), '9000{Enter}')
    expect(values).toEqual([13, 5000])
  })

  it('that says nothing yet is empty', async () => {
    await shown(number, undefined)
    expect(box().value).toBe('')
  })

  it('that is a long text counts when it is left', async () => {
    const { user, values } = await shown({ sort: 'text', longest: 400, pattern: null }, 'An old gate.')
    await user.type(box(), ' It creaks.')
    expect(values).toEqual([])
    await user.tab()
    expect(values).toEqual(['An old gate. It creaks.'])
  })

  it('that is a word shows one that the game does not know, and that it does not', async () => {
    const of = [
      { word: 'oak', title: 'Oak' },
      { word: 'iron', title: 'Iron' },
    ]
    const { user, values } = await shown({ sort: 'choice', of }, 'tin')
    expect(optionsOf()).toEqual(['tin (not there)', 'Oak', 'Iron'])
    expect(choice().getAttribute('aria-invalid')).toBe('true')
    await user.selectOptions(choice(), 'Iron')
    expect(values).toEqual(['iron'])
    expect(optionsOf()).toEqual(['Oak', 'Iron'])
  })

  it('that is yes or no is a switch', async () => {
    const { user, values } = await shown({ sort: 'yes-no' }, undefined)
    await user.click(screen.getByRole('switch', { name: 'Price' }))
    expect(values).toEqual([true])
  })

  it('that names something offers what there is, under what it is', async () => {
    const { user, values } = await shown({ sort: 'reference', to: ['part'], ofKinds: null }, undefined, [
      'arch',
      'leaf',
    ])
    expect(optionsOf()).toEqual(['not said', 'arch', 'leaf'])
    expect(screen.getByRole('group', { name: 'Parts' })).toBeDefined()
    await user.selectOptions(choice(), 'leaf')
    expect(values).toEqual(['leaf'])
  })

  describe('that is a list', () => {
    const list = (of: Extract<FieldValue, { sort: 'list' }>['of'], most = 3): FieldValue => ({
      sort: 'list',
      of,
      least: 0,
      most,
    })

    it('gets values, changes them and loses them, up to its most', async () => {
      const { user, values } = await shown(list({ sort: 'number', unit: '', least: 2, most: 9, whole: true }, 2), [])
      await user.click(screen.getByRole('button', { name: 'Add to Price' }))
      await user.click(screen.getByRole('button', { name: 'Add to Price' }))
      expect(values.at(-1)).toEqual([2, 2])
      expect(screen.queryByRole('button', { name: 'Add to Price' })).toBeNull()
      await user.clear(box('Price, 2'))
      await user.type(box('Price, 2'), '7{Enter}')
      expect(values.at(-1)).toEqual([2, 7])
      await user.click(screen.getByRole('button', { name: 'Take 2 out of Price' }))
      expect(values.at(-1)).toEqual([7])
    })

    it('of names says that there is nothing to name', async () => {
      await shown(list({ sort: 'reference', to: ['light'], ofKinds: null }), [])
      expect(screen.getByText('There is nothing to name.')).toBeDefined()
    })

    it('counts what is no list as an empty one', async () => {
      const { user, values } = await shown(list({ sort: 'yes-no' }), 'yes')
      await user.click(screen.getByRole('button', { name: 'Add to Price' }))
      expect(values).toEqual([[true]])
    })
  })
})

describe('the lines of an entry', () => {
  const field = (key: string, more: Partial<CatalogueField> = {}): CatalogueField => ({
    ...catalogueFieldSchema.parse({ key, title: key, value: { sort: 'text' } }),
    ...more,
  })
  const fault = (where: string, message: string): EntryFault =>
    ({ rule: 'entry-value', severity: 'blocks', where, message, title: '' }) as EntryFault
  const gate = itemOf('Gate')

  async function lines(
    fields: CatalogueField[],
    said: Record<string, string>,
    own: Record<string, string>,
    more: { faults?: EntryFault[]; stock?: { title: string; fields: Record<string, unknown> } | null } = {},
  ) {
    const hands = { report: { names: {} }, faults: more.faults ?? [] } as unknown as EntryHands
    const onSay = vi.fn()
    const page = await showInCrate(
      <EntryLines
        item={gate}
        hands={hands}
        fields={fields}
        said={said}
        own={own}
        stock={more.stock ?? null}
        onSay={onSay}
      />,
      crateOf(gate, itemOf('Bell')),
    )
    return { ...page, onSay }
  }
  const lineOf = (title: string): HTMLElement => screen.getByText(title, { selector: 'b' }).closest('li') as HTMLElement

  it('say where each value comes from', async () => {
    await lines(
      [field('Title'), field('Price'), field('Weight'), field('Maker')],
      { Title: 'Gate', Price: '12', Weight: '3' },
      { Title: 'Gate', Price: '12' },
      { stock: { title: 'the mill gate', fields: { Price: '12' } } },
    )
    const origins = ['Title', 'Price', 'Weight', 'Maker'].map((title) => lineOf(title).lastElementChild?.textContent)
    expect(origins).toEqual(['yourstake back', 'as in the mill gatetake back', 'usual', 'not said'])
  })

  it('are taken back one by one', async () => {
    const { user, onSay } = await lines([field('Title')], { Title: 'Gate' }, { Title: 'Gate' })
    await user.click(screen.getByRole('button', { name: 'Take back Title' }))
    expect(onSay.mock.calls).toEqual([[{ Title: null }]])
  })

  it('have what is wrong with them beside them, in lists too', async () => {
    await lines(
      [field('Title'), field('Price')],
      {},
      {},
      {
        faults: [fault('Title', 'It is too long.'), fault('Price[1]', 'The second is no number.')],
      },
    )
    expect(within(lineOf('Title')).getByRole('status').textContent).toContain('It is too long.')
    expect(within(lineOf('Price')).getByRole('status').textContent).toContain('The second is no number.')
  })

  it('are said as they are changed', async () => {
    const { user, onSay } = await lines([field('Title', { needed: true, described: 'What players read.' })], {}, {})
    expect(lineOf('Title').textContent).toContain('needed')
    expect(lineOf('Title').textContent).toContain('What players read')
    await user.type(box('Title'), 'Old gate')
    await user.tab()
    expect(onSay.mock.calls).toEqual([[{ Title: 'Old gate' }]])
  })

  it('offer the crate’s other items and what the game has, where they may be named', async () => {
    await lines([field('Beside', { value: { sort: 'reference', to: ['item', 'stock'], ofKinds: null } })], {}, {})
    const names = [...choice('Beside').options].map(({ value }) => value)
    expect(names).toContain('bell')
    expect(names).not.toContain('gate')
    expect(names).toEqual(expect.arrayContaining(rulebook.stock.objects.map(({ id }) => id)))
  })
})
