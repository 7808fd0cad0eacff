import { rulebookText } from '../../core/crate/game-file.ts'
import type { Rulebook } from '../../core/game/schema.ts'
import { learnFrom, rulebookOf } from '../../core/learn/index.ts'
import { fieldSentence } from '../../core/learn/learn-entry-fields.ts'
import type { LearnedLine } from '../../core/learn/learned.ts'
import { PlainError } from '../../core/support/plain-error.ts'
import { plural } from '../../core/support/wording.ts'
import { writeBytes } from '../bytes.ts'
import { parseCall, print, type Command } from '../command.ts'
import { gatherGameFiles } from '../files.ts'

export const learn: Command = {
  async run(words) {
    const call = parseCall(words, {
      known: { type: 'string', multiple: true },
      leave: { type: 'string', multiple: true },
      as: { type: 'string' },
      title: { type: 'string' },
      out: { type: 'string' },
    })
    const learned = await learnFrom(gatherGameFiles(call.positionals), call.list('known').map(knownHeight))
    const left = call.list('leave')
    const stranger = left.find((field) => !learned.lines.some((line) => under(line, field)))
    if (stranger !== undefined)
      throw new PlainError(`nothing was learned of “${stranger}”`, '--leave', 'Name a field as it is printed.')
    const lines = learned.lines.filter((line) => !left.some((field) => under(line, field)))
    const { as: id = 'learned', title = id, out } = call.values
    const { rulebook, faults } = rulebookOf(learned, lines, { id: String(id), title: String(title) })
    if (typeof out === 'string') writeBytes(out, rulebookText(rulebook as Rulebook))
    print(
      call,
      {
        base: learned.base.id,
        lines,
        entryFields: learned.entryFields,
        unread: learned.unread,
        faults,
        out: out ?? null,
      },
      [
        ...lines.map(told),
        ...learned.entryFields.map((field) => `entries also say ${field.place}: ${fieldSentence(field)}`),
        ...learned.unread.map(({ file, why }) => `not read  ${file}: ${why}`),
        `Everything else is as in ${learned.base.title}.`,
        ...faults.map((fault) => `to mend   ${fault}`),
        ...(typeof out === 'string' ? [`${out}: ${plural(lines.length, 'field')} learned`] : []),
      ],
    )
    return faults.length > 0 ? 1 : 0
  },
}

const under = ({ path }: LearnedLine, field: string): boolean =>
  path.join('.') === field || path.join('.').startsWith(`${field}.`)

function told({ path, value, files, sureness, why, against }: LearnedLine): string {
  const said = typeof value === 'object' ? '' : ` = ${JSON.stringify(value)}`
  const otherwise = against
    .map(({ file, value: other }) => `\n          but ${JSON.stringify(other)} in ${file}`)
    .join('')
  return `${sureness.padEnd(7)} ${path.join('.')}${said} (${plural(files, 'file')}: ${why})${otherwise}`
}

/** “street/lamp.dae=4.2” as a path and metres. */
function knownHeight(word: string): { path: string; metres: number } {
  const at = word.lastIndexOf('=')
  const metres = Number(word.slice(at + 1))
  if (at < 1 || !(metres > 0))
    throw new PlainError(`“${word}” is no path with a height`, '--known', 'Write PATH=METRES, such as lamp.dae=4.2.')
  return { path: word.slice(0, at), metres }
}
