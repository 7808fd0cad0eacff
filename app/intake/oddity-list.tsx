import type { CrateItem } from '../../core/crate/schema'
import type { BenchJobs } from '../crate/use-bench-jobs'
import { useCrate } from '../crate/use-crate'
import { StatusMark } from '../ui/status-mark'
import type { SourceReport } from '../workers/source-messages'

interface OddityListProps {
  item: CrateItem
  source: SourceReport
  jobs: BenchJobs
  onLink: (path: string) => void
  onOpenStep: (entry: string) => void
  onPick: (parts: readonly string[]) => void
}

type Oddity = SourceReport['oddities'][number]

/** What looks off about a source, each with what mends it. */
export function OddityList({ item, source, jobs, onLink, onOpenStep, onPick }: OddityListProps) {
  const { send } = useCrate()
  const parts = new Set(source.parts.map((part) => part.name))
  const mend = (odd: Oddity): void => {
    if (!odd.mend) return
    if (odd.mend.do === 'set-unit')
      void send({ do: 'set-reading', item: item.id, reading: { metresPerUnit: odd.mend.metresPerUnit } })
    else if (odd.mend.do === 'link-texture') onLink(odd.where)
    else {
      const step = odd.mend.do === 'drop-strays' ? 'drop-strays' : odd.mend.step
      const present = item.worklist.find((entry) => entry.step === step)
      if (present) onOpenStep(present.id)
      else void jobs.putStep(step)
    }
  }
  const isMended = (odd: Oddity): boolean => {
    const step = odd.mend?.do === 'drop-strays' ? 'drop-strays' : odd.mend?.do === 'step' ? odd.mend.step : null
    return step !== null && item.worklist.some((entry) => entry.step === step && entry.on)
  }
  return (
    <div className="flex min-h-0 min-w-0 flex-col border-l border-edge px-3 pt-2">
      <p className="caption pb-1">
        {source.oddities.length === 0
          ? 'Nothing looks off'
          : `${source.oddities.length} ${source.oddities.length === 1 ? 'thing looks' : 'things look'} off`}
      </p>
      <ul className="min-h-0 flex-1 relative overflow-y-auto" tabIndex={0} aria-label="What looks off">
        {source.oddities.map((odd) => (
          <li
            key={`${odd.id} ${odd.where}`}
            className="grid grid-cols-[16px_1fr] gap-x-2 border-b border-dashed border-edge py-1"
          >
            <StatusMark status={isMended(odd) ? 'clear' : odd.mend ? 'risky' : 'note'} />
            <span>
              {odd.message}
              <span className="mt-px flex gap-3">
                {parts.has(odd.where) && (
                  <button type="button" className="link" onClick={() => onPick([odd.where])}>
                    Show me
                  </button>
                )}
                {odd.mend && (
                  <button type="button" className="link" onClick={() => mend(odd)}>
                    {isMended(odd) ? 'Open the step' : odd.mend.label}
                  </button>
                )}
              </span>
            </span>
          </li>
        ))}
        {source.oddities.length === 0 && (
          <li className="flex items-center gap-2 py-2">
            <StatusMark status="clear" /> It came in clean.
          </li>
        )}
      </ul>
    </div>
  )
}
