import type { FieldProps } from './field-props'
import { draftKeys, useDraft } from './use-draft'

/**
 * A line of text. It counts when it is left or Enter is pressed; Escape, or leaving it empty, brings back what was
 * there.
 */
export function TextInput({ id, label, value, className = '', onChange }: FieldProps<string>) {
  const [draft, setDraft] = useDraft()
  const commit = (): void => {
    const text = draft?.trim() ?? ''
    if (text !== '' && text !== value) onChange(text)
    setDraft(null)
  }
  return (
    <input
      id={id}
      aria-label={label}
      className={`field ${className}`}
      value={draft ?? value}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={commit}
      onKeyDown={draftKeys(draft, commit, () => setDraft(null))}
    />
  )
}
