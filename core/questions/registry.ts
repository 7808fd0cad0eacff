import { askClips } from './clips.ts'
import { askKind } from './kind.ts'
import { askPieces } from './pieces.ts'
import { askStrays } from './strays.ts'
import { askUnit } from './unit.ts'
import { askUp } from './up.ts'
import type { AskedAbout, Asker, Question } from './question.ts'

/** In the order in which answers build on each other. Adding one adds a file and a line here. */
const askers: readonly Asker[] = [askKind, askUp, askUnit, askStrays, askPieces, askClips]

/**
 * What may not be decided without a person, with the likeliest answers chosen: an item is prepared all the same.
 *
 * @example const open = questionsAbout({ document, survey, strays, rulebook, kind, answers: {}, decidedSteps: [] })
 */
export const questionsAbout = (about: AskedAbout): Question[] =>
  askers.flatMap((ask) => {
    const question = ask(about)
    if (!question) return []
    const given = about.answers[question.id]
    const known = question.answers.some(({ id }) => id === given)
    return [{ ...question, chosen: known ? given : question.chosen, answered: known }]
  })
