import { useState } from 'react'
import type { Field } from '../workers/field-messages'
import { Row } from './field-row'

/** A number with its unit; it counts when it is left or entered, and only within its limits. */
export function NumberField({
  id,
  field,
  value,
  onChange,
  onDraft,
}: {
  id: string
  field: Extract<Field, { type: 'number' }>
  value: number
  onChange: (value: number) => void
  onDraft?: (draft: number | null) => void
}) {
  const [draft, setDraft] = useState<string | null>(null)
  const commit = (): void => {
    const next = Number(draft?.replaceAll(',', ''))
    if (draft !== null && draft.trim() !== '' && Number.isFinite(next))
      onChange(Math.min(field.most, Math.max(field.least, next)))
    setDraft(null)
    onDraft?.(null)
  }
  const shown = draft ?? value.toLocaleString('en-GB', { maximumFractionDigits: 4 })
  const sliding = draft === null ? value : Number(draft.replaceAll(',', '')) || field.least
  return (
    <Row id={id} label={field.label}>
      <span className="flex items-center gap-1.5">
        <input
          id={id}
          className="field num w-[84px]"
          inputMode="decimal"
          value={shown}
          onChange={(event) => setDraft(event.target.value)}
          onBlur={commit}
          onKeyDown={(event) => {
            if (event.key === 'Enter') commit()
          }}
        />
        <span className="text-[12px] text-ink-2">{field.unit}</span>
      </span>
      {field.slider && (
        <input
          type="range"
          aria-label={`${field.label}, slider`}
          className="mt-1 w-full accent-spruce"
          min={field.least}
          max={field.most}
          step={field.step}
          value={sliding}
          onChange={(event) => {
            setDraft(event.target.value)
            onDraft?.(Number(event.target.value))
          }}
          onPointerUp={commit}
          onKeyUp={commit}
          onBlur={commit}
        />
      )}
    </Row>
  )
}
