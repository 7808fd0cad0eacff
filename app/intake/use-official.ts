import { useState } from 'react'
import type { CrateItem } from '../../core/crate/schema'
import { useCrate } from '../crate/use-crate'
import { useComparison, type OfficialChoice } from '../queries/source-queries'

export const stateWords = { untouched: 'official', moved: 'moved', changed: 'changed', new: 'new' } as const

/** Comparison of an item's source with an official object: of the game's stock, or another item of the crate. */
export function useOfficial(item: CrateItem) {
  const { crate, game } = useCrate()
  const [choice, setChoice] = useState({ item: item.id, value: '' })
  const chosen = choice.item === item.id ? choice.value : ''
  const official = ((): OfficialChoice | null => {
    const [from, id] = [chosen.slice(0, chosen.indexOf(' ')), chosen.slice(chosen.indexOf(' ') + 1)]
    if (chosen === '') return null
    if (from !== 'item') return { stock: id }
    const other = crate.items.find((each) => each.id === id)
    return other ? { item: other } : null
  })()
  const { comparison, busy } = useComparison(item, game, official)
  return { chosen, choose: (value: string) => setChoice({ item: item.id, value }), busy, comparison }
}
