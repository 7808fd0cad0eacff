import { useMemo, useState } from 'react'
import type { CrateItem } from '../../core/crate/schema'
import type { Rulebook } from '../../core/rulebook/schema'
import { requestAgain, type SettledRun } from '../crate/runs'
import { useCrate } from '../crate/use-crate'
import { formatCount } from '../ui/format'
import { YardFrame, YardMessage } from '../yard/yard-frame'
import { yardLooks, yardSpaceOf, type Framing, type YardLook } from '../yard/yard-settings'
import type { SceneData } from '../workers/scene-data'
import { PartChips } from './part-chips'
import { Wipe } from './wipe'

interface YardPanelProps {
  item: CrateItem
  run: SettledRun | undefined
  rulebook: Rulebook
  selected: string | null
  onSelect: (part: string | null) => void
  framing: Framing | null
}

/** The yard with what is said on it: looks, source and result, sizes, parts. */
export function YardPanel({ item, run, rulebook, selected, onSelect, framing }: YardPanelProps) {
  const { crate } = useCrate()
  const [look, setLook] = useState<YardLook>('seen')
  const [wipe, setWipe] = useState<number | null>(null)
  const [showSizes, setShowSizes] = useState(true)
  const [reframed, setReframed] = useState<Framing | null>(null)
  const scenes = run?.scenes ?? null
  const { space } = rulebook
  const whole = useMemo(() => (scenes ? frameOf(scenes.result, space.figure.height) : null), [scenes, space.figure.height])
  const latest = [framing, reframed, whole].filter((each) => each !== null).sort((a, b) => b.at - a.at)[0]
  const triangles = run?.evaluation?.gauges.find((gauge) => gauge.id === 'triangles')?.value
  const compared = wipe !== null && item.worklist.length > 0

  return (
    <section aria-label="Yard" className="yard-ground relative min-h-0 flex-1 overflow-hidden">
      {scenes && latest ? (
        <YardFrame
          source={scenes.source} result={scenes.result} look={look} wipe={compared ? wipe : null} selected={selected} showSizes={showSizes} framing={latest}
          space={yardSpaceOf(rulebook)}
          label={`${item.name} in the yard`}
        />
      ) : (
        <YardMessage>{run?.state === 'failed' ? '' : run?.state === 'stopped' ? '' : `Reading ${item.name}…`}</YardMessage>
      )}
      {(run?.state === 'failed' || run?.state === 'stopped') && (
        <div className="absolute inset-x-0 top-1/3 z-20 mx-auto w-fit max-w-lg rounded-lg border border-edge-strong bg-slip p-4" role="alert">
          <p>{run.message}</p>
          <button type="button" className="button mt-3" onClick={() => requestAgain(crate.id, item, rulebook.id, true)}>
            Run again
          </button>
        </div>
      )}
      {compared && scenes && <Wipe value={wipe} onChange={setWipe} />}
      <div className="absolute top-3 left-3 z-10 flex flex-wrap gap-2">
        <div role="group" aria-label="How the item is shown" className="flex gap-1.5">
          {yardLooks.map((each) => (
            <button key={each.id} type="button" aria-pressed={look === each.id} onClick={() => setLook(each.id)} className={`rounded-full border px-3 py-0.5 text-[13px] font-semibold ${look === each.id ? 'border-ink bg-ink text-slip' : 'border-edge-strong bg-slip'}`}>
              {each.label}
            </button>
          ))}
        </div>
      </div>
      <div className="absolute top-3 right-3 z-10 flex gap-1.5">
        <button type="button" aria-pressed={compared} disabled={item.worklist.length === 0} title={item.worklist.length === 0 ? 'There is no step yet, so both are the same' : undefined} onClick={() => setWipe(wipe === null ? 0.5 : null)} className={`button text-[13px] ${compared ? 'bg-kraft-wash' : ''}`}>
          Compare with source
        </button>
        <button type="button" aria-pressed={showSizes} onClick={() => setShowSizes(!showSizes)} className={`button text-[13px] ${showSizes ? 'bg-kraft-wash' : ''}`}>
          Sizes
        </button>
        <button type="button" className="button text-[13px]" onClick={() => scenes && setReframed(frameOf(scenes.result, space.figure.height))}>
          Whole item
        </button>
      </div>
      {compared && run?.evaluation && (
        <>
          <span className="chip absolute top-[46px] left-3 z-10">Source · <span className="num">{formatCount(run.evaluation.source.triangles)}</span> triangles</span>
          <span className="chip absolute top-[46px] z-10" style={{ left: `calc(${Math.min(0.72, wipe) * 100}% + 14px)` }}>Result · <span className="num">{formatCount(triangles ?? 0)}</span> triangles</span>
        </>
      )}
      {scenes && <PartChips parts={scenes.result.parts} dropped={run?.evaluation?.source.parts.filter((part) => part.stray).map((part) => part.name) ?? []} selected={selected} onSelect={onSelect} />}
      {look === 'facing' && (
        <p className="chip absolute right-3 bottom-3 z-10 flex items-center gap-2">
          <span className="inline-block size-3 border border-edge-strong bg-slip" /> outward
          <span className="inline-block size-3 border border-block" style={{ background: 'repeating-linear-gradient(-45deg, var(--color-block) 0 2px, var(--color-block-wash) 2px 4px)' }} /> inward
        </p>
      )}
      {look === 'solids' && scenes && !scenes.result.parts.some((part) => part.role === 'solid') && <p className="chip absolute right-3 bottom-3 z-10">There are no solids yet.</p>}
    </section>
  )
}

/** The item with the figure beside it. */
export function frameOf(scene: SceneData, figureHeight: number): Framing {
  const drawn = scene.parts.filter((part) => part.role === 'part')
  const low = [0, 1, 2].map((axis) => Math.min(0, ...drawn.map((part) => part.bounds.min[axis])))
  const high = [0, 1, 2].map((axis) => Math.max(axis === 1 ? figureHeight : 0, ...drawn.map((part) => part.bounds.max[axis])))
  // The figure stands at the right.
  return { min: [low[0], low[1], low[2]], max: [high[0] + figureHeight * 0.5, high[1], high[2]], at: Date.now() }
}
