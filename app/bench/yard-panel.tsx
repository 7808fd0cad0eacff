import { useMemo, useRef, useState } from 'react'
import { multiplyMatrices } from '../../core/document/axes'
import type { CrateItem } from '../../core/crate/schema'
import type { Rulebook } from '../../core/rulebook/schema'
import { requestAgain, type SettledRun } from '../crate/runs'
import { useCrate } from '../crate/use-crate'
import { formatCount } from '../ui/format'
import { YardFrame, YardMessage } from '../yard/yard-frame'
import { yardLooks, yardSpaceOf, type Framing, type YardLook } from '../yard/yard-settings'
import { movedBounds, type SceneData } from '../workers/scene-data'
import type { Scenes } from '../workers/messages'
import type { Area } from '../yard/picker'
import { PartChips } from './part-chips'
import type { Picks } from '../intake/use-picks'
import { AreaPick } from './area-pick'
import { Wipe } from './wipe'

interface YardPanelProps {
  item: CrateItem
  run: SettledRun | undefined
  rulebook: Rulebook
  selected: string | null
  onSelect: (part: string | null) => void
  framing: Framing | null
  /** At intake the source is shown, and its parts are picked; null at all other stages. */
  picking: { picks: Picks; area: boolean; onArea: (on: boolean) => void } | null
}

/** The yard with what is said on it: looks, source and result, sizes, parts. */
export function YardPanel({ item, run, rulebook, selected, onSelect, framing, picking }: YardPanelProps) {
  const { crate } = useCrate()
  const [look, setLook] = useState<YardLook>('seen')
  const [wipe, setWipe] = useState<number | null>(null)
  const [showSizes, setShowSizes] = useState(true)
  const [reframed, setReframed] = useState<Framing | null>(null)
  const scenes = run?.scenes ?? null
  const { space } = rulebook
  const subject = scenes ? (picking ? standingSource(scenes) : scenes.result) : null
  const whole = useMemo(() => (subject ? frameOf(subject, space.figure.height) : null), [subject, space.figure.height])
  const picker = useRef<((area: Area) => string[]) | null>(null)
  const latest = [framing, reframed, whole].filter((each) => each !== null).sort((a, b) => b.at - a.at)[0]
  const triangles = run?.evaluation?.gauges.find((gauge) => gauge.id === 'triangles')?.value
  const compared = wipe !== null && item.worklist.length > 0 && !picking

  return (
    <section aria-label="Yard" className="yard-ground relative min-h-0 flex-1 overflow-hidden">
      {scenes && subject && latest ? (
        <YardFrame
          source={scenes.source} result={subject} look={look} wipe={compared ? wipe : null} selected={selected} showSizes={showSizes} framing={latest}
          picked={picking?.picks.names ?? noPicks} onPick={picking?.picks.toggle ?? null} picker={picker}
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
        {!picking && <button type="button" aria-pressed={compared} disabled={item.worklist.length === 0} title={item.worklist.length === 0 ? 'There is no step yet, so both are the same' : undefined} onClick={() => setWipe(wipe === null ? 0.5 : null)} className={`button text-[13px] ${compared ? 'bg-kraft-wash' : ''}`}>
          Compare with source
        </button>}
        <button type="button" aria-pressed={showSizes} onClick={() => setShowSizes(!showSizes)} className={`button text-[13px] ${showSizes ? 'bg-kraft-wash' : ''}`}>
          Sizes
        </button>
        <button type="button" className="button text-[13px]" onClick={() => subject && setReframed(frameOf(subject, space.figure.height))}>
          Whole item
        </button>
      </div>
      {compared && run?.evaluation && (
        <>
          <span className="chip absolute top-[46px] left-3 z-10">Source · <span className="num">{formatCount(run.evaluation.source.triangles)}</span> triangles</span>
          <span className="chip absolute top-[46px] z-10" style={{ left: `calc(${Math.min(0.72, wipe) * 100}% + 14px)` }}>Result · <span className="num">{formatCount(triangles ?? 0)}</span> triangles</span>
        </>
      )}
      {scenes && !picking && <PartChips parts={scenes.result.parts} dropped={droppedParts(scenes)} selected={selected} onSelect={onSelect} />}
      {picking && scenes && <p className="chip absolute bottom-3 left-3 z-10">{picking.area ? 'Drag over the parts to pick' : 'The source as it came. Click a part to pick it.'}</p>}
      {picking?.area && (
        <AreaPick
          onDone={(area) => {
            picking.onArea(false)
            if (area) picking.picks.set([...picking.picks.names, ...(picker.current?.(area) ?? [])])
          }}
        />
      )}
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

const noPicks: ReadonlySet<string> = new Set()

/** Parts of the source that the result does not have any more, by name or by what became of it. */
function droppedParts({ source, result }: Scenes): string[] {
  const left = source.parts.length - result.parts.filter((part) => part.role === 'part').length
  if (left <= 0) return []
  const names = new Set(result.parts.map((part) => part.name))
  return source.parts.filter((part) => !names.has(part.name) && !names.has(cleaned(part.name))).map((part) => part.name)
}

const cleaned = (name: string): string => name.toLowerCase().replace(/\.\d+$/, '').replace(/[^a-z0-9]+/g, '_').replace(/^_+|_+$/g, '')

const standing = new WeakMap<Scenes, SceneData>()

/** The source, moved to where the worklist puts it, so that it stands beside the figure as the result will. */
function standingSource(scenes: Scenes): SceneData {
  const known = standing.get(scenes)
  if (known) return known
  const fit = scenes.result.fit
  const parts = scenes.source.parts.map((part) => ({ ...part, matrix: multiplyMatrices(fit, part.matrix), bounds: movedBounds(part.bounds, fit) }))
  const made = { ...scenes.source, parts }
  standing.set(scenes, made)
  return made
}

/** The item with the figure beside it. */
export function frameOf(scene: SceneData, figureHeight: number): Framing {
  const drawn = scene.parts.filter((part) => part.role === 'part')
  const low = [0, 1, 2].map((axis) => Math.min(0, ...drawn.map((part) => part.bounds.min[axis])))
  const high = [0, 1, 2].map((axis) => Math.max(axis === 1 ? figureHeight : 0, ...drawn.map((part) => part.bounds.max[axis])))
  // The figure stands at the right.
  return { min: [low[0], low[1], low[2]], max: [high[0] + figureHeight * 0.5, high[1], high[2]], at: Date.now() }
}
