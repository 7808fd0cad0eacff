import { PlainError } from '../../core/support/plain-error.ts'
import { builtInRulebooks, kindOf } from '../../core/game/load.ts'
import { sentencesOf } from '../../core/game/sentences/index.ts'
import { rulebookDifference } from '../../core/game/sentences/difference.ts'
import type { Rulebook } from '../../core/game/schema.ts'
import { plural } from '../../core/support/wording.ts'
import type { RuleSentence } from '../../core/game/sentences/sentence.ts'
import { parseCall, print, type Command } from '../command.ts'
import { gameNamed } from '../game.ts'

export const rulebook: Command = {
  name: 'rulebook',
  usage: 'rulebook ID|FILE [--rules] [--kind KIND] [--find WORDS] | rulebook ID|FILE --against ID|FILE',
  summary:
    'Prints a built-in rulebook, or validates a rulebook file; with --rules each demand as a sentence and why, of one kind or with some words; with --against what another demands otherwise.',
  async run(words) {
    const call = parseCall(words, {
      rules: { type: 'boolean' },
      kind: { type: 'string' },
      find: { type: 'string' },
      against: { type: 'string' },
    })
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
    const { rules, kind, find, against } = call.values
    if (typeof against === 'string') {
      const other = (await gameNamed(against)).game.rulebook
      const changes = rulebookDifference(found, other)
      print(call, { from: versionOf(found), to: versionOf(other), changes }, [
        `${versionOf(found)} → ${versionOf(other)}: ${plural(changes.length, 'demand')} otherwise`,
        ...changes.map(
          ({ kinds, before, after }) =>
            `  ${kinds === null ? '' : `${kinds.join(', ')}: `}${before ?? '(not asked)'} → ${after ?? '(not asked)'}`,
        ),
      ])
      return 0
    }
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

const versionOf = ({ title, version }: Rulebook): string => `${title} ${version}`

const rulesForPeople = (sentences: readonly RuleSentence[]): string[] =>
  sentences.length === 0
    ? ['No rule says that.']
    : sentences.flatMap(({ topic, kinds, sentence, why }, index) => [
        ...(sentences[index - 1]?.topic === topic ? [] : [topic]),
        `  ${kinds === null ? '' : `${kinds.join(', ')}: `}${sentence} ${why}`,
      ])
