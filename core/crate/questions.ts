import type { Document } from '@gltf-transform/core'
import { surveyDocument, type Survey } from '../intake/survey.ts'
import { questionsAbout } from '../questions/registry.ts'
import type { Question } from '../questions/question.ts'
import { findStrays } from '../item/strays.ts'
import { kindOf } from '../game/load.ts'
import type { Rulebook } from '../game/schema.ts'
import type { CrateItem } from './schema.ts'

/**
 * What is still asked about an item, and what was answered.
 * @param document the item before its first step
 *
 * @example const open = questionsOf(item, start.document, rulebook).filter(({ answered }) => !answered)
 */
export const questionsOf = (
  item: CrateItem,
  document: Document,
  rulebook: Rulebook,
  survey: Survey = surveyDocument(document, item.sources),
): Question[] =>
  questionsAbout({
    document,
    survey,
    strays: findStrays(document),
    rulebook,
    kind: kindOf(rulebook, item.kind),
    answers: item.answers ?? {},
    decidedSteps: item.worklist.filter(({ byHand }) => byHand === true).map(({ step }) => step),
  })
