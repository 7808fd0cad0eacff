import { fireEvent, render, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { beforeEach, describe, expect, it } from 'vitest'
import { rulebookById } from '../../core/game/load'
import type { SceneData } from '../workers/scene-data'
import { BendBar } from './bend-bar'
import { restBones, takeBone, useBend } from './bend-state'
import { MotionBar } from './motion-bar'
import { leadMotion, restMotion, useMotion } from './motion-state'

beforeEach(() => {
  restMotion()
  restBones()
  takeBone(null)
})

describe('the bar of a motion', () => {
  const motion = { seconds: 2.5 } as NonNullable<SceneData['motion']>
  const moment = () => screen.getByLabelText('Moment of the motion')

  it('begins at rest, and lets it move and hold', async () => {
    render(<MotionBar motion={motion} />)
    expect(screen.getByText('0.00 / 2.50 s')).toBeDefined()
    expect(screen.getByRole('button', { name: 'At rest' })).toHaveProperty('disabled', true)
    await userEvent.click(screen.getByRole('button', { name: 'Let it move' }))
    expect(useMotion.getState()).toMatchObject({ at: 0, runs: true })
    await userEvent.click(screen.getByRole('button', { name: 'Hold' }))
    expect(useMotion.getState()).toMatchObject({ at: 0, runs: false })
  })

  it('stands where it is dragged to, and stops there', () => {
    render(<MotionBar motion={motion} />)
    fireEvent.change(moment(), { target: { value: '1.25' } })
    expect(useMotion.getState()).toMatchObject({ at: 1.25, runs: false })
    expect(moment().getAttribute('aria-valuetext')).toBe('1.25 of 2.50 seconds')
  })

  it('goes back to rest, and rests when it goes away', async () => {
    const { unmount } = render(<MotionBar motion={motion} />)
    fireEvent.change(moment(), { target: { value: '1' } })
    await userEvent.click(screen.getByRole('button', { name: 'At rest' }))
    expect(useMotion.getState().at).toBeNull()
    fireEvent.change(moment(), { target: { value: '2' } })
    unmount()
    expect(useMotion.getState()).toMatchObject({ at: null, runs: false })
  })

  it('keeps to where something else leads the parts', () => {
    const led = new Map([['leaf', new Float32Array(16)]])
    leadMotion(led)
    restMotion()
    expect(useMotion.getState().led).toBe(led)
    leadMotion(null)
  })
})

describe('the bar of a bend', () => {
  const { space } = rulebookById('tarn-and-tiller')
  const bend = { bones: [{ name: 'hip' }, { name: 'knee' }] } as NonNullable<SceneData['bend']>
  const show = () => render(<BendBar bend={bend} space={space} reach={2.2} />)

  it('takes the first bone in hand by itself', () => {
    show()
    expect(screen.getByLabelText('Bone')).toHaveProperty('value', 'hip')
    expect(screen.getByRole('button', { name: 'At rest' })).toHaveProperty('disabled', true)
  })

  it('turns the bone in hand by degrees about an axis, and leaves the others', async () => {
    show()
    await userEvent.selectOptions(screen.getByLabelText('Bone'), 'knee')
    const [slider] = screen.getAllByLabelText(/^Turn about/)
    fireEvent.change(slider, { target: { value: '45' } })
    const { moves } = useBend.getState()
    expect([...moves.keys()]).toEqual(['knee'])
    expect(
      moves
        .get('knee')
        ?.turnDegrees.map(Math.abs)
        .toSorted((a, b) => b - a),
    ).toEqual([45, 0, 0])
    expect(screen.getByText('45°')).toBeDefined()
    expect(screen.getAllByLabelText(/^Turn about/)[0].getAttribute('aria-valuetext')).toBe('45 degrees')
  })

  it('pulls it as far as the item is large', async () => {
    show()
    await userEvent.click(screen.getByRole('button', { name: 'Pull' }))
    const [slider] = screen.getAllByLabelText(/^Pull along/)
    expect(slider.getAttribute('max')).toBe('3')
    fireEvent.change(slider, { target: { value: '1.5' } })
    expect(useBend.getState().moves.get('hip')?.moved.map(Math.abs)).toContain(1.5)
    expect(useBend.getState().moves.get('hip')?.turnDegrees).toEqual([0, 0, 0])
  })

  it('goes back to rest with all bones', async () => {
    show()
    fireEvent.change(screen.getAllByLabelText(/^Turn about/)[1], { target: { value: '-30' } })
    await userEvent.click(screen.getByRole('button', { name: 'At rest' }))
    expect(useBend.getState().moves.size).toBe(0)
  })

  it('shows nothing where there are no bones, and takes another where the one in hand is gone', () => {
    takeBone('tail')
    const { container, rerender } = render(<BendBar bend={{ bones: [] } as never} space={space} reach={1} />)
    expect(container.textContent).toBe('')
    rerender(<BendBar bend={bend} space={space} reach={1} />)
    expect(useBend.getState().bone).toBe('hip')
  })
})
