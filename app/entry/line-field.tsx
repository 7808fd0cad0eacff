import { useId } from 'react'
import { Plus, X } from 'lucide-react'
import { rangeWords, shownValue } from '../../core/game/catalogue/value-fault'
import type { FieldValue, SingleValue } from '../../core/game/schema-catalogue'
import { NumberInput } from '../ui/fields/number-input'
import { Switch } from '../ui/fields/field-row'
import { TextInput } from '../ui/fields/text-input'

type Value = string | number | boolean | null | Value[] | { [key: string]: Value }

interface LineFieldProps {
  id: string
  label: string
  allowed: FieldValue
  /** Undefined where nothing is said. */
  value: Value | undefined
  /** What a name may be, by the sort of thing. */
  namesFor: (allowed: Extract<SingleValue, { sort: 'reference' }>) => NameGroup[]
  onChange: (value: Value) => void
}

/** Names that a line may say, under what they are. */
export interface NameGroup {
  title: string
  names: string[]
}

/** One line of an entry in the control that suits what it may say; a value of another sort is shown as it is. */
export function LineField({ id, label, allowed, value, namesFor, onChange }: LineFieldProps) {
  if (allowed.sort !== 'list') return <SingleField {...{ id, label, allowed, value, namesFor, onChange }} />
  const list = Array.isArray(value) ? value : []
  const { of } = allowed
  const first = firstOf(of, namesFor)
  return (
    <div className="flex flex-col gap-1">
      {list.map((each, at) => (
        <span key={at} className="flex items-center gap-1">
          <SingleField
            id={`${id}-${at}`}
            label={`${label}, ${at + 1}`}
            allowed={of}
            value={each}
            namesFor={namesFor}
            onChange={(next) => onChange(list.map((other, index) => (index === at ? next : other)))}
          />
          <button
            type="button"
            aria-label={`Take ${shownValue(each)} out of ${label}`}
            className="rounded p-0.5 text-ink-2 hover:text-block"
            onClick={() => onChange(list.filter((_, index) => index !== at))}
          >
            <X size={14} aria-hidden="true" />
          </button>
        </span>
      ))}
      {list.length < allowed.most && first !== null && (
        <button
          type="button"
          id={list.length === 0 ? id : undefined}
          className="chip flex w-fit items-center gap-1 hover:bg-white"
          aria-label={`Add to ${label}`}
          onClick={() => onChange([...list, first])}
        >
          <Plus size={13} aria-hidden="true" /> add
        </button>
      )}
      {first === null && <span className="text-[12.5px] text-ink-2">There is nothing to name.</span>}
    </div>
  )
}

/** What is put in when one more is added to a list. */
function firstOf(of: SingleValue, namesFor: LineFieldProps['namesFor']): Value {
  switch (of.sort) {
    case 'choice':
      return of.of[0].word
    case 'number':
      return of.least
    case 'yes-no':
      return true
    case 'text':
      return '…'
    case 'reference':
      return namesFor(of)[0]?.names[0] ?? null
  }
}

function SingleField({
  id,
  label,
  allowed,
  value,
  namesFor,
  onChange,
}: Omit<LineFieldProps, 'allowed'> & { allowed: SingleValue }) {
  switch (allowed.sort) {
    case 'text':
      return allowed.longest > 80 ? (
        <LongText id={id} label={label} value={asText(value)} onChange={onChange} />
      ) : (
        <TextInput id={id} label={label} className="w-full max-w-[320px]" value={asText(value)} onChange={onChange} />
      )
    case 'number':
      return (
        <span className="flex items-center gap-2">
          <NumberInput
            id={id}
            label={label}
            className="w-[96px]"
            least={allowed.least}
            most={allowed.most}
            places={allowed.whole ? 0 : 4}
            value={typeof value === 'number' ? value : null}
            onChange={(next) => onChange(allowed.whole ? Math.round(next) : next)}
          />
          <span className="text-[12px] text-ink-2">{rangeWords(allowed)}</span>
        </span>
      )
    case 'yes-no':
      return <Switch on={value === true} label={label} onChange={onChange} />
    case 'choice':
      return (
        <Select
          id={id}
          label={label}
          value={value}
          groups={[{ title: '', options: allowed.of.map(({ word, title }) => ({ value: word, label: title })) }]}
          onChange={onChange}
        />
      )
    case 'reference':
      return (
        <Select
          id={id}
          label={label}
          value={value}
          groups={namesFor(allowed).map(({ title, names }) => ({
            title,
            options: names.map((name) => ({ value: name, label: name })),
          }))}
          onChange={onChange}
        />
      )
  }
}

const asText = (value: Value | undefined): string =>
  typeof value === 'string' ? value : value === undefined || value === null ? '' : shownValue(value)

function Select({
  id,
  label,
  value,
  groups,
  onChange,
}: {
  id: string
  label: string
  value: Value | undefined
  groups: { title: string; options: { value: string; label: string }[] }[]
  onChange: (value: string) => void
}) {
  const all = groups.flatMap(({ options }) => options)
  const shown = value === undefined ? '' : asText(value)
  const known = all.some((option) => option.value === shown)
  return (
    <select
      id={id}
      aria-label={label}
      aria-invalid={shown !== '' && !known}
      className="field w-full max-w-[320px] aria-invalid:border-madder"
      value={shown}
      onChange={(event) => onChange(event.target.value)}
    >
      {!known && <option value={shown}>{shown === '' ? 'not said' : `${shown} (not there)`}</option>}
      {groups.map(({ title, options }) =>
        title === '' ? (
          options.map((option) => (
            <option key={option.value} value={option.value}>
              {option.label}
            </option>
          ))
        ) : (
          <optgroup key={title} label={title}>
            {options.map((option) => (
              <option key={option.value} value={option.value}>
                {option.label}
              </option>
            ))}
          </optgroup>
        ),
      )}
    </select>
  )
}

/** A text of several lines; it counts when it is left. */
function LongText({
  id,
  label,
  value,
  onChange,
}: {
  id: string
  label: string
  value: string
  onChange: (value: string) => void
}) {
  const own = useId()
  return (
    <textarea
      key={`${own} ${value}`}
      id={id}
      aria-label={label}
      rows={2}
      className="field w-full max-w-[420px] resize-y"
      defaultValue={value}
      onBlur={(event) => {
        const text = event.target.value.trim()
        if (text !== value) onChange(text)
      }}
    />
  )
}
