import { render, screen, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { useState } from 'react'
import { describe, expect, it } from 'vitest'
import { PunchedCard, cardsSchema, type CardField, type CardValue } from './punched-card'

const punch = (from: string, more: Partial<CardValue['red']> = {}): CardValue['red'] => ({
  from,
  channel: 'red',
  inverted: false,
  scale: 1,
  value: 0,
  ...more,
})
const card: CardValue = {
  material: 'oak',
  output: 'gear',
  red: punch('occlusion'),
  green: punch('roughness', { channel: 'green' }),
  blue: punch('metalness'),
  alpha: punch('constant', { value: 1 }),
}
const field = {
  type: 'cards',
  key: 'cards',
  label: 'Cards',
  materials: ['oak'],
  pictures: ['mask.png', 'soot.tga'],
  rows: [
    { value: 'occlusion', label: 'Occlusion', picture: 'oak_ao.png' },
    { value: 'roughness', label: 'Roughness', picture: 'oak_r.png' },
    { value: 'metalness', label: 'Metalness', picture: '' },
    { value: 'gloss', label: 'Gloss', picture: 'oak_gloss.png' },
  ],
  layouts: [{ role: 'gear', channels: { r: 'occlusion', g: 'roughness', b: 'metalness', a: null } }],
} as unknown as CardField

/** A card that stays as somebody punches it. */
function showCard(first = card): { now: () => CardValue } {
  let now = first
  function Kept() {
    const [value, setValue] = useState(first)
    return (
      <PunchedCard
        card={value}
        field={field}
        file="oak_g"
        format="DDS · BC7"
        onChange={(next) => {
          now = next
          setValue(next)
        }}
      />
    )
  }
  render(<Kept />)
  return { now: () => now }
}

describe('a punched card', () => {
  it('shows which map goes into which channel, and what the game reads there', () => {
    showCard()
    expect(screen.getByRole('radio', { name: 'Occlusion into R' })).toHaveProperty('checked', true)
    expect(screen.getByRole('radio', { name: 'Occlusion into G' })).toHaveProperty('checked', false)
    const read = screen.getByRole('rowheader', { name: 'the game reads' }).closest('tr')
    expect(
      within(read as HTMLElement)
        .getAllByRole('cell')
        .map(({ textContent }) => textContent),
    ).toEqual(['occl.', 'rough', 'metal', '—'])
  })

  it('is punched elsewhere with one press, from the red channel at first', async () => {
    const { now } = showCard()
    await userEvent.click(screen.getByRole('radio', { name: 'Metalness into G' }))
    expect(now().green).toEqual(punch('metalness'))
    expect(now().red).toEqual(card.red)
  })

  it('turns gloss round where the game reads roughness, and leaves it elsewhere', async () => {
    const { now } = showCard()
    await userEvent.click(screen.getByRole('radio', { name: 'Gloss into G' }))
    expect(now().green).toMatchObject({ from: 'gloss', inverted: true })
    await userEvent.click(screen.getByRole('radio', { name: 'Gloss into B' }))
    expect(now().blue).toMatchObject({ from: 'gloss', inverted: false })
  })

  it('takes a channel, turns it round and scales it; a constant has a value instead', async () => {
    const { now } = showCard()
    await userEvent.selectOptions(screen.getByLabelText('Channel of the map for R'), 'grey')
    await userEvent.click(screen.getByLabelText('R turned round'))
    const factor = screen.getByLabelText('Factor for G')
    await userEvent.clear(factor)
    await userEvent.type(factor, '2.5{Enter}')
    const value = screen.getByLabelText('Value of A, 0 to 1')
    await userEvent.clear(value)
    await userEvent.type(value, '0.25{Enter}')
    expect(now()).toMatchObject({
      red: { channel: 'brightness', inverted: true },
      green: { scale: 2.5 },
      alpha: { value: 0.25 },
    })
    expect(screen.queryByLabelText('A turned round')).toBeNull()
    expect(screen.queryByLabelText('Factor for A')).toBeNull()
  })

  it('gets a row for a picture that is asked for, once', async () => {
    const { now } = showCard()
    const others = screen.getByLabelText('A row for another picture')
    await userEvent.selectOptions(others, 'mask.png')
    expect(screen.getByRole('radio', { name: 'mask into A' })).toBeDefined()
    expect(
      within(others)
        .getAllByRole('option')
        .map(({ textContent }) => textContent),
    ).toEqual(['A row for another picture…', 'soot.tga'])
    await userEvent.click(screen.getByRole('radio', { name: 'mask into A' }))
    expect(now().alpha.from).toBe('picture:mask.png')
  })

  it('has a row for every picture that is punched already', () => {
    showCard({ ...card, alpha: punch('picture:soot.tga') })
    expect(screen.getByRole('radio', { name: 'soot into A' })).toHaveProperty('checked', true)
  })
})

describe('kept cards', () => {
  it('are read as they are, and what is none is none', () => {
    expect(cardsSchema.parse([card])).toEqual([card])
    expect(cardsSchema.parse([{ ...card, red: { from: 'x' } }])).toEqual([])
    expect(cardsSchema.parse('cards')).toEqual([])
  })
})
