import { Plus } from 'lucide-react'
import type { CrateItem } from '../../core/crate/schema'
import type { Rulebook } from '../../core/game/schema'
import { EntryLines } from './entry-lines'
import type { EntryHands } from './use-entry'

/** Lines for each look of the item: one for each colour. */
export function EntryRows({
  item,
  hands,
  rows,
}: {
  item: CrateItem
  hands: EntryHands
  rows: NonNullable<Rulebook['catalogue']['rows']>
}) {
  const { said, report, settings, say } = hands
  const without = report.names.look.filter((look) => !said.rows.some((row) => row.look === look))
  return (
    <section className="mt-6" aria-label={rows.title}>
      <div className="flex items-baseline gap-3">
        <h2 className="text-[17px]">{rows.title}</h2>
        <span className="flex-1 text-[12.5px] text-ink-2">
          a row for {rows.everyLook ? 'each look' : 'looks that stand by themselves'}
        </span>
        {without.length > 0 && (
          <button
            type="button"
            className="button flex items-center gap-1.5"
            onClick={() => say({ rows: Object.fromEntries(without.map((look) => [look, {}])) })}
          >
            <Plus size={14} aria-hidden="true" />{' '}
            {without.length === 1 ? `Add ${without[0]}` : `Add all ${without.length} looks`}
          </button>
        )}
      </div>
      {said.rows.map((row, number) => (
        <div key={`${row.look} ${number}`} className="mt-2 rounded-lg border border-edge bg-slip px-3 pt-1">
          <p className="flex items-baseline pt-1 text-[13.5px] font-semibold">
            <span className="flex-1">{row.look}</span>
            {!rows.everyLook && (
              <button type="button" className="link font-normal" onClick={() => say({ rows: { [row.look]: null } })}>
                Take the row out
              </button>
            )}
          </p>
          <EntryLines
            item={item}
            hands={hands}
            fields={rows.fields}
            said={row.fields}
            own={settings.rows[row.look] ?? {}}
            place={`${rows.key}[${number}].`}
            stock={null}
            onSay={(change) => say({ rows: { [row.look]: change } })}
          />
        </div>
      ))}
    </section>
  )
}
