import { useMemo, useState } from 'react'
import { parse, printParseErrorCode, type ParseError } from 'jsonc-parser'
import { z } from 'zod'
import type { CrateItem } from '../../core/crate/schema'
import type { ItemEntry } from '../../core/item/entry'
import { kindOf } from '../../core/game/load'
import { useCrate } from '../crate/use-crate'
import { StatusMark } from '../ui/status-mark'
import { faultsOf, type EntryHands } from './use-entry'

/** The lines of an entry as text, with the same checks; it counts when it is taken. */
export function EntryText({ item, hands }: { item: CrateItem; hands: EntryHands }) {
  const { rulebook } = useCrate()
  const kind = kindOf(rulebook, item.kind)
  const { rows } = rulebook.catalogue
  const { said, report, settings } = hands
  const before = useMemo(
    () =>
      JSON.stringify(
        {
          ...said.fields,
          ...(rows && said.rows.length > 0
            ? { [rows.key]: said.rows.map(({ look, fields }) => ({ [rows.lookKey]: look, ...fields })) }
            : {}),
        },
        null,
        2,
      ),
    [said, rows],
  )
  const [draft, setDraft] = useState<string | null>(null)
  const text = draft ?? before
  const read = useMemo(() => readText(text, rows), [text, rows])
  const faults = read.said ? faultsOf(read.said, rulebook, kind, report, read.said.fields) : []
  const take = (): void => {
    if (!read.said) return
    const { fields, rows: ofLooks } = read.said
    // What stood there and is not in the text any more is taken out.
    const gone = Object.keys(said.fields).filter((key) => !Object.hasOwn(fields, key))
    const goneRows = said.rows.filter(({ look }) => !ofLooks.some((row) => row.look === look))
    hands.write({
      ...settings,
      fields: { ...fields, ...Object.fromEntries(gone.map((key) => [key, null])) },
      rows: {
        ...Object.fromEntries(ofLooks.map((row) => [row.look, row.fields])),
        ...Object.fromEntries(goneRows.map(({ look }) => [look, null])),
      },
    })
    setDraft(null)
  }
  return (
    <div className="flex flex-col gap-2">
      <textarea
        aria-label="The entry as text"
        spellCheck={false}
        rows={Math.min(26, Math.max(10, text.split('\n').length + 1))}
        className="field num w-full text-[13px] leading-relaxed"
        value={text}
        onChange={(event) => setDraft(event.target.value)}
      />
      {read.problem !== null && (
        <p className="flex items-center gap-2 text-[13px]" role="alert">
          <StatusMark status="blocks" size={12} /> {read.problem}
        </p>
      )}
      <ul>
        {faults.map((fault, number) => (
          <li key={`${fault.rule} ${fault.where} ${number}`} className="flex items-start gap-2 py-0.5 text-[13px]">
            <span className="pt-[3px]">
              <StatusMark status={fault.severity} size={12} />
            </span>
            {fault.message}
          </li>
        ))}
      </ul>
      <div className="flex gap-3">
        <button type="button" className="button-main" disabled={draft === null || read.problem !== null} onClick={take}>
          Take it
        </button>
        <button type="button" className="button" disabled={draft === null} onClick={() => setDraft(null)}>
          As before
        </button>
      </div>
    </div>
  )
}

const linesSchema = z.record(z.string(), z.json())

/** What a text says of an entry; or the place where it cannot be read, and why. */
function readText(
  text: string,
  rows: { key: string; lookKey: string } | null,
): { problem: string; said: null } | { problem: null; said: Pick<ItemEntry, 'fields' | 'rows'> } {
  const errors: ParseError[] = []
  const value: unknown = parse(text, errors)
  const [error] = errors
  if (error) {
    const line = text.slice(0, error.offset).split('\n').length
    return { problem: `Line ${line} cannot be read: ${words(printParseErrorCode(error.error))}.`, said: null }
  }
  const lines = linesSchema.safeParse(value)
  if (!lines.success) return { problem: 'An entry is keys with values, in braces.', said: null }
  const ofRows = rows && z.array(linesSchema).safeParse(lines.data[rows.key])
  const fields = Object.fromEntries(
    Object.entries(lines.data).filter(([key]) => !(rows && ofRows?.success && key === rows.key)),
  )
  return {
    problem: null,
    said: {
      fields,
      rows:
        rows && ofRows?.success
          ? ofRows.data.map(({ [rows.lookKey]: look, ...own }) => ({ look: String(look ?? ''), fields: own }))
          : [],
    },
  }
}

/** “CommaExpected” → “comma expected”. */
const words = (code: string): string => code.replace(/([a-z])([A-Z])/g, '$1 $2').toLowerCase()
