import type { ComponentProps } from 'react'

interface OpenChoiceProps extends ComponentProps<'select'> {
  label: string
  /** What it says where nothing is said. */
  open: string
  options: readonly { value: string; label: string }[]
  /** Whether the label stands above it, as in a short dialog, and not before it. */
  above?: boolean
}

/** A choice that may be left open. */
export function OpenChoice({ label, open, options, above = false, ...select }: OpenChoiceProps) {
  return (
    <label className={above ? 'flex flex-col gap-1' : 'flex items-center gap-1.5'}>
      <span className={above ? 'caption' : 'text-ink-2'}>{label}</span>
      <select className={above ? 'field py-1.5' : 'field'} {...select}>
        <option value="">{open}</option>
        {options.map((option) => (
          <option key={option.value} value={option.value}>
            {option.label}
          </option>
        ))}
      </select>
    </label>
  )
}
