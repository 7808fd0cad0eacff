import { useMemo, useRef, useState } from 'react'
import type { CrateItem } from '../../core/crate/schema'
import { kindOf } from '../../core/game/load'
import type { Rulebook } from '../../core/game/schema'
import type { Stage } from '../../core/support/stages'
import { PlayBar } from '../yard/play/play-bar'
import { usePlay } from '../yard/play/play-state'
import { requestAgain, type SettledRun } from '../queries/runs'
import { useCrate } from '../crate/use-crate'
import { YardFrame, YardMessage } from '../yard/yard-frame'
import { yardSpaceOf, type Framing } from '../yard/yard-settings'
import type { Area } from '../yard/picker'
import { companionSize } from '../yard/companion'
import type { Picks } from '../intake/use-picks'
import { AreaPick } from './area-pick'
import { CompareBar } from './compare-bar'
import { PartChips } from './part-chips'
import { useCompanion } from './use-companion'
import { useFlicker } from './use-flicker'
import { useItemState, useDifference, useStandOuts } from '../queries/item-queries'
import { useStepView } from './use-step-view'
import { Wipe } from '../ui/wipe'
import { CompanionBar, LevelBar, ShiftLegend, StandOutLegend, StretchBar } from './yard-bars'
import { YardTools } from './yard-tools'
import { changeYardView, useYardView } from '../yard/yard-view'
import {
  facing,
  noPicks,
  noSize,
  fitted,
  identity,
  trianglesOf,
  sizeOf,
  droppedParts,
  standingSource,
  frameOf,
} from '../yard/yard-framing'
import { FacingLegend, LookChips, RunTrouble } from './yard-marks'

interface YardPanelProps {
  item: CrateItem
  run: SettledRun | undefined
  rulebook: Rulebook
  stage: Stage
  selected: string | null
  onSelect: (part: string | null) => void
  framing: Framing | null
  /** At intake the source is shown, and its parts are picked; null at all other stages. */
  picking: { picks: Picks; area: boolean; onArea: (on: boolean) => void } | null
}

/** The yard with what is said on it: looks, comparison, levels, what stands beside, parts. */
export function YardPanel({ item, run, rulebook, stage, selected, onSelect, framing, picking }: YardPanelProps) {
  const { crate, game } = useCrate()
  const view = useYardView()
  const look = view.look ?? (stage === 'solids' ? 'solids' : 'seen')
  const [reframed, setReframed] = useState<Framing | null>(null)
  const scenes = run?.scenes ?? null
  const { space } = rulebook
  const all = item.worklist.length
  const stepView = useStepView(item, game)
  const compare = picking || stepView || all === 0 ? null : view.compare
  const [left, right] = [compare?.left ?? 0, compare?.right ?? all]
  const leftState = useItemState(item, game, compare && left > 0 && left < all ? left : null)
  const rightState = useItemState(item, game, compare && right < all ? right : null)
  const difference = useDifference(
    item,
    game,
    look === 'shift' && !picking && !stepView && scenes && all > 0
      ? { from: compare ? left : fitted(item, run), to: right }
      : null,
  )
  const standOuts = useStandOuts(item, game, view.standOuts && run?.state === 'done')
  const playing = usePlay((state) => state.subject !== null)
  const companion = useCompanion(crate, game)
  const [showLeft, turnOver] = useFlicker(compare?.mode === 'flicker')

  const subject = scenes
    ? picking
      ? standingSource(scenes)
      : (stepView?.scene ?? (right < all ? (rightState?.scene ?? scenes.result) : scenes.result))
    : null
  const other =
    compare && scenes
      ? left === 0
        ? { scene: scenes.source, placement: scenes.result.fit }
        : left >= all
          ? { scene: scenes.result, placement: identity }
          : leftState
      : null
  const beside =
    companion.shape && !view.companion?.inside ? companionSize(companion.shape, yardSpaceOf(rulebook)) : noSize
  const [besideWidth, besideHeight, besideDepth] = beside
  const whole = useMemo(
    () => (subject ? frameOf(subject, space.figure.height, [besideWidth, besideHeight, besideDepth]) : null),
    [subject, space.figure.height, besideWidth, besideHeight, besideDepth],
  )
  const picker = useRef<((area: Area) => string[]) | null>(null)
  const latest = [framing, reframed, whole].filter((each) => each !== null).sort((a, b) => b.at - a.at)[0]
  const switches = rulebook.levels.chain
  const shownMesh = picking || compare || stepView ? 0 : view.level
  const titles = [
    { steps: 0, title: 'Source' },
    ...item.worklist.map((entry, index) => ({
      steps: index + 1,
      title:
        index + 1 === all
          ? 'Result'
          : `${index + 1} ${run?.evaluation?.steps.find((step) => step.id === entry.step)?.title ?? entry.step}`,
    })),
  ]

  return (
    <section aria-label="Yard" className="yard-ground relative min-h-0 flex-1 overflow-hidden">
      {scenes && subject && latest ? (
        <YardFrame
          other={other}
          result={subject}
          look={look}
          compare={compare && other ? { mode: compare.mode, wipe: compare.wipe, showLeft } : null}
          selected={selected}
          showSizes={view.showSizes && compare?.mode !== 'side' && !playing}
          framing={latest}
          picked={picking?.picks.names ?? noPicks}
          onPick={stepView?.onPick ?? picking?.picks.toggle ?? null}
          picker={picker}
          space={yardSpaceOf(rulebook)}
          mesh={shownMesh}
          stretch={picking || stepView ? null : view.stretch}
          difference={difference}
          rung={stepView?.rung ?? null}
          companion={companion.shape ? { shape: companion.shape, inside: view.companion?.inside ?? false } : null}
          shownLook={view.shownLook}
          spots={view.spots}
          pickedPoints={stepView?.points}
          pickedFaces={stepView?.faces ?? null}
          playing={playing}
          shapes={stepView?.shapes ?? null}
          standOuts={standOuts && !playing ? { solids: standOuts, most: rulebook.solids.noticedGap } : null}
          placed={stepView?.placed ? { placed: stepView.placed.decal, onChange: stepView.placed.onChange } : null}
          brush={stepView?.onStroke ? { radius: stepView.brush, onStroke: stepView.onStroke } : null}
          levels={{
            switches,
            playing: view.playing,
            distance:
              shownMesh === 'shadow' || shownMesh === 0
                ? null
                : (switches.find((each) => each.level === shownMesh)?.fromDistance ?? null),
            onLevel: (level) => changeYardView({ level }),
            onDone: () => changeYardView({ playing: false, level: 0 }),
          }}
          label={`${item.name} in the yard`}
        />
      ) : (
        <YardMessage>
          {run?.state === 'failed' ? '' : run?.state === 'stopped' ? '' : `Reading ${item.name}…`}
        </YardMessage>
      )}
      <RunTrouble run={run} onAgain={() => requestAgain(crate.id, item, game, true)} />
      {compare?.mode === 'wipe' && other && (
        <Wipe
          value={compare.wipe}
          left={titles[left].title}
          right={titles[right].title}
          onChange={(wipe) => changeYardView({ compare: { ...compare, wipe } })}
        />
      )}
      <LookChips look={look} />
      {!playing && (
        <YardTools
          crate={crate}
          item={item}
          rulebook={rulebook}
          result={scenes?.result ?? null}
          picking={picking !== null}
          onWhole={() => subject && setReframed(frameOf(subject, space.figure.height, beside))}
        />
      )}
      {compare && (
        <CompareBar
          states={titles}
          mode={compare.mode}
          left={left}
          right={right}
          wipe={compare.wipe}
          triangles={{ left: other ? trianglesOf(other.scene) : null, right: subject ? trianglesOf(subject) : null }}
          waiting={!other || (right < all && !rightState)}
        />
      )}
      {compare?.mode === 'flicker' && (
        <button
          type="button"
          className="chip absolute bottom-3 left-1/2 z-10 -translate-x-1/2 font-semibold"
          onClick={turnOver}
        >
          {showLeft ? titles[left].title : titles[right].title} · show the other
        </button>
      )}
      <div className={`absolute right-3 z-10 flex flex-col items-end gap-1.5 ${compare ? 'top-[86px]' : 'top-[46px]'}`}>
        {look === 'shift' &&
          (all === 0 || picking || stepView ? (
            <p className="chip">There is no result to measure yet.</p>
          ) : (
            <ShiftLegend difference={difference} unit={space.unit.plural} />
          ))}
        {view.companion && subject && (
          <CompanionBar
            title={companion.title}
            size={companion.shape ? companionSize(companion.shape, yardSpaceOf(rulebook)) : null}
            itemSize={sizeOf(subject)}
            unit={space.unit.plural}
            waiting={!companion.shape}
          />
        )}
        {view.stretch && !picking && scenes && (
          <StretchBar nodes={scenes.result.parts.filter((part) => part.role === 'part').length} />
        )}
        {view.level !== 0 && !compare && !picking && scenes && <LevelBar scene={scenes.result} rulebook={rulebook} />}
        {!picking && scenes && scenes.result.looks.length > 1 && (
          <div role="group" aria-label="Looks" className="flex gap-1">
            {scenes.result.looks.map((look, index) => (
              <button
                key={look}
                type="button"
                aria-pressed={(view.shownLook ?? scenes.result.looks[0]) === look}
                className={`chip ${(view.shownLook ?? scenes.result.looks[0]) === look ? 'border-spruce bg-spruce-wash font-semibold' : ''}`}
                onClick={() => changeYardView({ shownLook: index === 0 ? null : look })}
              >
                {look}
              </button>
            ))}
          </div>
        )}
        {view.spots.length > 0 && (
          <button type="button" className="chip" onClick={() => changeYardView({ spots: [] })}>
            {view.spots.length} {view.spots.length === 1 ? 'place' : 'places'} marked · put away
          </button>
        )}
      </div>
      {stage === 'solids' &&
        scenes &&
        !stepView &&
        !compare &&
        scenes.result.parts.some((part) => part.role === 'solid') && (
          <PlayBar
            key={item.id}
            subject={{ item }}
            game={game}
            scene={scenes.result}
            loose={kindOf(rulebook, item.kind).solids?.fixed === false}
          />
        )}
      {view.standOuts && standOuts && <StandOutLegend most={rulebook.solids.noticedGap} unit={space.unit.plural} />}
      {stepView && (
        <div className="absolute top-[46px] left-3 z-10 flex items-center gap-1.5">
          <p className="chip font-semibold" role="status">
            {stepView.message}
          </p>
          {stepView.placed && (
            <button
              type="button"
              className="button py-0 text-[12.5px]"
              onClick={() => stepView.placed && setReframed(facing(stepView.placed.decal))}
            >
              Look straight at it
            </button>
          )}
        </div>
      )}
      {scenes && !picking && !stepView && !playing && compare?.mode !== 'flicker' && (
        <PartChips parts={scenes.result.parts} dropped={droppedParts(scenes)} selected={selected} onSelect={onSelect} />
      )}
      {picking && scenes && (
        <p className="chip absolute bottom-3 left-3 z-10">
          {picking.area ? 'Drag over the parts to pick' : 'The source as it came. Click a part to pick it.'}
        </p>
      )}
      {picking?.area && (
        <AreaPick
          onDone={(area) => {
            picking.onArea(false)
            if (area) picking.picks.set([...picking.picks.names, ...(picker.current?.(area) ?? [])])
          }}
        />
      )}
      <div className="absolute right-3 bottom-3 z-10">
        {look === 'facing' && <FacingLegend />}
        {look === 'solids' && scenes && !scenes.result.parts.some((part) => part.role === 'solid') && (
          <p className="chip">There are no solids yet.</p>
        )}
      </div>
    </section>
  )
}
