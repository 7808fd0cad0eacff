import type { Game } from '../../core/game/game'
import { useEffect, useEffectEvent, useRef, useState } from 'react'
import type { CrateItem } from '../../core/crate/schema'
import { tellError } from '../ui/notify'
import { previewMap } from '../workers/clients'
import type { Preview } from '../workers/map-messages'

/** Which step is tried, with which settings, and the map that is looked at. */
export interface Wish {
  index: number
  parameters: Record<string, unknown>
  material: string
  role: string
}

/**
 * A step tried on small pictures while its settings change: always the latest, one at a time. Null while nothing is
 * wished.
 */
export function usePreview(item: CrateItem, game: Game, wish: Wish | null): Preview | null {
  const key =
    wish &&
    JSON.stringify([wish, item.worklist.slice(0, wish.index).map(({ step, on, parameters }) => [step, on, parameters])])
  const [shown, setShown] = useState<{ key: string; picture: Preview | null } | null>(null)
  const busy = useRef(false)
  const next = useRef<(() => Promise<void>) | null>(null)
  // The key stands for everything that is wished: only a new one asks anew.
  const askFor = useEffectEvent(async (asked: string): Promise<void> => {
    if (!wish) return
    try {
      const picture = await previewMap({
        rawItem: item,
        game,
        index: wish.index,
        parameters: wish.parameters,
        wanted: { material: wish.material, role: wish.role as 'colour' },
      })
      setShown({ key: asked, picture })
    } catch (error) {
      // A setting on its way may not work; the exact run tells of it.
      if (!(error instanceof Error && error.name === 'PlainError')) tellError(error)
    }
  })
  useEffect(() => {
    if (key === null) return
    next.current = () => askFor(key)
    const work = async (): Promise<void> => {
      if (busy.current) return
      busy.current = true
      while (next.current) {
        const now = next.current
        next.current = null
        await now()
      }
      busy.current = false
    }
    void work()
  }, [key])
  return wish && shown?.picture ? shown.picture : null
}
