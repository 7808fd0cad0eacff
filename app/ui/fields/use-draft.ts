import { useEffect, useState } from 'react'
import { create } from 'zustand'

/** How many fields hold something typed that does not count yet. */
const useDrafts = create<{ open: number }>(() => ({ open: 0 }))

/** Whether something is typed that is not taken yet: nobody may be told that all is kept. */
export const useUntaken = (): boolean => useDrafts((state) => state.open > 0)

const count = (by: number): void => useDrafts.setState(({ open }) => ({ open: open + by }))

/**
 * What is typed into a field until it counts: when the field is left or Enter is pressed. Escape lets it go.
 * @returns the draft, null while nothing is typed, and a way to set it
 */
export function useDraft(): [string | null, (draft: string | null) => void] {
  const [draft, setDraft] = useState<string | null>(null)
  const isOpen = draft !== null
  useEffect(() => {
    if (!isOpen) return
    count(1)
    return () => count(-1)
  }, [isOpen])
  return [draft, setDraft]
}
