import { useEffect, useRef } from 'react'
import type { FieldProps } from './field-props'
import { useDraft } from './use-draft'

/** A colour. It counts when the browser's chooser is closed, not at each shade on the way. */
export function ColourInput({ id, label, value, className = 'h-[26px] w-[44px]', onChange }: FieldProps<string>) {
  const [draft, setDraft] = useDraft()
  const input = useRef<HTMLInputElement>(null)
  const taken = useRef(onChange)
  useEffect(() => {
    taken.current = onChange
  })
  // React's own `onChange` is the browser's “input”; what it calls “change” comes once, at the end.
  useEffect(() => {
    const element = input.current
    const commit = (): void => {
      if (element) taken.current(element.value)
      setDraft(null)
    }
    element?.addEventListener('change', commit)
    return () => element?.removeEventListener('change', commit)
  }, [setDraft])
  return (
    <input
      ref={input}
      id={id}
      type="color"
      aria-label={label}
      value={draft ?? value}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={() => setDraft(null)}
      className={`shrink-0 rounded border border-edge-strong bg-slip ${className}`}
    />
  )
}
