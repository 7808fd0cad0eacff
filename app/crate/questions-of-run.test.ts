import { describe, expect, it } from 'vitest'
import { plainItem } from '../../core/test-support/crate-items'
import type { Question } from '../../core/questions/question'
import type { ItemRun } from '../queries/runs'
import { questionsOfRun } from './questions-of-run'

const question = (id: string, over: Partial<Question> = {}): Question => ({
  id,
  title: id,
  why: '',
  decides: [],
  answers: ['a', 'b'].map((answer) => ({ id: answer, label: answer, note: '', picture: null, change: {} })),
  chosen: 'a',
  answered: false,
  ...over,
})
const runWith = (...questions: Question[]): ItemRun => ({ evaluation: { questions } }) as unknown as ItemRun

describe('the questions of an item', () => {
  it('have the open ones first', () => {
    const run = runWith(question('kind', { answered: true }), question('unit'), question('up'))
    expect(questionsOfRun(plainItem(), run).map(({ id }) => id)).toEqual(['unit', 'up', 'kind'])
  })

  it('count as answered what was answered since the item ran', () => {
    const [up, unit] = questionsOfRun(
      { ...plainItem(), answers: { unit: 'b' } },
      runWith(question('unit'), question('up')),
    )
    expect([up.id, up.answered]).toEqual(['up', false])
    expect([unit.chosen, unit.answered]).toEqual(['b', true])
  })

  it('pass over an answer that is none of theirs any more, and are none before a run', () => {
    const [unit] = questionsOfRun({ ...plainItem(), answers: { unit: 'gone' } }, runWith(question('unit')))
    expect([unit.chosen, unit.answered]).toEqual(['a', false])
    expect(questionsOfRun(plainItem(), undefined)).toEqual([])
  })
})
