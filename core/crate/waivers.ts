import type { Finding, Severity } from '../rules/rule.ts'
import type { Waiver } from './schema.ts'

/** A finding with the reason for which it is accepted, or null. */
export interface JudgedFinding extends Finding {
  waived: string | null
}

/**
 * Findings with the waivers that meet them; a waiver names its rule and its place.
 * @example const open = judge(findings, item.waivers).filter(({ waived }) => waived === null)
 */
export function judge(findings: readonly Finding[], waivers: readonly Waiver[]): JudgedFinding[] {
  return findings.map((finding) => ({
    ...finding,
    waived: waivers.find((waiver) => waiver.rule === finding.rule && waiver.where === finding.where)?.reason ?? null,
  }))
}

/**
 * How many findings of each severity are not waived.
 *
 * @example const { blocks } = countOpen(judge(findings, item.waivers))
 */
export function countOpen(findings: readonly JudgedFinding[]): Record<Severity, number> {
  const counts = { blocks: 0, risky: 0, note: 0 }
  for (const finding of findings) if (finding.waived === null) counts[finding.severity]++
  return counts
}
