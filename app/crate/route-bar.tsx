import { Link } from 'react-router'
import { stages, type Stage } from '../../core/support/stages'
import { StatusMark } from '../ui/status-mark'
import { stageTitles, type StageStatus } from './stage-status'

interface RouteBarProps {
  /** Status of each stage. */
  statusOf: (stage: Stage) => StageStatus
  linkOf: (stage: Stage) => string
  current: Stage | null
}

/** The nine stages of the job, left to right, each with its status. */
export function RouteBar({ statusOf, linkOf, current }: RouteBarProps) {
  return (
    <nav aria-label="Stages" className="flex h-[52px] shrink-0 border-b border-edge bg-paper px-3">
      <ol className="flex min-w-0 flex-1">
        {stages.map((stage, index) => {
          const { status, text } = statusOf(stage)
          const active = stage === current
          return (
            <li key={stage} className="relative min-w-0 flex-1">
              {index < stages.length - 1 && (
                <span className="absolute top-[17px] right-0 left-[82px] h-px bg-edge-strong" aria-hidden="true" />
              )}
              <Link
                to={linkOf(stage)}
                aria-current={active ? 'step' : undefined}
                className={
                  'absolute inset-0 flex gap-2 px-2 pt-2 ' +
                  `${active ? 'bg-gradient-to-b from-transparent to-kraft-wash' : 'hover:bg-slip'}`
                }
              >
                <span className="pt-[3px]">
                  <StatusMark status={status} />
                </span>
                <span className="min-w-0 leading-tight">
                  <b
                    className={
                      `block bg-paper pr-1.5 text-[13.5px] font-semibold ${active ? 'text-ink' : 'text-ink-2'} ` +
                      'w-fit'
                    }
                  >
                    {stageTitles[stage]}
                  </b>
                  <span className="block truncate text-[12px] text-ink-2">{text}</span>
                </span>
              </Link>
            </li>
          )
        })}
      </ol>
    </nav>
  )
}
