import type { Rulebook } from '../game/schema.ts'
import type { Severity } from '../rules/rule.ts'
import type { EvaluateOptions } from './evaluate.ts'
import { evaluateItems } from './evaluate-items.ts'
import type { Crate } from './schema.ts'
import type { JudgedFinding } from './waivers.ts'

/** A finding that one rulebook leads to and the other does not. */
export interface TriedFinding {
  rule: string
  severity: Severity
  title: string
  where: string
  message: string
}

/** What another rulebook would say of an item of a crate. */
export interface TriedItem {
  name: string
  /** Findings that come, and that go. */
  more: TriedFinding[]
  less: TriedFinding[]
}

/**
 * Tries another rulebook on a crate: runs its items by both, and tells which findings come and go. What is accepted
 * with a reason counts in neither.
 * @throws StoppedError when the modder stopped it
 *
 * @example (await tryRulebook(crate, draft, options)).map(({ name, more, less }) => `${name}: +${more.length} −${less.length}`)
 */
export async function tryRulebook(crate: Crate, rulebook: Rulebook, options: EvaluateOptions): Promise<TriedItem[]> {
  const half = (from: number): EvaluateOptions => ({
    ...options,
    onProgress: (progress) => options.onProgress?.({ ...progress, fraction: from + progress.fraction / 2 }),
  })
  const before = await evaluateItems(crate, half(0))
  const after = await evaluateItems({ ...crate, rulebook }, half(0.5))
  return before.map(({ item, findings }, number) => {
    const then = after[number].findings
    return { name: item.name, more: notIn(then, findings), less: notIn(findings, then) }
  })
}

/** Open findings that others do not have: of the same rule and place, and as grave. */
function notIn(findings: readonly JudgedFinding[], others: readonly JudgedFinding[]): TriedFinding[] {
  const key = ({ rule, severity, where }: JudgedFinding): string => `${rule}\n${severity}\n${where}`
  const known = new Set(others.filter(({ waived }) => waived === null).map(key))
  return findings
    .filter((finding) => finding.waived === null && !known.has(key(finding)))
    .map(({ rule, severity, title, where, message }) => ({ rule, severity, title, where, message }))
}
