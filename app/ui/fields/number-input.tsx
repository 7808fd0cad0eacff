import { draftKeys, useDraft } from './use-draft'
import { parseNumber } from './parse-number'

interface NumberInputProps {
  id?: string
  /** What it is, where no label points to it. */
  label?: string
  /** Null where there is none yet. */
  value: number | null
  least?: number
  most?: number
  /** Places behind the point that are shown; the value itself keeps all. */
  places?: number
  placeholder?: string
  className?: string
  /** Also a slider under it, with steps of this size; it needs `least` and `most`. */
  slider?: number
  onChange: (value: number) => void
  /** Told of each value on the way, before it counts; null when there is none any more. */
  onDraft?: (draft: number | null) => void
}

const shown = (value: number | null, places: number): string =>
  value === null ? '' : value.toLocaleString('en-GB', { maximumFractionDigits: places })

/**
 * A number. It counts when it is left or Enter is pressed, is brought within its limits, and comes back as it was on
 * Escape or when it is none.
 */
export function NumberInput({
  id,
  label,
  value,
  least = -Infinity,
  most = Infinity,
  places = 4,
  placeholder,
  className = '',
  slider,
  onChange,
  onDraft,
}: NumberInputProps) {
  const [draft, setDraft] = useDraft()
  const typed = draft === null ? null : parseNumber(draft)
  const letGo = (): void => {
    setDraft(null)
    onDraft?.(null)
  }
  const commit = (): void => {
    const next = typed === null ? value : Math.min(most, Math.max(least, typed))
    if (next !== null && next !== value && draft !== shown(value, places)) onChange(next)
    letGo()
  }
  const limits = [
    least > -Infinity && `least ${shown(least, places)}`,
    most < Infinity && `most ${shown(most, places)}`,
  ]
  return (
    <>
      <input
        id={id}
        aria-label={label}
        aria-invalid={draft !== null && draft.trim() !== '' && typed === null}
        title={limits.filter(Boolean).join(', ') || undefined}
        className={`field num aria-invalid:border-madder ${className}`}
        inputMode="decimal"
        placeholder={placeholder}
        value={draft ?? shown(value, places)}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={commit}
        onKeyDown={draftKeys(draft, commit, letGo)}
      />
      {slider !== undefined && (
        <input
          type="range"
          aria-label={`${label ?? ''}, slider`}
          className="order-2 mt-1 w-full accent-spruce"
          min={least}
          max={most}
          step={slider}
          value={typed ?? value ?? least}
          onChange={(event) => {
            setDraft(event.target.value)
            onDraft?.(Number(event.target.value))
          }}
          onPointerUp={commit}
          onKeyUp={commit}
          onBlur={commit}
        />
      )}
    </>
  )
}
