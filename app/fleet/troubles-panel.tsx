import type { CrateItem } from '../../core/crate/schema'
import { plural } from '../ui/format'
import { StatusMark } from '../ui/status-mark'
import type { TroubleEverywhere } from './everywhere'

interface TroublesPanelProps {
  troubles: readonly TroubleEverywhere[]
  /** The trouble whose items alone are shown in the table. */
  shown: string
  onShow: (rule: string) => void
  onMend: (mends: TroubleEverywhere['mends']) => void
  /** Whether something is under way for many items. */
  busy: boolean
}

const mendWords = (mends: number, items: number): string =>
  items === 1 ? 'Mend' : `Mend ${mends === items ? 'all' : 'in'} ${plural(mends, 'item')}`

const MOST_NAMED = 2

const namesOf = (items: readonly CrateItem[]): string =>
  items.length <= MOST_NAMED
    ? items.map(({ name }) => name).join(', ')
    : `${items
        .slice(0, MOST_NAMED)
        .map(({ name }) => name)
        .join(', ')} and ${items.length - MOST_NAMED} more`

/** What was found in all items, a line a trouble, each mended everywhere at once. */
export function TroublesPanel({ troubles, shown, onShow, onMend, busy }: TroublesPanelProps) {
  if (troubles.length === 0) return null
  return (
    <section aria-labelledby="found-everywhere" className="flex min-h-0 flex-col">
      <h2 id="found-everywhere" className="text-[17px]">
        Findings of all items
      </h2>
      <ul className="relative mt-1 max-h-[300px] overflow-y-auto" tabIndex={0} aria-labelledby="found-everywhere">
        {troubles.map(({ rule, severity, title, why, items, mends }) => (
          <li
            key={`${rule} ${severity}`}
            className="grid grid-cols-[16px_1fr] gap-x-2 border-b border-dashed border-edge py-1.5 text-[13px]"
          >
            <StatusMark status={severity} />
            <div className="min-w-0">
              <button
                type="button"
                title={why}
                aria-pressed={shown === rule}
                onClick={() => onShow(shown === rule ? '' : rule)}
                className={`text-left font-semibold hover:underline ${shown === rule ? 'text-spruce underline' : ''}`}
              >
                {title}
              </button>
              <span className="block text-[12.5px] text-ink-2 [overflow-wrap:anywhere]">{namesOf(items)}</span>
              {mends.length > 0 && (
                <button type="button" className="link text-[12.5px]" disabled={busy} onClick={() => onMend(mends)}>
                  {mendWords(mends.length, items.length)}: {mends[0].mend.label}
                </button>
              )}
            </div>
          </li>
        ))}
      </ul>
    </section>
  )
}
