import { applyEdits, findNodeAtLocation, modify, parseTree, type JSONPath, type ParseError } from 'jsonc-parser'
import { doubtsAbout } from '../../../core/game/doubts'
import { rulebookSchema, type Rulebook } from '../../../core/game/schema'

/** Something wrong or doubtful in a draft, with its place in the text. */
export interface DraftFault {
  path: JSONPath
  message: string
  severity: 'blocks' | 'note'
  /** Where in the text it stands. */
  from: number
  to: number
}

/** A rulebook that is being written, as far as its text can be read. */
export interface Draft {
  text: string
  /** What the text says; undefined while it is no JSON. */
  value: unknown
  rulebook: Rulebook | null
  faults: DraftFault[]
}

let lastRead: Draft | null = null

/** A text as a draft: what it says, and everything that is wrong with it, each at its place. Asked twice, read once. */
export function readDraft(text: string): Draft {
  if (lastRead?.text !== text) lastRead = read(text)
  return lastRead
}

function read(text: string): Draft {
  const errors: ParseError[] = []
  const tree = parseTree(text, errors, { allowTrailingComma: false, disallowComments: true })
  if (errors.length > 0 || !tree) {
    const [{ offset, length } = { offset: 0, length: 1 }] = errors
    const fault = { path: [], message: whyNoJson(text), severity: 'blocks' as const }
    return { text, value: undefined, rulebook: null, faults: [{ ...fault, from: offset, to: offset + length }] }
  }
  const value = JSON.parse(text) as unknown
  const parsed = rulebookSchema.safeParse(value)
  const told = parsed.success
    ? doubtsAbout(parsed.data).map((doubt) => ({ ...doubt, severity: 'note' as const }))
    : parsed.error.issues.map((issue) => ({
        path: issue.path.filter((step) => typeof step !== 'symbol'),
        message: issue.message,
        severity: 'blocks' as const,
      }))
  const faults = told.map((fault): DraftFault => {
    // What is missing has no place of its own: the nearest that is there is shown.
    let path: JSONPath = fault.path
    let node = findNodeAtLocation(tree, path)
    while (!node && path.length > 0) {
      path = path.slice(0, -1)
      node = findNodeAtLocation(tree, path)
    }
    const at = node ?? tree
    return { ...fault, from: at.offset, to: at.offset + Math.min(at.length, 200) }
  })
  return { text, value, rulebook: parsed.success ? parsed.data : null, faults }
}

function whyNoJson(text: string): string {
  try {
    JSON.parse(text)
    return 'it is no JSON'
  } catch (error) {
    return error instanceof Error ? error.message : 'it is no JSON'
  }
}

const formattingOptions = { insertSpaces: true, tabSize: 2, eol: '\n' }

/** A text with another value at a path, everything else as it was written; undefined takes the field out. */
export const withValueAt = (text: string, path: JSONPath, value: unknown): string =>
  applyEdits(text, modify(text, path, value, { formattingOptions }))

/** A text with something more at the end of a list. */
export const withMoreAt = (text: string, path: JSONPath, length: number, value: unknown): string =>
  applyEdits(text, modify(text, [...path, length], value, { formattingOptions, isArrayInsertion: true }))

/** Whether a fault stands at a path or below it. */
export const isBelow = (fault: DraftFault, path: JSONPath): boolean =>
  path.every((step, depth) => fault.path[depth] === step)
