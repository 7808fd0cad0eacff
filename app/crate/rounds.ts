import { create } from 'zustand'

/** What was tried after each check of the last preparing, by run; gone with the page. */
const useAll = create<{ rounds: Record<string, readonly string[]> }>(() => ({ rounds: {} }))

const none: readonly string[] = []

export const useRounds = (id: string): readonly string[] => useAll((state) => state.rounds[id] ?? none)

export const keepRounds = (id: string, rounds: readonly string[]): void =>
  useAll.setState((state) => ({ rounds: { ...state.rounds, [id]: rounds } }))
