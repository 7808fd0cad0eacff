import { Plus, Trash2 } from 'lucide-react'
import { z } from 'zod'
import { gameNames } from '../../core/crate/game-names'
import { itemEventSchema, type ItemEvent } from '../../core/item/entry'
import { useCrate } from '../crate/use-crate'
import type { Field } from '../workers/field-messages'

const eventsSchema = z.array(itemEventSchema).catch([])

/** What happens when something is done to the item: a line an event, and another below them. */
export function EventsField({
  field,
  value,
  onChange,
}: {
  field: Extract<Field, { type: 'events' }>
  value: unknown
  onChange: (value: ItemEvent[]) => void
}) {
  const { crate, rulebook } = useCrate()
  const events = eventsSchema.parse(value)
  const others = [...gameNames(crate.items, rulebook).values()]
  const change = (number: number, part: Partial<ItemEvent>): void =>
    onChange(
      events.map((event, at) =>
        at === number
          ? // What is the whole item is not said.
            (Object.fromEntries(Object.entries({ ...event, ...part }).filter(([, word]) => word !== '')) as ItemEvent)
          : event,
      ),
    )
  const [when] = field.causes
  const [does] = field.actions
  if (!when || !does) return <p className="text-[13px] text-ink-2">The game has no events.</p>
  return (
    <div className="flex flex-col gap-2 text-[13px]">
      {events.length === 0 && <p className="text-ink-2">Nothing happens yet. Add an event: when, do, to what.</p>}
      <ol className="flex flex-col gap-2">
        {events.map((event, number) => (
          <li key={number} className="rounded-lg border border-edge bg-paper px-2 py-1.5">
            <fieldset className="grid grid-cols-[44px_1fr_1fr_24px] items-center gap-1">
              <legend className="sr-only">Event {number + 1}</legend>
              <span className="text-ink-2">when</span>
              <Choice
                label={`Event ${number + 1}: what`}
                value={event.at ?? ''}
                options={[
                  { value: '', label: 'the item' },
                  ...field.things.map((name) => ({ value: name, label: name })),
                ]}
                onChange={(at) => change(number, { at })}
              />
              <Choice
                label={`Event ${number + 1}: when`}
                value={event.when}
                options={field.causes}
                onChange={(word) => change(number, { when: word })}
              />
              <button
                type="button"
                aria-label={`Remove event ${number + 1}`}
                className="justify-self-end rounded p-0.5 text-ink-2 hover:text-block"
                onClick={() => onChange(events.filter((_, at) => at !== number))}
              >
                <Trash2 size={14} aria-hidden="true" />
              </button>
              <span className="text-ink-2">do</span>
              <Choice
                label={`Event ${number + 1}: do`}
                value={event.do}
                options={field.actions}
                onChange={(word) => change(number, { do: word })}
              />
              <Choice
                label={`Event ${number + 1}: to`}
                value={event.to ?? ''}
                options={[
                  { value: '', label: 'the item' },
                  ...field.things.map((name) => ({ value: name, label: name })),
                  ...others
                    .filter((name) => !field.things.includes(name))
                    .map((name) => ({ value: name, label: `${name} (item)` })),
                ]}
                onChange={(to) => change(number, { to })}
              />
            </fieldset>
          </li>
        ))}
      </ol>
      <button
        type="button"
        className="button flex w-fit items-center gap-1.5"
        onClick={() => onChange([...events, { when: when.value, do: does.value }])}
      >
        <Plus size={14} aria-hidden="true" /> Add an event
      </button>
    </div>
  )
}

/** One of several words; one that is none of them is shown as it is. */
function Choice({
  label,
  value,
  options,
  onChange,
}: {
  label: string
  value: string
  options: readonly { value: string; label: string }[]
  onChange: (value: string) => void
}) {
  return (
    <select
      className="field w-full min-w-0 px-1 text-[12.5px]"
      aria-label={label}
      value={value}
      onChange={(event) => onChange(event.target.value)}
    >
      {!options.some((option) => option.value === value) && <option value={value}>{value} (not there)</option>}
      {options.map((option) => (
        <option key={option.value} value={option.value}>
          {option.label}
        </option>
      ))}
    </select>
  )
}
