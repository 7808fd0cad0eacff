import type { PartChoice } from '../workers/field-messages'

export const namesWith = (parts: readonly PartChoice[], more: readonly string[]): string[] =>
  [...new Set([...parts.filter((part) => part.role === 'part').map((part) => part.name), ...more])].filter(
    (name) => name !== '',
  )

export function PartsField({
  label,
  chosen,
  parts,
  onChange,
}: {
  label: string
  chosen: string[]
  parts: readonly PartChoice[]
  onChange: (value: string[]) => void
}) {
  const names = namesWith(parts, chosen)
  return (
    <ChecksField
      label={label}
      chosen={chosen}
      options={names.map((name) => ({ value: name, label: '' }))}
      onChange={onChange}
    />
  )
}

export function ChecksField({
  label,
  chosen,
  options,
  onChange,
}: {
  label: string
  chosen: string[]
  options: readonly { value: string; label: string }[]
  onChange: (value: string[]) => void
}) {
  return (
    <fieldset className="text-[13px]">
      <legend className="mb-0.5">{label}</legend>
      <div className="flex flex-wrap gap-1">
        {options.map((option) => {
          const on = chosen.includes(option.value)
          return (
            <button
              key={option.value}
              type="button"
              aria-pressed={on}
              title={option.label || undefined}
              onClick={() => onChange(on ? chosen.filter((each) => each !== option.value) : [...chosen, option.value])}
              className={`chip ${on ? 'border-spruce bg-spruce-wash font-semibold' : ''}`}
            >
              {option.value}
            </button>
          )
        })}
      </div>
    </fieldset>
  )
}
