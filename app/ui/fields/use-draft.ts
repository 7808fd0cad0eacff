import { useEffect, useState, type KeyboardEvent } from 'react'
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

/**
 * What Enter and Escape do in a field: take what is typed, or let it go, and then the card or dialog around it stays.
 */
export const draftKeys =
  (draft: string | null, take: () => void, letGo: () => void) =>
  (event: KeyboardEvent): void => {
    if (event.key === 'Enter') take()
    if (event.key === 'Escape' && draft !== null) {
      event.stopPropagation()
      letGo()
    }
  }
