import { ChevronDown, ChevronRight } from 'lucide-react'
import { useState } from 'react'
import { tellKind, type FindingKind } from '../../core/crate/finding-kinds'
import type { CrateItem } from '../../core/crate/schema'
import type { Answer, Question } from '../../core/questions/question'
import type { JudgedFinding } from '../../core/crate/waivers'
import { stepThatSaysSo } from '../crate/mend-commands'
import { StatusMark } from '../ui/status-mark'

interface FindingLineProps {
  kind: FindingKind
  item: CrateItem
  /** What decides it; null where nothing has to be asked. */
  question: Question | null
  onShow: (findings: readonly JudgedFinding[]) => void
  onMend: (mend: NonNullable<JudgedFinding['mend']>) => void
  onOpenStep: (entry: string) => void
  onWaive: (findings: readonly JudgedFinding[]) => void
  onTakeBack: (findings: readonly JudgedFinding[]) => void
  onAnswer: (question: Question, answer: Answer) => void
}

/** More places than this are not listed one by one. */
const MOST_LISTED = 60

/** One trouble in a line, with its count and what mends all of it; opened, each of its places. */
export function FindingLine({ kind, question, onAnswer, ...hands }: FindingLineProps) {
  const [open, setOpen] = useState(false)
  const { findings, mend } = kind
  const several = findings.length > 1
  return (
    <li className={`border-b border-dashed border-edge text-[13px] ${kind.waived ? 'text-ink-2' : ''}`}>
      <div className="grid grid-cols-[16px_1fr_auto] items-center gap-3 py-[5px] @[640px]:grid-cols-[16px_minmax(96px,158px)_minmax(150px,1fr)_auto]">
        <StatusMark status={kind.waived ? 'idle' : kind.severity} />
        <span className="min-w-0 @[640px]:contents">
          <b className="block font-semibold">
            {several ? (
              <button
                type="button"
                aria-expanded={open}
                onClick={() => setOpen(!open)}
                className="flex w-full min-w-0 items-center gap-1 text-left hover:underline"
              >
                <span className="min-w-0 truncate">{kind.title}</span>
                <span className="num shrink-0 rounded-full border border-edge-strong px-1.5 text-[11.5px]">
                  {findings.length}
                </span>
                {open ? (
                  <ChevronDown size={14} className="shrink-0" aria-hidden="true" />
                ) : (
                  <ChevronRight size={14} className="shrink-0" aria-hidden="true" />
                )}
              </button>
            ) : (
              <span className="block truncate">{kind.title}</span>
            )}
          </b>
          <span className="block min-w-0 [overflow-wrap:anywhere]" title={kind.why}>
            {tellKind(kind)}
            {!several && findings[0].waived !== null && <i> · waived: {findings[0].waived}</i>}
          </span>
        </span>
        <Hands {...hands} findings={findings} mend={mend} all={several} />
      </div>
      {question && (
        <div
          role="group"
          aria-label={question.title}
          className="flex flex-wrap items-center gap-1.5 pb-1 pl-[28px] text-[12.5px]"
        >
          <span className="text-ink-2">{question.title}</span>
          {question.answers.map((answer) => (
            <button
              key={answer.id}
              type="button"
              title={answer.note}
              aria-pressed={answer.id === question.chosen}
              onClick={() => onAnswer(question, answer)}
              className={`chip ${answer.id === question.chosen ? 'border-spruce bg-spruce-wash font-semibold' : 'hover:bg-white'}`}
            >
              {answer.label}
            </button>
          ))}
        </div>
      )}
      {open && (
        <ul className="pb-1 pl-[28px]">
          {findings.slice(0, MOST_LISTED).map((finding, index) => (
            <li
              key={`${finding.where} ${index}`}
              className="grid grid-cols-[1fr_auto] items-center gap-3 border-t border-dotted border-edge py-[3px] text-[12.5px]"
            >
              <span className="min-w-0 [overflow-wrap:anywhere]">
                {finding.message}
                {finding.waived !== null && <i> · waived: {finding.waived}</i>}
              </span>
              <Hands {...hands} findings={[finding]} mend={mend ? null : finding.mend} all={false} />
            </li>
          ))}
          {findings.length > MOST_LISTED && (
            <li className="text-[12.5px] text-ink-2">and {findings.length - MOST_LISTED} more</li>
          )}
        </ul>
      )}
    </li>
  )
}

interface HandsProps extends Omit<FindingLineProps, 'kind' | 'question' | 'onAnswer'> {
  findings: readonly JudgedFinding[]
  mend: JudgedFinding['mend']
  /** Whether it is done for several places at once. */
  all: boolean
}

/** What one can do about findings: look at them, mend them, accept them. */
function Hands({ findings, mend, all, item, onShow, onMend, onOpenStep, onWaive, onTakeBack }: HandsProps) {
  const [first] = findings
  const seen = findings.some(({ place }) => place.bounds || place.parts.length > 0)
  // Where the step is there and says so already, only its other settings can help.
  const present = mend && stepThatSaysSo(item, mend)
  return (
    <span className="flex flex-col items-end whitespace-nowrap @[440px]:flex-row @[440px]:gap-3">
      {seen && (
        <button type="button" className="link" onClick={() => onShow(findings)}>
          Show me
        </button>
      )}
      {mend && first.waived === null && (
        <button type="button" className="link" onClick={() => (present ? onOpenStep(present.id) : onMend(mend))}>
          {present ? 'Open the step' : `${all ? 'Mend all' : 'Mend'}: ${mend.label}`}
        </button>
      )}
      {first.waived !== null ? (
        <button type="button" className="link" onClick={() => onTakeBack(findings)}>
          Take back
        </button>
      ) : (
        first.severity !== 'note' && (
          <button type="button" className="link font-normal text-ink-2" onClick={() => onWaive(findings)}>
            {all ? 'Waive all' : 'Waive'}
          </button>
        )
      )}
    </span>
  )
}
