import type { Rulebook } from '../../../game/schema.ts'

type Tree = Map<string, Tree | string>

const MOST_LINES = 200_000

/**
 * Lines of `place between value`, as the game reads them: places step by points and brackets, quotation marks are those
 * of JSON, lines that begin with the comment's sign are passed over.
 * @throws Error with the line that cannot be read
 *
 * @example const entry = parseLines(text, rulebook.files.text)
 */
export function parseLines(text: string, { between, comment }: Rulebook['files']['text']): unknown {
  const tree: Tree = new Map()
  const lines = text.split('\n')
  if (lines.length > MOST_LINES) throw new Error(`it has ${lines.length} lines`)
  for (const [number, written] of lines.entries()) {
    const line = written.trim()
    if (line === '' || line.startsWith(comment)) continue
    const end = placeEnd(line)
    const rest = line.slice(end)
    const apart = rest.trimStart()
    if (end === 0 || (between === ' ' ? apart === rest : !apart.startsWith(between)))
      throw new Error(`line ${number + 1}, “${line.slice(0, 60)}”`)
    const value = (between === ' ' ? apart : apart.slice(between.length)).trim()
    if (!hang(tree, stepsOf(line.slice(0, end)), value)) throw new Error(`line ${number + 1} says something twice`)
  }
  return grown(tree)
}

/** Where the place ends: at the first sign outside of quotation marks that no place has. */
function placeEnd(line: string): number {
  let quoted = false
  for (let at = 0; at < line.length; at++) {
    const sign = line[at]
    if (quoted && sign === '\\') at++
    else if (sign === '"') quoted = !quoted
    else if (!quoted && !/[\w.[\]-]/.test(sign)) return at
  }
  return quoted ? 0 : line.length
}

/** “a."b c"[2]” as a, b c, [2]. */
const stepsOf = (place: string): string[] =>
  (place.match(/"(?:[^"\\]|\\.)*"|\[\d+\]|[\w-]+/g) ?? []).map((step) =>
    step.startsWith('"') ? `=${String(JSON.parse(step))}` : step.startsWith('[') ? step : `=${step}`,
  )

function hang(tree: Tree, steps: string[], value: string): boolean {
  let at = tree
  for (const step of steps.slice(0, -1)) {
    const below = at.get(step) ?? new Map<string, never>()
    if (typeof below === 'string') return false
    at.set(step, below)
    at = below
  }
  const last = steps.at(-1) ?? ''
  if (steps.length === 0 || at.has(last)) return false
  at.set(last, value)
  return true
}

function grown(tree: Tree | string): unknown {
  if (typeof tree === 'string') return scalar(tree)
  const keys = [...tree.keys()]
  if (keys.length > 0 && keys.every((key) => key.startsWith('['))) {
    if (keys.some((key, number) => key !== `[${number}]`))
      throw new Error(`a list begins ${keys.slice(0, 3).join(', ')}`)
    return [...tree.values()].map(grown)
  }
  if (keys.some((key) => key.startsWith('['))) throw new Error('a list has keys')
  return Object.fromEntries([...tree].map(([key, below]) => [key.slice(1), grown(below)]))
}

function scalar(value: string): unknown {
  if (value === '[]') return []
  if (value === '{}') return {}
  if (/^("|true$|false$|null$|-?\d+(\.\d+)?(e[-+]?\d+)?$)/i.test(value)) return JSON.parse(value)
  return value
}
