import { useState } from 'react'
import type { TriedFinding, TriedItem } from '../../../core/crate/rulebook-trial'
import type { Crate } from '../../../core/crate/schema'
import type { Rulebook } from '../../../core/game/schema'
import { plural } from '../../../core/support/wording'
import { tellError } from '../../ui/notify'
import { ProgressStrip } from '../../ui/progress-strip'
import { StatusMark } from '../../ui/status-mark'
import { stopPacking, tryRulebookOn } from '../../workers/clients'
import type { Progress } from '../../workers/messages'

interface TryOnCrateProps {
  rulebook: Rulebook | null
  crates: readonly Crate[]
  /** Puts the rulebook into a crate. */
  onUse: (crate: Crate) => void
}

/** Tries a draft on the items of a crate: which findings come, which go. */
export function TryOnCrate({ rulebook, crates, onUse }: TryOnCrateProps) {
  const [chosen, setChosen] = useState('')
  const [progress, setProgress] = useState<Progress | null>(null)
  const [tried, setTried] = useState<{ of: Rulebook; items: TriedItem[] } | null>(null)
  const crate = crates.find(({ id }) => id === chosen) ?? crates[0]
  if (!crate) return <p className="text-[13px] text-ink-2">With a crate on the shelf this can be tried on its items.</p>
  const run = async (): Promise<void> => {
    if (!rulebook) return
    setProgress({ entry: '', title: crate.name, fraction: 0, doing: '' })
    try {
      setTried({ of: rulebook, items: await tryRulebookOn(crate, rulebook, setProgress) })
    } catch (error) {
      tellError(error)
    } finally {
      setProgress(null)
    }
  }
  return (
    <section aria-label="Tried on a crate">
      <div className="flex flex-wrap items-center gap-2.5">
        <label className="flex items-center gap-2 text-[13.5px]">
          Try it on
          <select
            className="field"
            value={crate.id}
            onChange={({ target }) => {
              setChosen(target.value)
              setTried(null)
            }}
          >
            {crates.map(({ id, name, items }) => (
              <option key={id} value={id}>
                {name} · {plural(items.length, 'item')}
              </option>
            ))}
          </select>
        </label>
        <button
          type="button"
          className="button"
          disabled={!rulebook || progress !== null || crate.items.length === 0}
          onClick={() => void run()}
        >
          Try
        </button>
        <button type="button" className="button" disabled={!rulebook} onClick={() => onUse(crate)}>
          Put it into this crate
        </button>
      </div>
      {progress && (
        <ProgressStrip
          title={progress.title}
          doing={progress.doing}
          fraction={progress.fraction}
          of="of the work"
          onStop={() => {
            stopPacking()
            setProgress(null)
          }}
        />
      )}
      {tried && (
        <div
          className="mt-2 max-h-[190px] overflow-y-auto text-[13px]"
          tabIndex={0}
          role="region"
          aria-label="What was tried"
        >
          {tried.of !== rulebook && <p className="text-ink-2">The text was changed since; try again.</p>}
          {tried.items.map(({ name, more, less }) => (
            <div key={name} className="border-b border-dashed border-edge py-1">
              <p>
                <b className="font-semibold">{name}</b>:{' '}
                {more.length + less.length === 0
                  ? 'nothing changes'
                  : `${plural(more.length, 'finding')} more, ${less.length} less`}
              </p>
              <ul>
                {more.map((finding) => (
                  <Changed key={`+${finding.rule}${finding.where}`} sign="+" finding={finding} />
                ))}
                {less.map((finding) => (
                  <Changed key={`-${finding.rule}${finding.where}`} sign="−" finding={finding} />
                ))}
              </ul>
            </div>
          ))}
        </div>
      )}
    </section>
  )
}

const Changed = ({ sign, finding }: { sign: string; finding: TriedFinding }) => (
  <li className="flex items-baseline gap-2">
    <span className="num w-3">{sign}</span>
    <StatusMark status={finding.severity} size={10} />
    <span className={sign === '−' ? 'text-ink-2' : ''}>{finding.message}</span>
  </li>
)
