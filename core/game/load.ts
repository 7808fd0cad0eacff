import { compareVersions } from './versions.ts'
import { z } from 'zod'
import { PlainError } from '../support/plain-error.ts'
import { builtInData } from './games/index.ts'
import { rulebookSchema, type Kind, type Rulebook } from './schema.ts'
import { validatedBefore } from './validated.ts'

const named = z.object({ id: z.string() })
const dataById = new Map(builtInData.map((data) => [named.parse(data).id, data]))
const parsedById = new Map<string, Rulebook>()

/** Ids of the built-in rulebooks, which none of them has to be read for. */
export const builtInIds: readonly string[] = [...dataById.keys()]

/** A built-in rulebook, validated when it is first asked for; null for another id. */
function builtIn(id: string): Rulebook | null {
  const known = parsedById.get(id)
  if (known || !dataById.has(id)) return known ?? null
  const parsed = validatedBefore(id) ?? rulebookSchema.parse(dataById.get(id))
  parsedById.set(id, parsed)
  return parsed
}

let allBuiltIns: readonly Rulebook[] | null = null

/**
 * The built-in rulebooks, validated once.
 *
 * @example const titles = builtInRulebooks().map(({ title }) => title)
 */
export function builtInRulebooks(): readonly Rulebook[] {
  allBuiltIns ??= builtInIds.flatMap((id) => builtIn(id) ?? [])
  return allBuiltIns
}

/**
 * A built-in rulebook by id.
 * @throws PlainError when no game has that id
 *
 * @example rulebookById('tarn-and-tiller').title // 'Tarn & Tiller'
 */
export function rulebookById(id: string): Rulebook {
  const found = builtIn(id)
  if (found) return found
  throw new PlainError('there is no rulebook of that name', `rulebook ${id}`, `Known ones: ${builtInIds.join(', ')}.`)
}

/**
 * A rulebook from the text of a file.
 * @throws PlainError that names the first place that is wrong
 *
 * @example const rulebook = parseRulebook(await file.text(), file.name)
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
 * One kind of a rulebook; null when it has none of that id.
 *
 * @example const title = findKind(rulebook, item.kind)?.title ?? item.kind
 */
export const findKind = (rulebook: Rulebook, kindId: string): Kind | null =>
  rulebook.kinds.find((candidate) => candidate.id === kindId) ?? null

/**
 * One kind of a rulebook.
 * @throws PlainError when the rulebook has no such kind
 *
 * @example const { mesh } = kindOf(rulebook, 'prop')
 */
export function kindOf(rulebook: Rulebook, kindId: string): Kind {
  const kind = findKind(rulebook, kindId)
  if (kind) return kind
  const known = rulebook.kinds.map((candidate) => candidate.id).join(', ')
  throw new PlainError(`${rulebook.title} has no kind “${kindId}”`, 'kind', `Its kinds are: ${known}.`)
}

/**
 * The published JSON Schema of a rulebook.
 * @example writeFileSync('rulebook.schema.json', JSON.stringify(rulebookJsonSchema()))
 */
export function rulebookJsonSchema(): object {
  return z.toJSONSchema(rulebookSchema, { target: 'draft-2020-12' })
}

/**
 * A rulebook of the same game that is later than the one a crate carries; null when there is none.
 * @example laterRulebook(rulebook) // null
 */
export function laterRulebook(carried: Rulebook, known: readonly Rulebook[] = builtInRulebooks()): Rulebook | null {
  const same = known.filter(({ id, version }) => id === carried.id && compareVersions(version, carried.version) > 0)
  return same.sort((a, b) => compareVersions(b.version, a.version))[0] ?? null
}
