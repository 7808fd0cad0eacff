import { catalogueSentences } from './catalogue.ts'
import type { Rulebook } from '../schema.ts'
import { filesSentences } from './files.ts'
import { levelsSentences } from './levels.ts'
import { meshSentences } from './mesh.ts'
import { motionSentences } from './motion.ts'
import { namesSentences } from './names.ts'
import type { RuleSentence, SentencesOf, Topic } from './sentence.ts'
import { solidsSentences } from './solids.ts'
import { spaceSentences } from './space.ts'
import { surfaceSentences } from './surface.ts'

const topicSentences: Record<Topic, SentencesOf> = {
  space: spaceSentences,
  files: filesSentences,
  names: namesSentences,
  mesh: meshSentences,
  levels: levelsSentences,
  surface: surfaceSentences,
  solids: solidsSentences,
  motion: motionSentences,
  catalogue: catalogueSentences,
}

export interface ReadingFilter {
  /** Only what a kind has to keep to. */
  kind?: string
  /** Only what has all these words, in what is said, why, or the field’s name. */
  words?: string
}

/**
 * A rulebook for people: each demand as a sentence with its number, and why games ask it, in the order of reading.
 *
 * @example sentencesOf(rulebook, { kind: 'prop', words: 'triangles' })
 */
export function sentencesOf(rulebook: Rulebook, { kind, words = '' }: ReadingFilter = {}): RuleSentence[] {
  const asked = words.toLowerCase().split(/\s+/).filter(Boolean)
  return Object.values(topicSentences)
    .flatMap((of) => of(rulebook))
    .filter(({ kinds }) => kind === undefined || kinds === null || kinds.includes(kind))
    .filter(({ sentence, why, field }) => {
      const text = `${sentence} ${why} ${field}`.toLowerCase()
      return asked.every((word) => text.includes(word))
    })
}
