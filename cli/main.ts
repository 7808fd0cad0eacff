import { PlainError, plainMessage } from '../core/support/plain-error.ts'
import type { Command } from './command.ts'

/**
 * Every command by its name, in the order of the help. Adding one adds a file and a line here; a call loads what it
 * needs alone.
 */
const commands: Record<string, () => Promise<Command>> = {
  init: async () => (await import('./commands/init.ts')).init,
  survey: async () => (await import('./commands/survey.ts')).survey,
  compare: async () => (await import('./commands/compare.ts')).compare,
  take: async () => (await import('./commands/take.ts')).take,
  prepare: async () => (await import('./commands/prepare.ts')).prepare,
  check: async () => (await import('./commands/check.ts')).check,
  slots: async () => (await import('./commands/slots.ts')).slots,
  pack: async () => (await import('./commands/pack.ts')).pack,
  overlay: async () => (await import('./commands/overlay.ts')).overlay,
  trial: async () => (await import('./commands/trial.ts')).trial,
  'touch-test': async () => (await import('./commands/touch-test.ts')).touchTest,
  shift: async () => (await import('./commands/shift.ts')).shift,
  convert: async () => (await import('./commands/convert.ts')).convert,
  steps: async () => (await import('./commands/steps.ts')).steps,
  rulebook: async () => (await import('./commands/rulebook.ts')).rulebook,
  learn: async () => (await import('./commands/learn.ts')).learn,
  stock: async () => (await import('./commands/stock.ts')).stock,
}

const help = async (): Promise<string> =>
  [
    'gentle-crate: turns meshes and textures into what one game’s loader accepts.',
    '',
    ...(await Promise.all(Object.values(commands).map((load) => load()))).map(
      (command) => `  gentle-crate ${command.usage}\n      ${command.summary}`,
    ),
    '',
    'Every command takes --json: one JSON object on standard output and nothing else.',
    'Exit code 0: fine. 1: findings that block, or the loader refuses. 2: the call or a file is wrong.',
  ].join('\n')

/** Runs one call and returns its exit code. */
export async function main(words: string[]): Promise<number> {
  const [name, ...rest] = words
  if (name === undefined || name === 'help' || name === '--help' || name === '-h') {
    console.log(await help())
    return name === undefined ? 2 : 0
  }
  try {
    const load = Object.hasOwn(commands, name) ? commands[name] : undefined
    if (!load) throw new PlainError('there is no such command', name, `Commands: ${Object.keys(commands).join(', ')}.`)
    return await (await load()).run(rest)
  } catch (error) {
    if (rest.includes('--json')) console.log(JSON.stringify({ error: plainMessage(error) }))
    console.error(`gentle-crate: ${plainMessage(error)}`)
    return 2
  }
}
