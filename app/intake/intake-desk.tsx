import { useState } from 'react'
import type { CrateItem } from '../../core/crate/schema'
import type { ItemRun } from '../queries/runs'
import type { BenchJobs } from '../crate/use-bench-jobs'
import { OddityList } from './oddity-list'
import { PartList } from './part-list'
import { SourceSummary } from './source-summary'
import { TextureList } from './texture-list'
import type { Picks } from './use-picks'

interface IntakeDeskProps {
  item: CrateItem
  run: ItemRun | undefined
  picks: Picks
  areaPicking: boolean
  onAreaPicking: (on: boolean) => void
  onOpenStep: (entry: string) => void
  jobs: BenchJobs
}

/** What came in: the source in numbers, what looks off about it, its parts and its textures. */
export function IntakeDesk({ item, run, picks, areaPicking, onAreaPicking, onOpenStep, jobs }: IntakeDeskProps) {
  const source = run?.evaluation?.source
  const [linking, setLinking] = useState<string | null>(null)
  if (!source)
    return (
      <section aria-label="What came in" className="flex-1 bg-slip px-4 py-3 text-ink-2">
        The item is being read.
      </section>
    )
  return (
    <section
      aria-label="What came in"
      className="grid min-h-0 min-w-0 flex-1 grid-rows-[minmax(0,1fr)] grid-cols-[216px_minmax(0,1fr)_minmax(0,300px)_minmax(0,290px)] bg-slip text-[13px]"
    >
      <SourceSummary item={item} source={source} scene={run?.scenes?.source ?? null} />
      <OddityList
        item={item}
        source={source}
        jobs={jobs}
        onLink={setLinking}
        onOpenStep={onOpenStep}
        onPick={picks.set}
      />
      <PartList item={item} source={source} picks={picks} areaPicking={areaPicking} onAreaPicking={onAreaPicking} />
      <TextureList item={item} source={source} linking={linking} onLinking={setLinking} />
    </section>
  )
}
