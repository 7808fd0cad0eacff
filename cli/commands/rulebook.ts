import { PlainError } from '../../core/support/plain-error.ts'
import { builtInRulebooks } from '../../core/game/load.ts'
import { parseCall, print, type Command } from '../command.ts'
import { gameNamed } from '../game.ts'

export const rulebook: Command = {
  name: 'rulebook',
  usage: 'rulebook ID|FILE',
  summary: 'Prints a built-in rulebook, or validates a rulebook file.',
  async run(words) {
    const call = parseCall(words, {})
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
