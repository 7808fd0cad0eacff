import { useState } from 'react'
import type { CrateItem } from '../../core/crate/schema'
import type { Game } from '../../core/game/game'
import { useMapPicture, useMaps } from '../queries/item-queries'
import type { ItemRun } from '../queries/runs'
import type { MapFacts, MapPicture } from '../workers/map-messages'
import { useYardView } from '../yard/yard-view'
import type { MapView } from './map-view'

export interface ComparedMaps {
  maps: readonly MapFacts[]
  map: MapFacts | null
  /** Numbers of steps before and after what is compared. */
  after: number
  left: MapPicture | null
  right: MapPicture | null
  /** The step of Surface whose card is open, by its place in the worklist; −1 for none. */
  openedIndex: number
  ready: boolean
}

/** The item's maps as they were drawn beside as they are packed, or before and after the step whose card is open. */
export function useComparedMaps(
  item: CrateItem,
  game: Game,
  run: ItemRun | undefined,
  selected: string | null,
  view: MapView,
): ComparedMaps {
  const opened = useYardView((state) => state.opened)
  const ready = run?.state === 'done' && run.evaluation !== null
  const all = item.worklist.length
  const openedEntry = item.worklist.find((entry) => entry.id === opened)
  const atSurface = run?.evaluation?.steps.find((step) => step.id === openedEntry?.step)?.stage === 'surface'
  const openedIndex = atSurface && openedEntry ? item.worklist.indexOf(openedEntry) : -1
  const compressing = item.worklist.findIndex((entry) => entry.step === 'compress-maps' && entry.on)
  const [before, after] = openedIndex >= 0 ? [openedIndex, openedIndex + 1] : [compressing < 0 ? all : compressing, all]
  const beforeMaps = useMaps(item, game, ready ? before : null)
  const afterMaps = useMaps(item, game, ready ? after : null)
  const maps = useLastKnown(afterMaps ?? beforeMaps) ?? []
  const map = maps.find((each) => each.name === selected) ?? maps[0] ?? null
  const leftIsThere = map !== null && (beforeMaps?.some((each) => each.name === map.name) ?? false)
  // A codec that is tried starts from the pixels before they were compressed.
  const asked = (side: string, own: number): { steps: number; name: string; level: number; as: string } | null =>
    map === null || !ready
      ? null
      : side === 'drawn' || side === 'kept'
        ? { steps: own, name: map.name, level: view.level, as: 'kept' }
        : { steps: leftIsThere ? before : after, name: map.name, level: view.level, as: side }
  const right = useMapPicture(item, game, asked(view.right, after))
  const left = useMapPicture(item, game, leftIsThere && before !== after ? asked(view.left, before) : null)
  return { maps, map, after, left, right, openedIndex, ready }
}

/** What was known last stays while it is worked out anew. */
function useLastKnown<T>(value: T | null): T | null {
  const [last, setLast] = useState(value)
  if (value !== null && value !== last) setLast(value)
  return value ?? last
}
