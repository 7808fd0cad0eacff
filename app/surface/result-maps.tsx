import { keyOf } from '../../core/game/map-roles'
import { useState } from 'react'
import type { CrateItem } from '../../core/crate/schema'
import type { BenchJobs } from '../crate/use-bench-jobs'
import { useLooks, useMaps } from '../queries/item-queries'
import { changeYardView, useYardView } from '../yard/yard-view'
import { useCrate } from '../crate/use-crate'
import { LooksTable } from './looks-table'
import { MapMemory, MapTable } from './map-table'

interface ResultMapsProps {
  item: CrateItem
  ready: boolean
  limit: number
  selected: string | null
  onSelect: (map: string) => void
  onOpenStep: (entry: string) => void
  jobs: BenchJobs
}

const tabs = { maps: 'Maps as they will be packed', looks: 'Looks' } as const

/** The result's maps, and the looks that show them. */
export function ResultMaps({ item, ready, limit, selected, onSelect, onOpenStep, jobs }: ResultMapsProps) {
  const { rulebook, game } = useCrate()
  const [tab, setTab] = useState<keyof typeof tabs>('maps')
  const maps = useMaps(item, game, ready ? item.worklist.length : null) ?? []
  const looks = useLooks(item, game, ready && tab === 'looks')
  const tagging = item.worklist.find((entry) => entry.step === 'tag-materials')
  return (
    <section
      aria-label={tabs[tab]}
      className="relative flex w-[540px] shrink-0 flex-col border-r border-edge bg-slip px-4 pt-2"
    >
      <div className="caption flex items-baseline gap-3 pb-1">
        {(Object.keys(tabs) as (keyof typeof tabs)[]).map((each) => (
          <button
            key={each}
            type="button"
            aria-pressed={tab === each}
            className={
              tab === each
                ? 'font-semibold text-ink underline decoration-spruce decoration-2 underline-offset-4'
                : 'hover:text-ink'
            }
            onClick={() => setTab(each)}
          >
            {tabs[each]}
          </button>
        ))}
        <span className="ml-auto">
          <MapMemory maps={maps} limit={limit} />
        </span>
      </div>
      <div
        className="relative min-h-0 flex-1 overflow-y-auto"
        tabIndex={0}
        role="group"
        aria-label={`Table: ${tabs[tab]}`}
      >
        {tab === 'maps' ? (
          <MapTable
            maps={maps}
            selected={selected}
            unit={rulebook.space.unit.name}
            inBlocks={rulebook.maps.roles.some(({ codecs }) => codecs.some((codec) => codec !== 'none'))}
            onSelect={onSelect}
          />
        ) : (
          <LooksTable
            looks={looks}
            roles={rulebook.maps.roles.map((role) => ({ ...role, key: keyOf(role, rulebook) }))}
            onSelect={onSelect}
            onPut={(place) => jobs.putStep('put-in-picture', place)}
            onShading={() => (tagging ? onOpenStep(tagging.id) : jobs.putStep('tag-materials'))}
          />
        )}
      </div>
    </section>
  )
}

/** Whether the maps or the yard stand in the middle. */
export function SurfaceSwitch() {
  const { atSurface, pick } = useYardView()
  if (pick) return null
  return (
    <button
      type="button"
      className={`button absolute right-3 z-20 py-0.5 text-[13px] ${atSurface === 'maps' ? 'top-2.5' : 'bottom-12'}`}
      onClick={() => changeYardView({ atSurface: atSurface === 'maps' ? 'yard' : 'maps' })}
    >
      {atSurface === 'maps' ? 'See it in the yard' : 'See its maps'}
    </button>
  )
}
