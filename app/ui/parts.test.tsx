import { render, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import { KeySheet } from '../search/key-sheet'
import { keyGroups } from '../search/keys'
import { DialogFrame } from './dialog-frame'
import { GaugeBar, isOver, type GaugeFacts } from './gauge-bar'
import { ProgressStrip } from './progress-strip'
import { StatusMark, statusWords, type Status } from './status-mark'

const user = userEvent.setup()

describe('a gauge', () => {
  const gauge = (more: Partial<GaugeFacts>): GaugeFacts => ({
    label: 'Triangles',
    value: 9000,
    limit: 10_000,
    least: 0,
    unit: 'count',
    ...more,
  })
  const told = (more: Partial<GaugeFacts>): string => {
    const { container } = render(<GaugeBar gauge={gauge(more)} />)
    return container.textContent
  }

  it('tells value and limit', () => expect(told({})).toBe('Triangles9,000 / 10,000'))
  it('says in words that it is beyond its limit, which colour alone would not', () =>
    expect(told({ value: 12_000 })).toContain('12,000 / 10,000 (not allowed)'))
  it('says what is needed and not there', () => expect(told({ value: 0, least: 1 })).toContain('0 / needed'))
  it('has no limit where the game has none', () => expect(told({ limit: null })).toContain('9,000 / no limit'))
  it('counts bytes in megabytes', () =>
    expect(told({ unit: 'bytes', value: 3 * 2 ** 20, limit: 8 * 2 ** 20 })).toBe('Triangles3.0 MB / 8.0 MB'))

  it('is over beyond its limit or below what is needed', () => {
    expect(isOver(gauge({ value: 10_000 }))).toBe(false)
    expect(isOver(gauge({ value: 10_001 }))).toBe(true)
    expect(isOver(gauge({ value: 0, least: 1 }))).toBe(true)
    expect(isOver(gauge({ value: 1e9, limit: null }))).toBe(false)
  })

  it('is a bar alone where there is little room', () => {
    const { container } = render(<GaugeBar gauge={gauge({})} compact />)
    expect(container.textContent).toBe('')
  })
})

describe('a status', () => {
  it('has a word of its own for each, and a shape of its own', () => {
    const shapes = new Set<string>()
    for (const status of Object.keys(statusWords) as Status[]) {
      const { container } = render(<StatusMark status={status} />)
      expect(container.textContent).toBe(statusWords[status])
      const [shape] = container.querySelectorAll('svg > *')
      shapes.add(`${shape.tagName} ${shape.getAttribute('r')} ${shape.getAttribute('d')}`)
    }
    expect(shapes.size).toBe(Object.keys(statusWords).length)
  })
})

describe('a long job', () => {
  it('tells how far it is, in words and for those who hear the page', () => {
    render(<ProgressStrip title="Reduce" doing="arch" fraction={0.426} of="of the steps" />)
    expect(screen.getByRole('status').textContent).toContain('43 %')
    expect(screen.getByRole('progressbar', { name: 'Reduce, of the steps' }).getAttribute('aria-valuenow')).toBe('43')
    expect(screen.queryByRole('button', { name: 'Stop' })).toBeNull()
  })

  it('can be stopped where somebody listens', async () => {
    const onStop = vi.fn()
    render(<ProgressStrip title="Reduce" doing="" fraction={0} of="of the steps" onStop={onStop} />)
    await user.click(screen.getByRole('button', { name: 'Stop' }))
    expect(onStop).toHaveBeenCalledOnce()
  })
})

describe('a question that stands before the page', () => {
  const shown = (disabled = false) => {
    const hands = { onClose: vi.fn(), onSubmit: vi.fn<(data: FormData) => void>() }
    render(
      <DialogFrame open title="Name the crate" action="Begin" disabled={disabled} {...hands}>
        <input name="name" aria-label="Name" defaultValue="Quay" />
      </DialogFrame>,
    )
    return hands
  }

  it('gives what its fields hold on Enter and by its button', async () => {
    const { onSubmit, onClose } = shown()
    await user.type(screen.getByRole('textbox', { name: 'Name' }), 'side{Enter}')
    await user.click(screen.getByRole('button', { name: 'Begin' }))
    expect(onSubmit.mock.calls.map(([data]) => data.get('name'))).toEqual(['Quayside', 'Quayside'])
    expect(onClose).not.toHaveBeenCalled()
  })

  it('closes on Cancel and Escape, and gives nothing', async () => {
    const { onSubmit, onClose } = shown()
    await user.click(screen.getByRole('button', { name: 'Cancel' }))
    await user.keyboard('{Escape}')
    expect(onClose).toHaveBeenCalledTimes(2)
    expect(onSubmit).not.toHaveBeenCalled()
  })

  it('cannot be answered before it is ready', () => {
    shown(true)
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Begin' }).disabled).toBe(true)
  })

  it('is told by its title', () => {
    shown()
    expect(screen.getByRole('dialog', { name: 'Name the crate' })).toBeDefined()
  })
})

describe('the sheet of all keys', () => {
  it('names each key with what it does, and closes', async () => {
    const onClose = vi.fn()
    render(<KeySheet open onClose={onClose} />)
    const sheet = screen.getByRole('dialog', { name: 'Keys' })
    for (const { title, keys } of keyGroups()) {
      expect(sheet.textContent).toContain(title)
      for (const { keys: pressed, does } of keys) expect(sheet.textContent).toContain(`${does}${pressed}`)
    }
    await user.click(screen.getByRole('button', { name: 'Close' }))
    expect(onClose).toHaveBeenCalledOnce()
  })
})
