import { screen } from '@testing-library/react'
import { describe, expect, it, vi } from 'vitest'
import type { Answer, Question } from '../../core/questions/question'
import { rulebook, showInCrate } from '../test-support/in-crate'
import { QuestionCard } from './question-card'

const answer = (id: string, picture: Answer['picture'] = null): Answer => ({
  id,
  label: `Answer ${id}`,
  note: `It would be ${id}.`,
  picture,
  change: {},
})
const question = (more: Partial<Question> = {}): Question => ({
  id: 'unit',
  title: 'How large is it?',
  why: 'The file does not say.',
  decides: ['size'],
  answers: [answer('m'), answer('cm'), answer('inch')],
  chosen: 'm',
  answered: false,
  ...more,
})

async function shown(asked: Question, disabled = false) {
  const onAnswer = vi.fn<(answer: Answer) => void>()
  const page = await showInCrate(
    <QuestionCard
      question={asked}
      scene={null}
      axes={{ up: '+y', forward: '+z' }}
      rulebook={rulebook}
      disabled={disabled}
      onAnswer={onAnswer}
    />,
  )
  return { ...page, onAnswer }
}
const radio = (name: RegExp): HTMLElement => screen.getByRole('radio', { name })

describe('a question that preparing may not decide alone', () => {
  it('says why it is asked, and which answer holds until somebody gives another', async () => {
    await shown(question())
    expect(screen.getByText('The file does not say.')).toBeDefined()
    expect(radio(/Answer m/).textContent).toContain('taken for now')
    expect(radio(/Answer cm/).textContent).toBe('Answer cmIt would be cm.')
  })

  it('says which answer was given', async () => {
    await shown(question({ answered: true, chosen: 'cm' }))
    expect(radio(/Answer cm/).textContent).toContain('your answer')
  })

  it('is answered by a click, by the one that holds already too', async () => {
    const { user, onAnswer } = await shown(question())
    await user.click(radio(/Answer cm/))
    await user.click(radio(/Answer m/))
    expect(onAnswer.mock.calls.map(([{ id }]) => id)).toEqual(['cm', 'm'])
  })

  it('is answered by Enter, and only looked through by the arrows', async () => {
    const { user, onAnswer } = await shown(question())
    radio(/Answer m/).focus()
    await user.keyboard('{ArrowRight}')
    expect(onAnswer).not.toHaveBeenCalled()
    await user.keyboard('{Enter}')
    expect(onAnswer).toHaveBeenCalledOnce()
  })

  it('is not answered while something is under way', async () => {
    const { user, onAnswer } = await shown(question(), true)
    await user.click(radio(/Answer cm/))
    expect(onAnswer).not.toHaveBeenCalled()
  })

  it('shows the mark of a kind, and that a picture is still drawn', async () => {
    const kind = rulebook.kinds[0].id
    await shown(
      question({
        answers: [answer('m', { of: 'kind', kind }), answer('cm', { of: 'view', up: '+z', forward: '-y' })],
      }),
    )
    expect(radio(/Answer m/).querySelector('svg')).not.toBeNull()
    expect(radio(/Answer cm/).textContent).toContain('…')
  })
})
