import { useState } from 'react'
import type { CrateItem } from '../../core/crate/schema'
import { useCrate } from '../crate/use-crate'
import { tellError } from '../ui/notify'
import { compareOfficial } from '../workers/clients'
import type { Official } from '../workers/source-messages'

export const stateWords = { untouched: 'official', moved: 'moved', changed: 'changed', new: 'new' } as const

/** Comparison of an item's source with an official object: of the game's stock, or another item of the crate. */
export function useOfficial(item: CrateItem) {
  const { crate, game } = useCrate()
  const [chosen, setChosen] = useState('')
  const [made, setMade] = useState<{ item: string; comparison: Official } | null>(null)
  const [busy, setBusy] = useState(false)
  const choose = async (value: string): Promise<void> => {
    setChosen(value)
    setMade(null)
    const [from, id] = [value.slice(0, value.indexOf(' ')), value.slice(value.indexOf(' ') + 1)]
    const other = crate.items.find((each) => each.id === id)
    if (value === '' || (from === 'item' && !other)) return
    setBusy(true)
    try {
      setMade({
        item: item.id,
        comparison: await compareOfficial(item, game, from === 'item' && other ? { item: other } : { stock: id }),
      })
    } catch (error) {
      tellError(error)
    } finally {
      setBusy(false)
    }
  }
  const current = made?.item === item.id
  return { chosen: current || busy ? chosen : '', choose, busy, comparison: current ? made.comparison : null }
}
