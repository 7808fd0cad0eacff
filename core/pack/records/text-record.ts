import { PlainError } from '../../support/plain-error.ts'
import { limits } from '../../support/limits.ts'
import type { Rulebook } from '../../game/schema.ts'

/**
 * A record as lines of text: the place of a value, what stands between, the value. Places are keys with points between
 * them, numbers from 0 in brackets for lists; keys and values that would be read as something else stand in quotation
 * marks, escaped as in JSON (RFC 8259, section 7).
 */
export type TextForm = Rulebook['files']['text']

const PLAIN_KEY = /^[A-Za-z0-9_-]+$/
const MOST_STEPS = 16

/**
 * The lines of a record.
 * @param value of objects, lists, texts, numbers, true, false and null
 *
 * @example writeTextRecord({ item: 'lamp', looks: ['a.txt'] }, { between: '=', comment: '#' }) // item = lamp ⏎ looks[0] = a.txt
 */
export function writeTextRecord(value: unknown, { between }: TextForm): string {
  const lines: string[] = []
  const middle = between === ':' ? ': ' : between === ' ' ? ' ' : ` ${between} `
  const write = (place: string, each: unknown): void => {
    if (each === undefined) return
    if (typeof each === 'string') lines.push(`${place}${middle}${isPlain(each) ? each : JSON.stringify(each)}`)
    else if (typeof each !== 'object' || each === null) lines.push(`${place}${middle}${JSON.stringify(each)}`)
    else if (Array.isArray(each)) {
      if (each.length === 0) lines.push(`${place}${middle}[]`)
      for (const [number, one] of each.entries()) write(`${place}[${number}]`, one)
    } else {
      const entries = Object.entries(each).filter(([, one]) => one !== undefined)
      if (entries.length === 0 && place !== '') lines.push(`${place}${middle}{}`)
      for (const [key, one] of entries) {
        const step = PLAIN_KEY.test(key) ? key : JSON.stringify(key)
        write(place === '' ? step : `${place}.${step}`, one)
      }
    }
  }
  write('', value)
  return `${lines.join('\n')}\n`
}

/** Whether a text may stand as it is: it is not taken for a number, a word of its own, a quotation or a list. */
const isPlain = (text: string): boolean =>
  text !== '' &&
  text === text.trim() &&
  !/^["[{]/.test(text) &&
  !/[\u0000-\u001f\u2028\u2029]/.test(text) &&
  !isWord(text)

const isWord = (text: string): boolean =>
  text === 'true' || text === 'false' || text === 'null' || /^-?\d+(\.\d+)?([eE][-+]?\d+)?$/.test(text)

type Branch = { list: unknown[] } | { keys: Map<string, unknown> }

/**
 * Reads what `writeTextRecord` writes, or a person: lines may be empty, or begin with what marks a comment.
 * @throws PlainError with the number of the line that cannot be read
 *
 * @example const value = readTextRecord(text, form, 'gate.txt')
 */
export function readTextRecord(text: string, form: TextForm, name: string): unknown {
  const root: Branch = { keys: new Map() }
  const lines = text.split(/\r?\n/)
  if (lines.length > limits.recordLines)
    throw new PlainError(`it has more than ${limits.recordLines} lines`, name, 'Split it.')
  for (const [index, line] of lines.entries()) {
    if (line.trim() === '' || line.trimStart().startsWith(form.comment)) continue
    try {
      putLine(root, line.trim(), form)
    } catch (error) {
      throw new PlainError(
        `line ${index + 1} cannot be read: ${error instanceof Error ? error.message : String(error)}`,
        name,
        `A line is a key, “${form.between}” and a value.`,
      )
    }
  }
  return plain(root)
}

function putLine(root: Branch, line: string, { between }: TextForm): void {
  const { steps, end } = readPlace(line)
  const after = line.slice(end)
  const found = between === ' ' ? /^[ \t]+/.exec(after) : new RegExp(`^[ \\t]*${between}[ \\t]*`).exec(after)
  if (!found) throw new Error(`“${between}” is missing after ${line.slice(0, Math.min(end, 60))}`)
  let branch = root
  for (const [depth, step] of steps.entries()) {
    const last = depth === steps.length - 1
    const known = child(branch, step)
    if (last) {
      if (known !== undefined) throw new Error(`${line.slice(0, Math.min(end, 60))} is said twice`)
      setChild(branch, step, readValue(after.slice(found[0].length)))
    } else if (known === undefined) {
      const next: Branch = typeof steps[depth + 1] === 'number' ? { list: [] } : { keys: new Map() }
      setChild(branch, step, next)
      branch = next
    } else if (isBranch(known)) branch = known
    else throw new Error(`${line.slice(0, Math.min(end, 60))} lies under a value`)
  }
}

const KEY = String.raw`[A-Za-z0-9_-]+|"(?:[^"\\]|\\.)*"`

/** The steps to a value: texts for keys, numbers for places in a list. */
function readPlace(line: string): { steps: (string | number)[]; end: number } {
  const steps: (string | number)[] = []
  let pattern = new RegExp(`(${KEY})`, 'y')
  let end = 0
  for (let found = pattern.exec(line); found; found = pattern.exec(line)) {
    if (steps.length === MOST_STEPS) throw new Error(`it lies more than ${MOST_STEPS} steps deep`)
    steps.push(found[2] !== undefined ? Number(found[2]) : keyOf(found[1]))
    end = pattern.lastIndex
    // After the first come keys with a point before them, and places in lists.
    pattern = new RegExp(`\\.(${KEY})|\\[(\\d{1,6})\\]`, 'y')
    pattern.lastIndex = end
  }
  if (steps.length === 0) throw new Error('it does not begin with a key')
  return { steps, end }
}

const keyOf = (written: string): string => (written.startsWith('"') ? (JSON.parse(written) as string) : written)

const isBranch = (value: unknown): value is Branch =>
  typeof value === 'object' && value !== null && ('list' in value || 'keys' in value)

function child(branch: Branch, step: string | number): unknown {
  if ('list' in branch) return typeof step === 'number' ? branch.list[step] : undefined
  return typeof step === 'string' ? branch.keys.get(step) : undefined
}

function setChild(branch: Branch, step: string | number, value: unknown): void {
  if ('list' in branch && typeof step === 'number') {
    if (step !== branch.list.length) throw new Error(`number ${branch.list.length} of the list comes next, not ${step}`)
    branch.list.push(value)
  } else if ('keys' in branch && typeof step === 'string') branch.keys.set(step, value)
  else throw new Error('a list and keys stand at one place')
}

function readValue(text: string): unknown {
  if (text === '[]') return { list: [] }
  if (text === '{}') return { keys: new Map() }
  return text.startsWith('"') || isWord(text) ? JSON.parse(text) : text
}

const plain = (value: unknown): unknown =>
  !isBranch(value)
    ? value
    : 'list' in value
      ? value.list.map(plain)
      : Object.fromEntries([...value.keys].map(([key, each]) => [key, plain(each)]))
