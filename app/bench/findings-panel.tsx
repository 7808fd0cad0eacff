import { useState } from 'react'
import type { CrateItem } from '../../core/crate/schema'
import type { Answer, Question } from '../../core/questions/question'
import { findingKinds } from '../../core/crate/finding-kinds'
import { countOpen, type JudgedFinding } from '../../core/crate/waivers'
import { stages, type Stage } from '../../core/support/stages'
import { stageTitles } from '../crate/stage-status'
import { useCrate } from '../crate/use-crate'
import { StatusMark } from '../ui/status-mark'
import { FindingLine } from './finding-line'
import { WaiveDialog } from './waive-dialog'

interface FindingsPanelProps {
  item: CrateItem
  findings: readonly JudgedFinding[]
  stage: Stage
  ran: boolean
  /** What is still asked: answers stand beside the findings that they decide. */
  questions: readonly Question[]
  onShow: (findings: readonly JudgedFinding[]) => void
  onMend: (mend: NonNullable<JudgedFinding['mend']>) => void
  onOpenStep: (entry: string) => void
  onAnswer: (question: Question, answer: Answer) => void
}

const ownStages = stages.filter((stage) => !['check', 'pack', 'trial'].includes(stage))

/** What the game would say about the item, a line a trouble: this stage's first, or all of them at Check. */
export function FindingsPanel({
  item,
  findings,
  stage,
  ran,
  questions,
  onShow,
  onMend,
  onOpenStep,
  onAnswer,
}: FindingsPanelProps) {
  const { send } = useCrate()
  const [waiving, setWaiving] = useState<readonly JudgedFinding[]>([])
  const here = ownStages.includes(stage)
  const kinds = findingKinds(findings)
  const sorted = here
    ? [...kinds.filter((kind) => kind.stage === stage), ...kinds.filter((kind) => kind.stage !== stage)]
    : kinds
  const counts = countOpen(findings)
  return (
    <section aria-label="Findings" className="@container flex min-w-0 flex-1 flex-col bg-paper px-4 pt-2">
      <p className="caption flex justify-between pb-1">
        <span>{here ? `Findings, ${stageTitles[stage]} first` : 'Findings for this item'}</span>
        <span className="num">
          {counts.blocks} block · {counts.risky} risky · {counts.note} {counts.note === 1 ? 'note' : 'notes'}
        </span>
      </p>
      <ul className="relative min-h-0 flex-1 overflow-y-auto" tabIndex={0} aria-label="Findings list">
        {sorted.map((kind) => (
          <FindingLine
            key={`${kind.rule} ${kind.severity} ${kind.waived}`}
            kind={kind}
            item={item}
            question={questions.find(({ decides, answered }) => !answered && decides.includes(kind.rule)) ?? null}
            onAnswer={onAnswer}
            onShow={onShow}
            onMend={onMend}
            onOpenStep={onOpenStep}
            onWaive={setWaiving}
            onTakeBack={async (back) => {
              for (const { rule, where } of back) await send({ do: 'unwaive', item: item.id, rule, where })
            }}
          />
        ))}
        {ran && findings.length === 0 && (
          <li className="flex items-center gap-3 py-3">
            <StatusMark status="clear" /> Nothing found. The game would take this item.
          </li>
        )}
        {!ran && <li className="py-3 text-ink-2">The item is being read.</li>}
      </ul>
      <WaiveDialog
        findings={waiving}
        onClose={() => setWaiving([])}
        onWaive={async (reason) => {
          for (const { rule, where } of waiving)
            await send({ do: 'waive', item: item.id, waiver: { rule, where, reason } })
          setWaiving([])
        }}
      />
    </section>
  )
}
