import { PlainError } from '../../core/support/plain-error.ts'
import { builtInRulebooks, kindOf } from '../../core/game/load.ts'
import { sentencesOf } from '../../core/game/sentences/index.ts'
import type { RuleSentence } from '../../core/game/sentences/sentence.ts'
import { parseCall, print, type Command } from '../command.ts'
import { gameNamed } from '../game.ts'

export const rulebook: Command = {
  name: 'rulebook',
  usage: 'rulebook ID|FILE [--rules] [--kind KIND] [--find WORDS]',
  summary:
    'Prints a built-in rulebook, or validates a rulebook file; with --rules each demand as a sentence and why, of one kind or with some words.',
  async run(words) {
    const call = parseCall(words, { rules: { type: 'boolean' }, kind: { type: 'string' }, find: { type: 'string' } })
    if (call.positionals.length !== 1)
      throw new PlainError(
        'it takes one rulebook',
        'rulebook',
        `Built in: ${builtInRulebooks()
          .map((each) => each.id)
          .join(', ')}.`,
      )
    const [name] = call.positionals
    const found = (await gameNamed(name)).game.rulebook
    const { rules, kind, find } = call.values
    if (rules === true || kind !== undefined || find !== undefined) {
      const sentences = sentencesOf(found, {
        kind: typeof kind === 'string' ? kindOf(found, kind).id : undefined,
        words: typeof find === 'string' ? find : undefined,
      })
      print(call, { rules: sentences }, rulesForPeople(sentences))
      return 0
    }
    const isFile = !builtInRulebooks().some((known) => known.id === name)
    const text = JSON.stringify(found, null, 2)
    print(
      call,
      found,
      isFile ? [`${name} is a valid rulebook: ${found.title} ${found.version}, ${found.kinds.length} kinds.`] : [text],
    )
    return 0
  },
}

const rulesForPeople = (sentences: readonly RuleSentence[]): string[] =>
  sentences.length === 0
    ? ['No rule says that.']
    : sentences.flatMap(({ topic, kinds, sentence, why }, index) => [
        ...(sentences[index - 1]?.topic === topic ? [] : [topic]),
        `  ${kinds === null ? '' : `${kinds.join(', ')}: `}${sentence} ${why}`,
      ])
