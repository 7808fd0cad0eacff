import type { JudgedFinding } from '../../core/crate/waivers'
import type { ExplainedLine } from '../../core/trial/log-explanations'

/**
 * The finding that says before what the loader says after: of the same weight and stage, about a thing that the line
 * names too, or sharing most of its words; null where none is near.
 */
export function likeliestFinding(findings: readonly JudgedFinding[], line: ExplainedLine): JudgedFinding | null {
  const severity = line.level === 'refused' ? 'blocks' : 'risky'
  const stage = line.stage === 'entry' ? 'pack' : line.stage
  const said = wordsOf(line.message)
  const scored = findings
    .filter((finding) => finding.severity === severity && finding.stage === stage)
    .map((finding) => {
      const words = wordsOf(`${finding.where} ${finding.message} ${finding.rule.replaceAll('-', ' ')}`)
      const shared = [...said].filter((word) => words.has(word)).length
      const named = line.message.includes(finding.where) ? 3 : 0
      return { finding, score: shared + named }
    })
    .sort((a, b) => b.score - a.score)
  const [best] = scored
  return best && best.score >= 2 ? best.finding : null
}

/** Words that tell something, in lower case. */
const wordsOf = (text: string): Set<string> => new Set(text.toLowerCase().match(/[\p{L}\p{N}_]{4,}/gu) ?? [])
