import { PlainError, plainMessage } from '../core/support/plain-error.ts'
import { check } from './commands/check.ts'
import { compare } from './commands/compare.ts'
import { convert } from './commands/convert.ts'
import { pack } from './commands/pack.ts'
import { prepare } from './commands/prepare.ts'
import { rulebook } from './commands/rulebook.ts'
import { touchTest } from './commands/touch-test.ts'
import { shift } from './commands/shift.ts'
import { steps } from './commands/steps.ts'
import { survey } from './commands/survey.ts'
import { take } from './commands/take.ts'
import { trial } from './commands/trial.ts'
import { type Command } from './command.ts'

/** Every command, in the order of the help. Adding one adds a file and a line here. */
const commands: readonly Command[] = [
  survey,
  compare,
  take,
  prepare,
  check,
  pack,
  trial,
  touchTest,
  shift,
  convert,
  steps,
  rulebook,
]

const help = (): string =>
  [
    'gentle-crate: turns meshes and textures into what one game’s loader accepts.',
    '',
    ...commands.map((command) => `  gentle-crate ${command.usage}\n      ${command.summary}`),
    '',
    'Every command takes --json: one JSON object on standard output and nothing else.',
    'Exit code 0: fine. 1: findings that block, or the loader refuses. 2: the call or a file is wrong.',
  ].join('\n')

/** Runs one call and returns its exit code. */
export async function main(words: string[]): Promise<number> {
  const [name, ...rest] = words
  if (name === undefined || name === 'help' || name === '--help' || name === '-h') {
    console.log(help())
    return name === undefined ? 2 : 0
  }
  try {
    const command = commands.find((each) => each.name === name)
    if (!command)
      throw new PlainError(
        'there is no such command',
        name,
        `Commands: ${commands.map((each) => each.name).join(', ')}.`,
      )
    return await command.run(rest)
  } catch (error) {
    if (rest.includes('--json')) console.log(JSON.stringify({ error: plainMessage(error) }))
    console.error(`gentle-crate: ${plainMessage(error)}`)
    return 2
  }
}
