import { PlainError, plainMessage } from '../core/support/plain-error.ts'
import { commands } from './commands.ts'

const help = (): string =>
  [
    'gentle-crate: turns meshes and textures into what one game’s loader accepts.',
    '',
    ...Object.values(commands).map(({ usage, summary }) => `  gentle-crate ${usage}\n      ${summary}`),
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
    const listed = Object.hasOwn(commands, name) ? commands[name] : undefined
    if (!listed)
      throw new PlainError('there is no such command', name, `Commands: ${Object.keys(commands).join(', ')}.`)
    return await (await listed.load()).run(rest)
  } catch (error) {
    if (rest.includes('--json')) console.log(JSON.stringify({ error: plainMessage(error) }))
    console.error(`gentle-crate: ${plainMessage(error)}`)
    return 2
  }
}
