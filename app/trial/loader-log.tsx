import { ChevronDown, ChevronRight } from 'lucide-react'
import { useMemo, useState } from 'react'
import { Link } from 'react-router'
import { gameNames } from '../../core/crate/game-names'
import { findingsOf, stageTitles } from '../crate/stage-status'
import { useBenchJobs } from '../crate/use-bench-jobs'
import { useCrate } from '../crate/use-crate'
import { runId, useItemRun } from '../queries/runs'
import type { CrateItem } from '../../core/crate/schema'
import { explain, type ExplainedLine } from '../../core/trial/log-explanations'
import type { LogLine } from '../../core/trial/log'
import { plural } from '../ui/format'
import { StatusMark, type Status } from '../ui/status-mark'
import { likeliestFinding } from './likeliest-finding'

const statusOf = ({ level, harmless }: ExplainedLine): Status =>
  level === 'refused' ? 'blocks' : harmless ? 'clear' : 'risky'
const levelWords: Record<LogLine['level'], string> = { refused: 'refused', complaint: 'complains', told: 'tells' }

/** What the loader said: faults first, each with what it means and what mends it; what may stay is folded. */
export function LoaderLog({ log }: { log: readonly LogLine[] | null }) {
  const { crate, rulebook } = useCrate()
  const itemCalled = useMemo(() => {
    const names = gameNames(crate.items, rulebook)
    return new Map(crate.items.map((item) => [names.get(item.id), item]))
  }, [crate, rulebook])
  const row = (line: ExplainedLine, key: string) => (
    <LogRow key={key} line={line} item={itemCalled.get(line.item ?? undefined) ?? null} />
  )
  const [open, setOpen] = useState(false)
  const lines = (log ?? []).map(explain)
  const faults = lines.filter(({ harmless }) => !harmless)
  const refused = faults.filter(({ level }) => level === 'refused')
  const harmless = lines.filter((line) => line.harmless)
  return (
    <div className="flex min-w-0 flex-1 flex-col px-4 pt-2">
      <p className="caption flex justify-between">
        <span>The loader’s log</span>
        {log && (
          <span className="num">
            {plural(faults.length, 'fault')} · {harmless.length} harmless
          </span>
        )}
      </p>
      <ol className="relative min-h-0 flex-1 overflow-y-auto" tabIndex={0} aria-label="The loader’s log">
        {[...refused, ...faults.filter(({ level }) => level !== 'refused')].map((line, index) =>
          row(line, `fault ${index}`),
        )}
        {log && faults.length === 0 && (
          <li className="flex items-center gap-2 py-2 text-[13px]">
            <StatusMark status="clear" /> Not a word of complaint.
          </li>
        )}
        {harmless.length > 0 && (
          <li>
            <button
              type="button"
              aria-expanded={open}
              onClick={() => setOpen(!open)}
              className="flex items-center gap-1.5 py-1.5 text-[13px] text-ink-2 hover:underline"
            >
              {open ? <ChevronDown size={14} aria-hidden="true" /> : <ChevronRight size={14} aria-hidden="true" />}
              {plural(harmless.length, 'harmless message')}: nothing is seen of {harmless.length === 1 ? 'it' : 'them'}{' '}
              in the game
            </button>
          </li>
        )}
        {open && harmless.map((line, index) => row(line, `harmless ${index}`))}
        {!log && <li className="py-3 text-ink-2">Nothing was loaded yet.</li>}
      </ol>
    </div>
  )
}

function LogRow({ line, item }: { line: ExplainedLine; item: CrateItem | null }) {
  return (
    <li className="grid grid-cols-[14px_72px_116px_minmax(0,1fr)_auto] items-baseline gap-3 border-b border-dashed border-edge py-1 text-[13px]">
      <StatusMark status={statusOf(line)} />
      <span>{levelWords[line.level]}</span>
      <span className="num truncate text-[12px]" title={line.code}>
        {line.code}
      </span>
      <span className="min-w-0 [overflow-wrap:anywhere]">
        {line.message}
        {line.level !== 'told' && <span className="block text-[12.5px] text-ink-2">{line.says}</span>}
        <span className="num block truncate text-[11.5px] text-ink-2">{line.file}</span>
      </span>
      {item && line.level !== 'told' ? <Mend item={item} line={line} /> : <span />}
    </li>
  )
}

/** The finding that a line is about, with its mend; where it is worked on otherwise. */
function Mend({ item, line }: { item: CrateItem; line: ExplainedLine }) {
  const { crate } = useCrate()
  const run = useItemRun(runId(crate.id, item.id))
  const jobs = useBenchJobs(item)
  const finding = likeliestFinding(findingsOf(item, run), line)
  const mend = finding?.mend
  const to =
    line.stage === 'entry'
      ? `/crate/${crate.id}/item/${item.id}/entry`
      : line.stage === 'pack'
        ? `/crate/${crate.id}/pack`
        : `/crate/${crate.id}/item/${item.id}?stage=${line.stage}`
  return (
    <span className="flex flex-col items-end whitespace-nowrap">
      {mend && (
        <button type="button" className="link" onClick={() => jobs.mend(mend)}>
          Mend: {mend.label}
        </button>
      )}
      <Link className="link font-normal" to={to}>
        {line.stage === 'entry' ? 'Its entry' : `To ${stageTitles[line.stage]}`}
      </Link>
    </span>
  )
}
