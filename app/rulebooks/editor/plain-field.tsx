import type { JSONPath } from 'jsonc-parser'
import { useId, useState } from 'react'
import type { SchemaPlace } from '../../../core/game/schema-walk'
import { StatusMark } from '../../ui/status-mark'
import { useForm, wordsOf } from './form-context'

interface PlainFieldProps {
  path: JSONPath
  place: SchemaPlace
  value: unknown
}

/** A text, a number, a yes or no, one of several words, or a list of such, at one place of the draft. */
export function PlainField({ path, place, value }: PlainFieldProps) {
  const { faults } = useForm()
  const id = useId()
  const name = String(path.at(-1))
  const own = faults.filter((fault) => fault.path.join('.') === path.join('.'))
  return (
    <div className="py-1">
      <div className="flex items-center gap-3">
        <label htmlFor={id} className="w-[170px] shrink-0 text-[13.5px]">
          {wordsOf(name)}
        </label>
        <Control id={id} path={path} place={place} value={value} />
      </div>
      {own.map(({ message, severity }) => (
        <p key={message} className="mt-0.5 ml-[182px] flex items-start gap-1.5 text-[12.5px]">
          <StatusMark status={severity} size={11} /> {message}
        </p>
      ))}
    </div>
  )
}

function Control({ id, path, place, value }: PlainFieldProps & { id: string }) {
  const { change } = useForm()
  if (place.enum)
    return (
      <select
        id={id}
        className="field min-w-0"
        value={String(value)}
        onChange={({ target }) =>
          change(
            path,
            place.enum?.find((word) => String(word) === target.value),
          )
        }
      >
        {place.enum.map((word) => (
          <option key={String(word)}>{String(word)}</option>
        ))}
      </select>
    )
  if (place.type === 'boolean')
    return (
      <input
        id={id}
        type="checkbox"
        className="size-4 accent-spruce"
        checked={value === true}
        onChange={({ target }) => change(path, target.checked)}
      />
    )
  if (place.type === 'array') return <ListControl id={id} path={path} place={place} value={value} />
  const isNumber = place.type === 'number' || place.type === 'integer'
  return (
    <DraftInput
      id={id}
      numeric={isNumber}
      written={value === undefined ? '' : String(value)}
      onWritten={(written) => {
        if (!isNumber) change(path, written)
        else if (written.trim() === '') change(path, undefined)
        else if (Number.isFinite(Number(written))) change(path, Number(written))
      }}
    />
  )
}

/** Words or numbers with commas between. */
function ListControl({ id, path, place, value }: PlainFieldProps & { id: string }) {
  const { change } = useForm()
  const of = place.prefixItems?.[0] ?? (typeof place.items === 'object' ? place.items : undefined)
  const isNumber = of?.type === 'number' || of?.type === 'integer'
  return (
    <DraftInput
      id={id}
      numeric={isNumber}
      written={Array.isArray(value) ? value.join(', ') : ''}
      onWritten={(written) => {
        const words = written
          .split(',')
          .map((word) => word.trim())
          .filter((word) => word !== '')
        if (!isNumber) change(path, words)
        else if (words.every((word) => Number.isFinite(Number(word)))) change(path, words.map(Number))
      }}
    />
  )
}

interface DraftInputProps {
  id: string
  numeric: boolean
  written: string
  onWritten: (written: string) => void
}

/** What is typed counts when the field is left, or with Enter. */
function DraftInput({ id, numeric, written, onWritten }: DraftInputProps) {
  const [typed, setTyped] = useState<string | null>(null)
  const leave = (): void => {
    if (typed !== null && typed !== written) onWritten(typed)
    setTyped(null)
  }
  return (
    <input
      id={id}
      className={`field min-w-0 ${numeric ? 'num w-32' : 'flex-1'}`}
      inputMode={numeric ? 'decimal' : 'text'}
      value={typed ?? written}
      onChange={({ target }) => setTyped(target.value)}
      onBlur={leave}
      onKeyDown={(event) => {
        if (event.key !== 'Enter') return
        event.preventDefault()
        leave()
      }}
    />
  )
}
