import type { CrateItem } from '../../core/crate/schema'
import { useMaps } from '../bench/use-item-state'
import { changeYardView, useYardView } from '../bench/yard-view'
import { useCrate } from '../crate/use-crate'
import { MapTable } from './map-table'

/** The table of the result's maps. */
export function ResultMaps({ item, ready, limit, selected, onSelect }: { item: CrateItem; ready: boolean; limit: number; selected: string | null; onSelect: (map: string) => void }) {
  const { rulebook } = useCrate()
  const maps = useMaps(item, rulebook.id, ready ? item.worklist.length : null)
  return <MapTable maps={maps ?? []} limit={limit} selected={selected} unit={rulebook.space.unit.name} onSelect={onSelect} />
}

/** Whether the maps or the yard stand in the middle. */
export function SurfaceSwitch() {
  const { atSurface, pick } = useYardView()
  if (pick) return null
  return (
    <button type="button" className={`button absolute right-3 z-20 py-0.5 text-[13px] ${atSurface === 'maps' ? 'top-2.5' : 'bottom-12'}`} onClick={() => changeYardView({ atSurface: atSurface === 'maps' ? 'yard' : 'maps' })}>
      {atSurface === 'maps' ? 'See it in the yard' : 'See its maps'}
    </button>
  )
}
