import { parseArgs, type ParseArgsConfig } from 'node:util'
import { PlainError } from '../core/support/plain-error.ts'

export interface Command {
  /** Runs with the words after the command's name; returns the exit code. */
  run: (words: string[]) => Promise<number>
}

/** Words of a call taken apart; `--json` is known everywhere. */
export interface Call {
  positionals: string[]
  values: Record<string, string | boolean | undefined>
  /** Values of an option that may be given several times. */
  list: (option: string) => string[]
  json: boolean
}

/** @throws PlainError when an option is not known or lacks its value */
export function parseCall(words: string[], options: NonNullable<ParseArgsConfig['options']>): Call {
  try {
    // A value that begins with a hyphen, such as an axis, is joined to its option first.
    const joined: string[] = []
    for (let index = 0; index < words.length; index++) {
      const next = words[index + 1]
      if (
        (words[index] === '--up' || words[index] === '--forward') &&
        next !== undefined &&
        /^[+-]?[xyz]$/i.test(next)
      ) {
        joined.push(`${words[index]}=${next}`)
        index++
      } else joined.push(words[index])
    }
    const { positionals, values } = parseArgs({
      args: joined,
      options: { ...options, json: { type: 'boolean' } },
      allowPositionals: true,
      strict: true,
    })
    const given = values as Record<string, string | boolean | string[] | undefined>
    const single = Object.entries(given).flatMap(([option, value]): [string, string | boolean | undefined][] =>
      Array.isArray(value) ? [] : [[option, value]],
    )
    return {
      positionals,
      values: Object.fromEntries(single),
      list: (option) => [given[option] ?? []].flat().filter((value) => typeof value === 'string'),
      json: given['json'] === true,
    }
  } catch (error) {
    throw new PlainError(
      error instanceof Error ? error.message.replace(/\. To specify.*$/s, '') : 'it cannot be read',
      'this call',
      'See gentle-crate help.',
    )
  }
}

/** The value of an option that has to be there. */
export function required(call: Call, option: string): string {
  const value = call.values[option]
  if (typeof value === 'string' && value !== '') return value
  throw new PlainError(`--${option} is missing`, 'this call', 'See gentle-crate help.')
}

/** Prints the JSON object, or the lines for people. */
export function print(call: Call, json: object, lines: readonly string[]): void {
  console.log(call.json ? JSON.stringify(json, null, 2) : lines.join('\n'))
}

/** Progress goes to standard error, one line a step, and only where someone is looking or asked. */
export function progressLine(text: string): void {
  process.stderr.write(`${text}\n`)
}
