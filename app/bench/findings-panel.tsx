import { useState } from 'react'
import type { CrateItem } from '../../core/crate/schema'
import { countOpen, type JudgedFinding } from '../../core/crate/waivers'
import { stages, type Stage } from '../../core/support/stages'
import { stageTitles } from '../crate/stage-status'
import { useCrate } from '../crate/use-crate'
import { StatusMark } from '../ui/status-mark'
import { WaiveDialog } from './waive-dialog'

interface FindingsPanelProps {
  item: CrateItem
  findings: readonly JudgedFinding[]
  stage: Stage
  ran: boolean
  onShow: (finding: JudgedFinding) => void
  onMend: (finding: JudgedFinding) => void
  onOpenStep: (entry: string) => void
}

const ownStages = stages.filter((stage) => !['check', 'pack', 'trial'].includes(stage))

/** What the game would say about the item: this stage's findings first, or all of them at Check. */
export function FindingsPanel({ item, findings, stage, ran, onShow, onMend, onOpenStep }: FindingsPanelProps) {
  const { send } = useCrate()
  const [waiving, setWaiving] = useState<JudgedFinding | null>(null)
  const here = ownStages.includes(stage)
  const sorted = here
    ? [
        ...findings.filter((finding) => finding.stage === stage),
        ...findings.filter((finding) => finding.stage !== stage),
      ]
    : findings
  const counts = countOpen(findings)
  return (
    <section aria-label="Findings" className="@container flex min-w-0 flex-1 flex-col bg-paper px-4 pt-2">
      <p className="caption flex justify-between pb-1">
        <span>{here ? `Findings, ${stageTitles[stage]} first` : 'Findings for this item'}</span>
        <span className="num">
          {counts.blocks} block · {counts.risky} risky · {counts.note} {counts.note === 1 ? 'note' : 'notes'}
        </span>
      </p>
      <ul className="min-h-0 flex-1 relative overflow-y-auto" tabIndex={0} aria-label="Findings list">
        {sorted.map((finding, index) => (
          <li
            key={`${finding.rule} ${finding.where} ${index}`}
            className={`grid grid-cols-[16px_1fr_auto] items-center gap-3 @[640px]:grid-cols-[16px_minmax(96px,142px)_minmax(150px,1fr)_auto] border-b border-dashed border-edge py-[5px] text-[13px] ${finding.waived === null ? '' : 'text-ink-2'}`}
          >
            <StatusMark status={finding.waived === null ? finding.severity : 'idle'} />
            <span className="min-w-0 @[640px]:contents">
              <b className="block truncate font-semibold">{finding.title}</b>
              <span className="block min-w-0" title={finding.why}>
                {finding.message}
                {finding.waived !== null && <i> · waived: {finding.waived}</i>}
              </span>
            </span>
            <span className="flex flex-col items-end whitespace-nowrap @[440px]:flex-row @[440px]:gap-3">
              {(finding.place.bounds || finding.place.parts.length > 0) && (
                <button type="button" className="link" onClick={() => onShow(finding)}>
                  Show me
                </button>
              )}
              {finding.mend && finding.waived === null && (
                <MendButton item={item} finding={finding} onMend={onMend} onOpenStep={onOpenStep} />
              )}
              {finding.waived === null ? (
                finding.severity !== 'note' && (
                  <button type="button" className="link font-normal text-ink-2" onClick={() => setWaiving(finding)}>
                    Waive
                  </button>
                )
              ) : (
                <button
                  type="button"
                  className="link"
                  onClick={() => void send({ do: 'unwaive', item: item.id, rule: finding.rule, where: finding.where })}
                >
                  Take back
                </button>
              )}
            </span>
          </li>
        ))}
        {ran && findings.length === 0 && (
          <li className="flex items-center gap-3 py-3">
            <StatusMark status="clear" /> Nothing found. The game would take this item.
          </li>
        )}
        {!ran && <li className="py-3 text-ink-2">The item is being read.</li>}
      </ul>
      <WaiveDialog
        finding={waiving}
        onClose={() => setWaiving(null)}
        onWaive={async (reason) => {
          if (waiving)
            await send({ do: 'waive', item: item.id, waiver: { rule: waiving.rule, where: waiving.where, reason } })
          setWaiving(null)
        }}
      />
    </section>
  )
}

/** Adds the step that mends it, or opens it where it already is. */
function MendButton({
  item,
  finding,
  onMend,
  onOpenStep,
}: {
  item: CrateItem
  finding: JudgedFinding
  onMend: (finding: JudgedFinding) => void
  onOpenStep: (entry: string) => void
}) {
  const present = item.worklist.find((entry) => entry.step === finding.mend?.step)
  return (
    <button type="button" className="link" onClick={() => (present ? onOpenStep(present.id) : onMend(finding))}>
      {present ? 'Open the step' : `Mend: ${finding.mend?.label}`}
    </button>
  )
}
