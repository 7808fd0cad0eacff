import { useEffect, useMemo, useRef, useState } from 'react'
import { useRulebooksChanged } from '../../queries/rulebook-queries'
import { putRulebookText } from '../../storage/rulebooks'
import { tellError } from '../../ui/notify'
import { readDraft, type Draft } from './draft'

const REST_MILLISECONDS = 400

interface KeptDraft {
  draft: Draft
  /** What the text said when it was JSON last. */
  lastValue: unknown
  write: (text: string) => void
  saved: boolean
}

/** The text of a rulebook while it is written: read at once, kept when the hands rest and when the page is left. */
export function useDraft(key: string, kept: string): KeptDraft {
  const [text, setText] = useState(kept)
  const [savedText, setSavedText] = useState(kept)
  const [lastValue, setLastValue] = useState(() => readDraft(kept).value)
  const changed = useRulebooksChanged()
  const unsaved = useRef<string | null>(null)
  const save = useRef(async (): Promise<void> => undefined)
  save.current = async () => {
    const wanted = unsaved.current
    if (wanted === null) return
    unsaved.current = null
    try {
      await putRulebookText(key, wanted)
      setSavedText(wanted)
      await changed()
    } catch (error) {
      tellError(error)
    }
  }
  useEffect(() => {
    const timer = setTimeout(() => void save.current(), REST_MILLISECONDS)
    return () => clearTimeout(timer)
  }, [text])
  useEffect(() => () => void save.current(), [])
  const write = (next: string): void => {
    unsaved.current = next
    setText(next)
    const { value } = readDraft(next)
    if (value !== undefined) setLastValue(value)
  }
  return { lastValue, draft: useMemo(() => readDraft(text), [text]), write, saved: text === savedText }
}
