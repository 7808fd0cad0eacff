import { useId, type ReactNode } from 'react'
import type { EntryFault } from '../../core/game/catalogue/entry-faults'
import { gameNames } from '../../core/crate/game-names'
import { stockRange } from '../../core/game/catalogue/stock-range'
import type { CatalogueField, ReferenceTarget } from '../../core/game/schema-catalogue'
import type { CrateItem } from '../../core/crate/schema'
import { useCrate } from '../crate/use-crate'
import { StatusMark } from '../ui/status-mark'
import { LineField, type NameGroup } from './line-field'
import type { EntryHands } from './use-entry'

type Value = EntryHands['said']['fields'][string]

const targetTitles: Record<ReferenceTarget, string> = {
  part: 'Parts',
  group: 'Groups',
  point: 'Attach points',
  marker: 'Markers',
  clip: 'Clips',
  light: 'Lights',
  look: 'Looks',
  item: 'Items of this crate',
  stock: 'In the game',
}

interface EntryLinesProps {
  item: CrateItem
  hands: EntryHands
  fields: readonly CatalogueField[]
  /** What the lines say; without those that nobody said. */
  said: Readonly<Record<string, Value>>
  /** What of them was said, and is not usual alone. */
  own: Readonly<Record<string, Value>>
  /** What goes before a key in findings: `colours[1].`. */
  place?: string
  /** What the stock entry says that it was started from. */
  stock: { title: string; fields: Readonly<Record<string, unknown>> } | null
  onSay: (change: Record<string, Value>) => void
}

/** Lines of an entry as fields, each with where its value comes from and what is wrong with it. */
export function EntryLines({ item, hands, fields, said, own, place = '', stock, onSay }: EntryLinesProps) {
  const { crate, rulebook } = useCrate()
  const names = gameNames(crate.items, rulebook)
  const { report, faults } = hands
  const namesFor = ({
    to,
    ofKinds,
  }: {
    to: readonly ReferenceTarget[]
    ofKinds: readonly string[] | null
  }): NameGroup[] =>
    to
      .map((target) => ({ title: targetTitles[target], names: namesOf(target, ofKinds) }))
      .filter((group) => group.names.length > 0)
  const namesOf = (target: ReferenceTarget, ofKinds: readonly string[] | null): string[] => {
    if (target === 'item')
      return crate.items
        .filter(({ id, kind }) => id !== item.id && (ofKinds === null || ofKinds.includes(kind)))
        .map(({ id }) => names.get(id) ?? id)
    if (target === 'stock')
      return [
        ...rulebook.stock.entries.filter(({ kind }) => ofKinds === null || ofKinds.includes(kind)).map(({ id }) => id),
        ...(ofKinds === null ? rulebook.stock.objects.map(({ id }) => id) : []),
      ]
    return report.names[target]
  }
  return (
    <ul className="flex flex-col">
      {fields.map((field) => (
        <Line
          key={field.key}
          field={field}
          faults={faults.filter(
            ({ where }) => where === place + field.key || where.startsWith(`${place}${field.key}[`),
          )}
          origin={originOf(field, said, own, stock)}
          range={rangeSentence(field, rulebook, item.kind)}
          onTakeOut={
            Object.hasOwn(own, field.key) && own[field.key] !== null ? () => onSay({ [field.key]: null }) : null
          }
        >
          {(id) => (
            <LineField
              id={id}
              label={place === '' ? field.title : `${field.title}, ${place}`}
              allowed={field.value}
              value={said[field.key]}
              namesFor={namesFor}
              onChange={(value) => onSay({ [field.key]: value })}
            />
          )}
        </Line>
      ))}
    </ul>
  )
}

/** Where a line's value comes from, in a word or two. */
function originOf(
  { key }: CatalogueField,
  said: EntryLinesProps['said'],
  own: EntryLinesProps['own'],
  stock: EntryLinesProps['stock'],
): string {
  if (!Object.hasOwn(said, key)) return 'not said'
  const isOwn = Object.hasOwn(own, key) && own[key] !== null
  if (stock && Object.hasOwn(stock.fields, key) && JSON.stringify(stock.fields[key]) === JSON.stringify(said[key]))
    return `as in ${stock.title}`
  return isOwn ? 'yours' : 'usual'
}

function rangeSentence(field: CatalogueField, rulebook: Parameters<typeof stockRange>[1], kind: string): string | null {
  if (field.value.sort !== 'number') return null
  const range = stockRange(field, rulebook, { id: kind })
  return range && range.of > 1
    ? `in the game ${range.least === range.most ? range.least : `${range.least} to ${range.most}`}`
    : null
}

function Line({
  field,
  faults,
  origin,
  range,
  onTakeOut,
  children,
}: {
  field: CatalogueField
  faults: readonly EntryFault[]
  origin: string
  range: string | null
  onTakeOut: (() => void) | null
  children: (id: string) => ReactNode
}) {
  const id = useId()
  return (
    <li className="grid grid-cols-[150px_minmax(0,1fr)_118px] items-start gap-3 border-b border-dashed border-edge py-2 text-[13.5px]">
      <label htmlFor={id} className="leading-tight">
        <b className="font-semibold">{field.title}</b>
        {field.needed && <span className="text-ink-2"> · needed</span>}
        <code className="num block text-[11.5px] text-ink-2">{field.key}</code>
      </label>
      <div className="min-w-0">
        {children(id)}
        {(field.described !== '' || range) && (
          <p className="mt-0.5 text-[12px] text-ink-2">
            {[field.described.replace(/\.$/, ''), range].filter(Boolean).join(' · ')}
          </p>
        )}
        {faults.map((fault) => (
          <p key={fault.rule + fault.where} className="mt-0.5 flex items-start gap-1.5 text-[12.5px]" role="status">
            <span className="pt-[3px]">
              <StatusMark status={fault.severity} size={11} />
            </span>
            {fault.message}
          </p>
        ))}
      </div>
      <span className="text-right text-[12px] text-ink-2">
        <span className={origin.startsWith('as in') ? 'chip' : undefined}>{origin}</span>
        {onTakeOut && (
          <button
            type="button"
            className="link ml-2 font-normal"
            onClick={onTakeOut}
            aria-label={`Take back ${field.title}`}
          >
            take back
          </button>
        )}
      </span>
    </li>
  )
}
