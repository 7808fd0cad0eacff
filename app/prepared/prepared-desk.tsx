import { X } from 'lucide-react'
import { useMemo, useState, type ReactNode } from 'react'
import { Link } from 'react-router'
import type { CrateItem } from '../../core/crate/schema'
import { countOpen, type JudgedFinding } from '../../core/crate/waivers'
import { whatWasDone, type StepDone } from '../../core/worklist/what-was-done'
import { questionsOfRun } from '../crate/questions-of-run'
import { stageTitles } from '../crate/stage-status'
import type { BenchJobs } from '../crate/use-bench-jobs'
import { useCrate } from '../crate/use-crate'
import { runId, useProgress, type ItemRun } from '../queries/runs'
import { plural } from '../ui/format'
import { StatusMark } from '../ui/status-mark'
import { PackAndTry } from './pack-and-try'
import { QuestionCard } from './question-card'
import { useRounds } from '../crate/rounds'

/** Notes stand in the list of findings where that is shown. */
const none: readonly JudgedFinding[] = []

interface PreparedDeskProps {
  item: CrateItem
  run: ItemRun | undefined
  findings: readonly JudgedFinding[]
  jobs: BenchJobs
  /** What stands where nothing is asked. */
  otherwise: ReactNode
}

/** What preparing came to: what was done, what is still asked, and the way on to a pack that is tried. */
export function PreparedDesk({ item, run, findings, jobs, otherwise }: PreparedDeskProps) {
  const { crate } = useCrate()
  const asked = run?.evaluation?.questions.length !== 0
  const busy = useProgress(runId(crate.id, item.id)) !== null
  return (
    <div className={`flex min-w-0 flex-1 bg-paper ${busy ? 'opacity-70' : ''}`} aria-busy={busy}>
      <Done item={item} run={run} findings={asked ? findings : none} />
      {asked ? <Asked key={item.id} item={item} run={run} busy={busy} jobs={jobs} /> : otherwise}
      <section
        aria-label="Go on"
        className="flex w-[236px] shrink-0 flex-col gap-2 border-l border-edge bg-slip px-4 py-2"
      >
        <p className="caption flex items-center justify-between">
          Go on
          <Link
            to={`/crate/${crate.id}/item/${item.id}?stage=check`}
            aria-label="Close"
            title="Close"
            className="rounded p-0.5 text-ink-2 hover:text-ink"
          >
            <X size={16} aria-hidden="true" />
          </Link>
        </p>
        <Verdict findings={findings} ran={run?.state === 'done'} counted={asked} />
        {item.worklist.length === 0 ? (
          <p className="text-[13px] text-ink-2">{busy ? 'Being prepared…' : 'Prepare it on the belt above.'}</p>
        ) : (
          <PackAndTry disabled={busy || run?.state !== 'done'} />
        )}
        <Link to={`/crate/${crate.id}/item/${item.id}?stage=check`} className="link text-[13px]">
          All gauges and findings
        </Link>
      </section>
    </div>
  )
}

/** @param counted whether the counts are told; beside the list of findings they stand there */
function Verdict({ findings, ran, counted }: { findings: readonly JudgedFinding[]; ran: boolean; counted: boolean }) {
  const { blocks, risky, note } = countOpen(findings)
  if (!ran) return <p className="text-[13px] text-ink-2">Being worked out…</p>
  return (
    <p className="flex items-baseline gap-2 text-[13px]" role="status">
      <StatusMark status={blocks > 0 ? 'blocks' : risky > 0 ? 'risky' : 'clear'} size={13} />
      <span>
        <b className="block text-[15px] leading-tight font-semibold">
          {blocks > 0
            ? 'The loader would refuse it'
            : risky > 0
              ? 'It loads, with complaints'
              : 'The game would take it'}
        </b>
        {counted && `${blocks} block · ${risky} risky · ${plural(note, 'note')}`}
      </span>
    </p>
  )
}

/** What was done, a line a stage, and what of the source was given up. */
function Done({ item, run, findings }: Omit<PreparedDeskProps, 'jobs' | 'otherwise'>) {
  const { crate } = useCrate()
  const rounds = useRounds(runId(crate.id, item.id))
  const done = useMemo(() => stepsDone(item, run), [item, run])
  const lines = whatWasDone(done)
  const told = findings.filter(({ severity, waived }) => severity === 'note' && waived === null)
  return (
    <section
      aria-label="What was done"
      className="relative w-[336px] shrink-0 overflow-y-auto border-r border-edge bg-slip px-4 py-2"
      tabIndex={0}
    >
      <p className="caption">What was done, in {plural(item.worklist.filter(({ on }) => on).length, 'step')}</p>
      <ol className="text-[12.5px] leading-snug">
        {lines.map(({ stage, text }) => (
          <li key={stage} className="grid grid-cols-[58px_1fr] gap-2 border-b border-dashed border-edge py-[3px]">
            <b className="font-semibold">{stageTitles[stage]}</b>
            <span className="min-w-0 [overflow-wrap:anywhere]">{text}</span>
          </li>
        ))}
        {lines.length === 0 && (
          <li className="py-1 text-ink-2">
            {item.worklist.length === 0 ? 'Nothing yet.' : 'Nothing had to be changed.'}
          </li>
        )}
        {told.slice(0, 3).map((finding, index) => (
          <li
            key={`told ${index}`}
            className="grid grid-cols-[58px_1fr] gap-2 border-b border-dashed border-edge py-[3px] text-ink-2"
          >
            <span className="flex items-baseline gap-1">
              <StatusMark status="note" /> note
            </span>
            <span className="min-w-0 [overflow-wrap:anywhere]">{finding.message}</span>
          </li>
        ))}
      </ol>
      {rounds.length > 0 && (
        <details className="mt-1 text-[12.5px]">
          <summary className="cursor-pointer font-semibold">Checked again {plural(rounds.length, 'time')}</summary>
          <ul className="list-disc pl-4">
            {rounds.map((round, index) => (
              <li key={index}>{round}</li>
            ))}
          </ul>
        </details>
      )}
    </section>
  )
}

function stepsDone(item: CrateItem, run: ItemRun | undefined): StepDone[] {
  return item.worklist.flatMap((entry) => {
    const outcome = run?.evaluation?.outcomes.find((each) => each.entry === entry.id)
    const info = run?.evaluation?.steps.find(({ id }) => id === entry.step)
    if (outcome?.state !== 'done' || !info) return []
    return [{ stage: info.stage, title: info.title, ...outcome.record }]
  })
}

/** The questions one after the other, the open ones first. */
function Asked({ item, run, busy, jobs }: { busy: boolean } & Pick<PreparedDeskProps, 'item' | 'run' | 'jobs'>) {
  const { rulebook } = useCrate()
  const [at, setAt] = useState<string | null>(null)
  const questions = useMemo(() => questionsOfRun(item, run), [run, item])
  const open = questions.filter(({ answered }) => !answered).length
  const index = Math.max(
    0,
    questions.findIndex(({ id }) => id === at),
  )
  const question = questions.at(index)
  const axes = run?.evaluation?.source.axes
  return (
    <section
      aria-label="Still asked"
      className="relative flex min-w-0 flex-1 flex-col overflow-y-auto px-4 py-2"
      tabIndex={0}
    >
      <p className="caption flex items-baseline justify-between">
        <span>{open === 0 ? 'Nothing is asked' : `Still asked: ${open}. Answered or not, it goes on.`}</span>
        {questions.length > 1 && (
          <span role="group" aria-label="Questions" className="flex gap-1">
            {questions.map((each, number) => (
              <button
                key={each.id}
                type="button"
                aria-pressed={number === index}
                aria-label={`${number + 1}: ${each.title}`}
                onClick={() => setAt(each.id)}
                className={
                  'num rounded-full border px-2 text-[12px] ' +
                  `${number === index ? 'border-ink bg-ink text-slip' : 'border-edge-strong bg-slip'}`
                }
              >
                {number + 1}
                {each.answered ? ' ✓' : ''}
              </button>
            ))}
          </span>
        )}
      </p>
      {question && axes ? (
        <QuestionCard
          key={question.id}
          question={question}
          scene={run?.scenes?.source ?? null}
          axes={axes}
          rulebook={rulebook}
          disabled={busy}
          onAnswer={(answer) => jobs.answer(question, answer)}
        />
      ) : (
        <p className="py-2 text-[13px] text-ink-2">The source is being read.</p>
      )}
    </section>
  )
}
