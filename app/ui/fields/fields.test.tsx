import { fireEvent, render, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import type { GameAxis } from '../../../core/game/space'
import { ColourInput } from './colour-input'
import { Row, Switch } from './field-row'
import { NumberInput } from './number-input'
import { TextInput } from './text-input'
import { useUntaken } from './use-draft'
import { VectorInput, type Triple } from './vector-input'

const user = userEvent.setup()
const box = (name: string): HTMLInputElement => screen.getByRole('textbox', { name })

describe('a number field', () => {
  const shown = (props: Partial<Parameters<typeof NumberInput>[0]> = {}) => {
    const onChange = vi.fn()
    render(<NumberInput label="Keep" value={1200} least={10} most={5000} onChange={onChange} {...props} />)
    return onChange
  }

  it('shows the number with its thousands, and its limits where one points at it', () => {
    shown()
    expect(box('Keep').value).toBe('1,200')
    expect(box('Keep').title).toBe('least 10, most 5,000')
  })

  it('counts on Enter, and not at each key', async () => {
    const onChange = shown()
    await user.clear(box('Keep'))
    await user.type(box('Keep'), '900')
    expect(onChange).not.toHaveBeenCalled()
    await user.keyboard('{Enter}')
    expect(onChange.mock.calls).toEqual([[900]])
  })

  it('counts when it is left', async () => {
    const onChange = shown()
    await user.clear(box('Keep'))
    await user.type(box('Keep'), '1 500')
    await user.tab()
    expect(onChange.mock.calls).toEqual([[1500]])
  })

  it.each([
    ['99999', 5000],
    ['1', 10],
    ['−4', 10],
    ['2,5', 10],
    ['2,500', 2500],
  ])('brings %s within its limits: %d', async (typed, taken) => {
    const onChange = shown()
    await user.clear(box('Keep'))
    await user.type(box('Keep'), `${typed}{Enter}`)
    expect(onChange.mock.calls).toEqual([[taken]])
  })

  it('comes back as it was on Escape, and the card around it stays', async () => {
    const closed = vi.fn()
    const onChange = vi.fn()
    render(
      <div role="presentation" onKeyDown={(event) => event.key === 'Escape' && closed()}>
        <NumberInput label="Keep" value={1200} onChange={onChange} />
      </div>,
    )
    await user.clear(box('Keep'))
    await user.type(box('Keep'), '7{Escape}')
    expect(box('Keep').value).toBe('1,200')
    expect(onChange).not.toHaveBeenCalled()
    expect(closed).not.toHaveBeenCalled()
    await user.keyboard('{Escape}')
    expect(closed).toHaveBeenCalledOnce()
  })

  it('says of what is no number that it is none, and takes it for nothing', async () => {
    const onChange = shown()
    await user.clear(box('Keep'))
    await user.type(box('Keep'), 'many')
    expect(box('Keep').getAttribute('aria-invalid')).toBe('true')
    await user.tab()
    expect(onChange).not.toHaveBeenCalled()
    expect(box('Keep').value).toBe('1,200')
  })

  it('tells nobody of a number that is the same', async () => {
    const onChange = shown()
    await user.click(box('Keep'))
    await user.tab()
    await user.clear(box('Keep'))
    await user.type(box('Keep'), '1200{Enter}')
    expect(onChange).not.toHaveBeenCalled()
  })

  it('keeps the places that it does not show', async () => {
    const onChange = shown({ value: 10.123456, places: 2 })
    expect(box('Keep').value).toBe('10.12')
    await user.click(box('Keep'))
    await user.tab()
    expect(onChange).not.toHaveBeenCalled()
  })

  it('is empty, and takes the first number, where there is none yet', async () => {
    const onChange = shown({ value: null, placeholder: 'X' })
    expect(box('Keep').value).toBe('')
    await user.click(box('Keep'))
    await user.tab()
    expect(onChange).not.toHaveBeenCalled()
    await user.type(box('Keep'), '12{Enter}')
    expect(onChange.mock.calls).toEqual([[12]])
  })

  it('has a slider whose way is shown before it counts', () => {
    const onDraft = vi.fn()
    const onChange = shown({ slider: 10, onDraft })
    const slider = screen.getByRole('slider', { name: 'Keep, slider' })
    fireEvent.change(slider, { target: { value: '800' } })
    expect(onDraft.mock.calls).toEqual([[800]])
    expect(box('Keep').value).toBe('800')
    expect(onChange).not.toHaveBeenCalled()
    fireEvent.pointerUp(slider)
    expect(onChange.mock.calls).toEqual([[800]])
    expect(onDraft.mock.calls.at(-1)).toEqual([null])
  })
})

describe('a line of text', () => {
  it('counts on Enter or when it is left, without the spaces around it', async () => {
    const onChange = vi.fn()
    render(<TextInput label="Name" value="gate" onChange={onChange} />)
    await user.clear(box('Name'))
    await user.type(box('Name'), '  old gate {Enter}')
    expect(onChange.mock.calls).toEqual([['old gate']])
  })

  it('comes back when it is left empty, and on Escape', async () => {
    const onChange = vi.fn()
    render(<TextInput label="Name" value="gate" onChange={onChange} />)
    await user.clear(box('Name'))
    await user.tab()
    expect(box('Name').value).toBe('gate')
    await user.type(box('Name'), 'way{Escape}')
    expect(box('Name').value).toBe('gate')
    expect(onChange).not.toHaveBeenCalled()
  })
})

describe('what is typed and does not count yet', () => {
  function Told() {
    return <p role="status">{useUntaken() ? 'open' : 'all taken'}</p>
  }

  it('is known, so that nobody is told that all is kept', async () => {
    render(
      <>
        <TextInput label="Name" value="gate" onChange={() => undefined} />
        <Told />
      </>,
    )
    const said = (): string | null => screen.getByRole('status').textContent
    expect(said()).toBe('all taken')
    await user.type(box('Name'), 's')
    expect(said()).toBe('open')
    await user.keyboard('{Escape}')
    expect(said()).toBe('all taken')
  })

  it('is forgotten with the field', async () => {
    const { rerender } = render(
      <>
        <TextInput label="Name" value="gate" onChange={() => undefined} />
        <Told />
      </>,
    )
    await user.type(box('Name'), 's')
    rerender(<Told />)
    expect(screen.getByRole('status').textContent).toBe('all taken')
  })
})

describe('a colour', () => {
  it('counts when the chooser is closed, and not at each shade on the way', () => {
    const onChange = vi.fn()
    render(<ColourInput label="Colour" value="#112233" onChange={onChange} />)
    const input = screen.getByLabelText<HTMLInputElement>('Colour')
    fireEvent.input(input, { target: { value: '#445566' } })
    expect(onChange).not.toHaveBeenCalled()
    expect(input.value).toBe('#445566')
    input.dispatchEvent(new Event('change', { bubbles: true }))
    expect(onChange.mock.calls).toEqual([['#445566']])
  })
})

describe('a switch in its row', () => {
  it('is told by its name and turned by mouse and key', async () => {
    const onChange = vi.fn()
    render(
      <Row id="hold" label="Hold texture seams" unit="spans">
        <Switch on={false} label="Hold texture seams" onChange={onChange} />
      </Row>,
    )
    const control = screen.getByRole('switch', { name: 'Hold texture seams' })
    expect(control.getAttribute('aria-checked')).toBe('false')
    await user.click(control)
    control.focus()
    await user.keyboard(' ')
    expect(onChange.mock.calls).toEqual([[true], [true]])
    expect(screen.getByText('spans')).toBeDefined()
  })
})

describe('three numbers along the game’s axes', () => {
  /** A game whose Z is up and whose X points the other way. */
  const axes: GameAxis[] = [
    { letter: 'X', working: 0, sign: -1 },
    { letter: 'Y', working: 2, sign: 1 },
    { letter: 'Z', working: 1, sign: 1 },
  ]
  const shown = (value: Triple | null, signed = true) => {
    const onChange = vi.fn()
    render(
      <VectorInput label={(axis) => `Moved, ${axis}`} axes={axes} value={value} signed={signed} onChange={onChange} />,
    )
    return onChange
  }

  it('are shown as the game counts them', () => {
    shown([1, 2, 3])
    expect(['X', 'Y', 'Z'].map((axis) => box(`Moved, ${axis}`).value)).toEqual(['-1', '3', '2'])
  })

  it('are kept in the working space', async () => {
    const onChange = shown([1, 2, 3])
    await user.clear(box('Moved, X'))
    await user.type(box('Moved, X'), '5{Enter}')
    await user.clear(box('Moved, Z'))
    await user.type(box('Moved, Z'), '7{Enter}')
    expect(onChange.mock.calls).toEqual([[[-5, 2, 3]], [[1, 7, 3]]])
  })

  it('have no direction where they are sizes', () => {
    shown([1, 2, 3], false)
    expect(box('Moved, X').value).toBe('1')
  })

  it('begin at nought where there is no place yet', async () => {
    const onChange = shown(null)
    expect(box('Moved, Y').value).toBe('')
    await user.type(box('Moved, Y'), '4{Enter}')
    expect(onChange.mock.calls).toEqual([[[0, 0, 4]]])
  })

  it('show no nought with a minus', () => {
    shown([0, 0, 0])
    expect(box('Moved, X').value).toBe('0')
  })
})
