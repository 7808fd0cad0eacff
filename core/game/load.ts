import { z } from 'zod'
import { PlainError } from '../support/plain-error.ts'
import tarnAndTiller from './games/tarn-and-tiller/rulebook.json' with { type: 'json' }
import { rulebookSchema, type Kind, type Rulebook } from './schema.ts'

/** The games that ship with the program, as unparsed data; adding one adds a line here and a file beside. */
const builtInData: readonly unknown[] = [tarnAndTiller]

let parsedBuiltIns: Rulebook[] | null = null

/** The built-in rulebooks, validated once. */
export function builtInRulebooks(): readonly Rulebook[] {
  parsedBuiltIns ??= builtInData.map((data) => rulebookSchema.parse(data))
  return parsedBuiltIns
}

/**
 * A built-in rulebook by id.
 * @throws PlainError when no game has that id
 */
export function rulebookById(id: string): Rulebook {
  const found = builtInRulebooks().find((rulebook) => rulebook.id === id)
  if (found) return found
  const known = builtInRulebooks().map((rulebook) => rulebook.id)
  throw new PlainError('there is no rulebook of that name', `rulebook ${id}`, `Known ones: ${known.join(', ')}.`)
}

/**
 * A rulebook from the text of a file.
 * @throws PlainError that names the first place that is wrong
 */
export function parseRulebook(text: string, fileName: string): Rulebook {
  let data: unknown
  try {
    data = JSON.parse(text)
  } catch (error) {
    throw new PlainError(
      `it is not JSON (${error instanceof Error ? error.message : 'unreadable'})`,
      fileName,
      'Mend the text and try again.',
    )
  }
  const parsed = rulebookSchema.safeParse(data)
  if (parsed.success) return parsed.data
  const issue = parsed.error.issues[0]
  const place = issue.path.join('.') || 'the top'
  throw new PlainError(`at ${place}: ${issue.message}`, fileName, 'docs/rulebook.schema.json describes every field.')
}

/**
 * One kind of a rulebook.
 * @throws PlainError when the rulebook has no such kind
 */
export function kindOf(rulebook: Rulebook, kindId: string): Kind {
  const kind = rulebook.kinds.find((candidate) => candidate.id === kindId)
  if (kind) return kind
  const known = rulebook.kinds.map((candidate) => candidate.id).join(', ')
  throw new PlainError(`${rulebook.title} has no kind “${kindId}”`, 'kind', `Its kinds are: ${known}.`)
}

/** The published JSON Schema of a rulebook. */
export function rulebookJsonSchema(): object {
  return z.toJSONSchema(rulebookSchema, { target: 'draft-2020-12' })
}
