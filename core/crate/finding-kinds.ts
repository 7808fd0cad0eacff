import { severities, type Mend, type Severity } from '../rules/rule.ts'
import type { Stage } from '../support/stages.ts'
import { canonicalJson } from '../support/hashing.ts'
import { plural } from '../support/wording.ts'
import type { JudgedFinding } from './waivers.ts'

/** All findings of one rule and severity: what one reads as one trouble, however many places it has. */
export interface FindingKind {
  rule: string
  severity: Severity
  stage: Stage
  title: string
  why: string
  /** Whether all of it is waived. */
  waived: boolean
  findings: JudgedFinding[]
  /** What mends all of it at once; null where nothing does, or each place wants something of its own. */
  mend: Mend | null
}

/**
 * Findings by the trouble that they tell of, the blocking ones first, what is waived last; within a severity in the
 * order in which they were found.
 *
 * @example findingKinds(findings)[0] // { rule: 'name-pattern', findings: [15 of them], mend: { step: 'clean-names' } }
 */
export function findingKinds<F extends JudgedFinding>(findings: readonly F[]): (FindingKind & { findings: F[] })[] {
  const kinds = new Map<string, F[]>()
  for (const finding of findings) {
    const key = `${finding.rule} ${finding.severity} ${finding.waived !== null}`
    const alike = kinds.get(key)
    if (alike) alike.push(finding)
    else kinds.set(key, [finding])
  }
  const order = (kind: FindingKind): number => severities.indexOf(kind.severity) + (kind.waived ? severities.length : 0)
  return [...kinds.values()]
    .map((all) => {
      const [{ rule, severity, stage, title, why, waived }] = all
      const mends = all.map(({ mend }) => mend)
      return { rule, severity, stage, title, why, waived: waived !== null, findings: all, mend: mendOfAll(mends) }
    })
    .sort((a, b) => order(a) - order(b))
}

/** One mend for several: of one step, lists put together; null where they ask for different things. */
function mendOfAll(mends: readonly (Mend | null)[]): Mend | null {
  const [first] = mends
  if (!first) return null
  let parameters = first.parameters
  for (const mend of mends) {
    if (mend?.step !== first.step) return null
    const merged = mergeParameters(parameters, mend.parameters)
    if (!merged) return null
    parameters = merged
  }
  return { ...first, parameters }
}

function mergeParameters(a: Record<string, unknown>, b: Record<string, unknown>): Record<string, unknown> | null {
  const merged = { ...a }
  for (const [key, value] of Object.entries(b)) {
    const present = merged[key]
    if (!(key in merged)) merged[key] = value
    else if (Array.isArray(present) && Array.isArray(value))
      merged[key] = [
        ...new Map(
          [...(present as unknown[]), ...(value as unknown[])].map((each) => [canonicalJson(each), each]),
        ).values(),
      ]
    else if (canonicalJson(present) !== canonicalJson(value)) return null
  }
  return merged
}

/** How many places are named before they are only counted. */
const MOST_NAMED = 3

/**
 * What of a kind of trouble is told in one line: the one finding's own sentence, or how often and where.
 *
 * @example tellKind(kind) // '15 times: hull, rudder, mast and 12 more'
 */
export function tellKind({ findings }: Pick<FindingKind, 'findings'>): string {
  if (findings.length === 1) return findings[0].message
  const places = [...new Set(findings.map(({ where }) => where))]
  const named = places.slice(0, MOST_NAMED).join(', ')
  const more = places.length > MOST_NAMED ? ` and ${places.length - MOST_NAMED} more` : ''
  return `${plural(findings.length, 'time')}: ${named}${more}`
}
