import type { Sureness } from '../../core/learn/learned'
import { plural } from '../../core/support/wording'
import { StatusMark } from '../ui/status-mark'
import type { LearnedReport } from '../workers/rulebook-messages'

type Line = LearnedReport['lines'][number]

/** What the modder decided of lines, by their number. */
export type Decisions = Readonly<Record<number, { kept?: boolean; value?: unknown }>>

interface LearnedTableProps {
  lines: readonly Line[]
  decisions: Decisions
  onDecide: (decisions: Decisions) => void
}

const marks: Record<Sureness, 'clear' | 'note' | 'risky'> = { sure: 'clear', likely: 'note', guess: 'risky' }

/** Every field that was learned: kept or not, its value, how sure it is, from how many files, what contradicts it. */
export function LearnedTable({ lines, decisions, onDecide }: LearnedTableProps) {
  const decide = (number: number, change: Decisions[number]): void =>
    onDecide({ ...decisions, [number]: { ...decisions[number], ...change } })
  return (
    <table className="mt-2 w-full table-fixed text-left text-[13.5px]">
      <thead className="caption">
        <tr className="border-b border-edge-strong">
          <th scope="col" className="w-12 py-1.5 font-semibold">
            Keep
          </th>
          <th scope="col" className="w-52 font-semibold">
            Field
          </th>
          <th scope="col" className="w-64 font-semibold">
            Value
          </th>
          <th scope="col" className="w-24 font-semibold">
            How sure
          </th>
          <th scope="col" className="font-semibold">
            How it was told
          </th>
        </tr>
      </thead>
      <tbody>
        {lines.map((line, number) => {
          const { path, value, sureness, files, why, against } = line
          const field = path.join('.')
          const kept = decisions[number]?.kept !== false
          return (
            <tr key={field} className={`border-b border-dashed border-edge align-top ${kept ? '' : 'text-ink-2'}`}>
              <td className="py-1.5">
                <input
                  type="checkbox"
                  className="size-4 accent-spruce"
                  aria-label={`Keep ${field}`}
                  checked={kept}
                  onChange={({ target }) => decide(number, { kept: target.checked })}
                />
              </td>
              <td className="num py-1.5 pr-3 wrap-anywhere">{field}</td>
              <td className="py-1 pr-3">
                <Value
                  field={field}
                  isNumber={typeof value === 'number'}
                  value={decisions[number]?.value ?? value}
                  onChange={(next) => decide(number, { value: next })}
                />
              </td>
              <td className="py-1.5">
                <span className="flex items-center gap-1.5">
                  <StatusMark status={marks[sureness]} size={11} /> {sureness}
                </span>
              </td>
              <td className="py-1.5 text-ink-2">
                {plural(files, 'file')}: {why}
                {against.map((other) => (
                  <p key={other.file} className="flex items-baseline gap-1.5 text-ink">
                    <StatusMark status="risky" size={10} />
                    <span className="wrap-anywhere">
                      {JSON.stringify(other.value)} in {other.file}
                    </span>
                  </p>
                ))}
              </td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}

interface ValueProps {
  field: string
  /** Whether a number was learned: then what is typed is one as soon as it can be, however it was before. */
  isNumber: boolean
  value: unknown
  onChange: (value: unknown) => void
}

/** A value that is one word can be changed here; what is larger is changed where the rulebook is edited. */
function Value({ field, isNumber, value, onChange }: ValueProps) {
  if (typeof value === 'string' || typeof value === 'number')
    return (
      <input
        className="field num w-full"
        aria-label={`Value of ${field}`}
        value={String(value)}
        onChange={({ target }) =>
          onChange(
            isNumber && Number.isFinite(Number(target.value)) && target.value.trim() !== ''
              ? Number(target.value)
              : target.value,
          )
        }
      />
    )
  if (typeof value === 'boolean')
    return (
      <select
        className="field"
        aria-label={`Value of ${field}`}
        value={String(value)}
        onChange={({ target }) => onChange(target.value === 'true')}
      >
        <option>true</option>
        <option>false</option>
      </select>
    )
  return (
    <details>
      <summary className="cursor-pointer text-ink-2">all of it</summary>
      <pre className="num max-h-48 overflow-auto text-[12px]" tabIndex={0}>
        {JSON.stringify(value, null, 1)}
      </pre>
    </details>
  )
}
