import type { CrateItem } from '../../core/crate/schema'
import type { Question } from '../../core/questions/question'
import type { ItemRun } from '../queries/runs'

/** An item's questions, the open ones first; what was answered since it ran counts as answered. */
export function questionsOfRun(item: CrateItem, run: ItemRun | undefined): Question[] {
  const known = (run?.evaluation?.questions ?? []).map((question) => {
    const given = item.answers?.[question.id]
    return given === undefined || !question.answers.some(({ id }) => id === given)
      ? question
      : { ...question, chosen: given, answered: true }
  })
  return [...known.filter(({ answered }) => !answered), ...known.filter(({ answered }) => answered)]
}
