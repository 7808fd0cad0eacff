import type { CrateItem } from '../../core/crate/schema'
import { judge, type JudgedFinding } from '../../core/crate/waivers'
import type { Kind, Rulebook } from '../../core/game/schema'
import { severities, worstFirst } from '../../core/rules/rule'
import type { Stage } from '../../core/support/stages'
import type { Status } from '../ui/status-mark'
import { plural } from '../ui/format'
import type { ItemRun } from '../queries/runs'

export interface StageStatus {
  status: Status
  text: string
}

export const stageTitles: Record<Stage, string> = {
  intake: 'Intake',
  fit: 'Fit',
  mesh: 'Mesh',
  surface: 'Surface',
  solids: 'Solids',
  motion: 'Motion',
  check: 'Check',
  pack: 'Pack',
  trial: 'Trial',
}

type Found = Pick<ItemRun, 'evaluation' | 'together'>

/** What was found last for each evaluation: of many items, every bar and list asks for it. */
const judged = new WeakMap<object, { together: unknown; waivers: unknown; findings: JudgedFinding[] }>()

/** An item's findings with its waivers; empty until it has run. */
export function findingsOf({ waivers }: Pick<CrateItem, 'waivers'>, run: Found | undefined): JudgedFinding[] {
  if (!run?.evaluation) return []
  const { evaluation, together } = run
  const known = judged.get(evaluation)
  if (known?.together === together && known.waivers === waivers) return known.findings
  const findings = judge(worstFirst([...evaluation.findings, ...together]), waivers)
  judged.set(evaluation, { together, waivers, findings })
  return findings
}

/** The worst open finding, `clear` when there is none, `idle` before the item has run. */
export function worstStatus(findings: readonly JudgedFinding[], ran: boolean): Status {
  if (!ran) return 'idle'
  const worst = severities.find(
    (severity) =>
      severity !== 'note' && findings.some((finding) => finding.waived === null && finding.severity === severity),
  )
  return worst ?? 'clear'
}

/** Whether a kind has anything that the stage Motion is about. */
const moves = ({ mesh, motionAsked, bones, markers, attachPoints, mostLights }: Kind): boolean =>
  motionAsked || bones !== null || markers || attachPoints || mostLights > 0 || Boolean(mesh?.facing)

/** What the route bar says of one of an item's own stages. */
export function stageStatus(
  stage: Stage,
  item: CrateItem,
  kind: Kind,
  rulebook: Rulebook,
  run: ItemRun | undefined,
): StageStatus {
  const ran = run?.evaluation !== null && run?.evaluation !== undefined
  const all = findingsOf(item, run)
  if (stage === 'check') {
    const open = all.filter((finding) => finding.waived === null)
    return {
      status: worstStatus(all, ran),
      text: ran ? (open.length === 0 ? 'nothing found' : plural(open.length, 'finding')) : 'not run',
    }
  }
  const here = all.filter((finding) => finding.stage === stage)
  const status = worstStatus(here, ran)
  const count = here.filter((finding) => finding.waived === null && finding.severity === status).length
  if (status === 'blocks') return { status, text: `${count} block` }
  if (status === 'risky') return { status, text: `${count} risky` }
  if (stage === 'intake') return { status, text: `${plural(item.sources.length, 'file')} in` }
  if (stage === 'fit') return { status, text: `1 ${rulebook.space.unit.name} = ${rulebook.space.unit.metres} m` }
  if (stage === 'motion' && !moves(kind)) return { status: 'idle', text: 'not needed' }
  if (stage === 'solids' && kind.solids === null) return { status: 'idle', text: 'not needed' }
  return { status, text: ran ? 'clear' : 'not run' }
}
