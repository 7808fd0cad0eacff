import { useRef } from 'react'
import type { CrateItem } from '../../core/crate/schema'
import { kindOf } from '../../core/game/load'
import type { Rulebook } from '../../core/game/schema'
import type { Stage } from '../../core/support/stages'
import { useCrate } from '../crate/use-crate'
import type { SceneData } from '../workers/scene-data'
import type { Picks } from '../intake/use-picks'
import { useDifference, useStandOuts } from '../queries/item-queries'
import { requestAgain, type ItemRun } from '../queries/runs'
import { companionSize } from '../yard/companion'
import type { Area } from '../yard/picker'
import { PlayBar } from '../yard/play/play-bar'
import { BendBar } from '../yard/bend-bar'
import { MotionBar } from '../yard/motion-bar'
import { usePlay } from '../yard/play/play-state'
import type { YardProps } from '../yard/yard'
import { longestOf } from '../yard/reference'
import { boxOf, droppedParts, facing, fitted, noPicks, noSize, standingSource } from '../yard/yard-framing'
import { YardFrame, YardMessage } from '../yard/yard-frame'
import { yardSpaceOf, type Framing, type YardLook } from '../yard/yard-settings'
import { changeYardView, useYardView, type ShownLevel } from '../yard/yard-view'
import { AreaPick } from './area-pick'
import { CompareBar } from './compare-bar'
import { CompareOverlay } from './compare-overlay'
import { PartChips } from './part-chips'
import { useCompanion } from './use-companion'
import { stateTitles, useCompared } from './use-compared'
import { useFlicker } from './use-flicker'
import { useFraming } from './use-framing'
import { useStepView, type StepView } from './use-step-view'
import { YardCorner } from './yard-corner'
import { FacingLegend, HeldLegend, LookChips, RunTrouble } from './yard-marks'
import { YardTools } from './yard-tools'

interface YardPanelProps {
  item: CrateItem
  run: ItemRun | undefined
  rulebook: Rulebook
  stage: Stage
  selected: string | null
  onSelect: (part: string | null) => void
  framing: Framing | null
  /** Whether source and result stand side by side until another comparison is asked for. */
  sideBySide: boolean
  /** At intake the source is shown, and its parts are picked; null at all other stages. */
  picking: Picking | null
}

interface Picking {
  picks: Picks
  area: boolean
  onArea: (on: boolean) => void
}

/** The yard with what is said on it: looks, comparison, levels, what stands beside, parts. */
export function YardPanel({
  item,
  run,
  rulebook,
  stage,
  selected,
  onSelect,
  framing: asked,
  sideBySide,
  picking,
}: YardPanelProps) {
  const { crate, game } = useCrate()
  const view = useYardView()
  const scenes = run?.scenes ?? null
  const result = scenes?.result ?? null
  const look = view.look ?? lookAt(stage, result)
  const space = yardSpaceOf(rulebook)
  const stepView = useStepView(item, game)
  const compared = useCompared(item, game, run, picking !== null || stepView !== null, sideBySide)
  const other = compared?.other ?? null
  const [showLeft, turnOver] = useFlicker(compared?.mode === 'flicker')
  const measurable = !picking && !stepView && item.worklist.length > 0
  const difference = useDifference(
    item,
    game,
    look === 'shift' && measurable && scenes
      ? { from: compared?.left ?? fitted(item, run), to: compared?.right ?? item.worklist.length }
      : null,
  )
  const standOuts = useStandOuts(item, game, view.standOuts && run?.state === 'done')
  const playing = usePlay((state) => state.subject !== null)
  const companion = useCompanion(crate, game)
  const picker = useRef<((area: Area) => string[]) | null>(null)

  const subject = scenes
    ? picking
      ? standingSource(scenes)
      : (stepView?.scene ?? compared?.shown ?? scenes.result)
    : null
  const beside = companion.shape && !view.companion?.inside ? companionSize(companion.shape, space) : noSize
  const { framing, show, showWhole } = useFraming(subject, space, beside, asked)
  const mesh = picking || compared || stepView ? 0 : view.level
  const titles = stateTitles(item, run)
  const hasSolids = result?.parts.some((part) => part.role === 'solid') ?? false

  return (
    <section
      aria-label="Yard"
      className={`${view.dusk ? 'yard-dusk' : 'yard-ground'} relative min-h-0 flex-1 overflow-hidden`}
    >
      {subject && framing ? (
        <YardFrame
          shown={{
            scene: subject,
            look,
            mesh,
            stretch: picking || stepView ? null : view.stretch,
            difference,
            rung: stepView?.rung ?? null,
            shownLook: view.shownLook,
            dusk: view.dusk,
            turned: view.turned && !compared && !stepView && !picking,
          }}
          comparison={compared && other ? { ...other, mode: compared.mode, wipe: compared.wipe, showLeft } : null}
          marks={{
            selected,
            picked: picking?.picks.names ?? noPicks,
            spots: view.spots,
            points: stepView?.points,
            faces: stepView?.faces ?? null,
            events: item.worklist.some((entry) => entry.id === view.opened && entry.step === 'link-events'),
            standOuts: standOuts && !playing ? { solids: standOuts, most: rulebook.solids.noticedGap } : null,
          }}
          hands={{ ...handsOf(stepView), onPick: stepView?.onPick ?? picking?.picks.toggle ?? null, picker }}
          companion={
            companion.shape
              ? {
                  shape: companion.shape,
                  inside: view.companion?.inside ?? false,
                  hungOn: view.companion?.hungOn ?? null,
                }
              : null
          }
          levels={levelsOf(rulebook, mesh, view.playing)}
          playing={playing}
          showSizes={view.showSizes && compared?.mode !== 'side' && !playing}
          framing={framing}
          space={space}
          label={`${item.name} in the yard`}
        />
      ) : (
        <YardMessage>{run?.state === 'failed' || run?.state === 'stopped' ? '' : `Reading ${item.name}…`}</YardMessage>
      )}
      <RunTrouble run={run} onAgain={() => requestAgain(crate.id, item, game, true)} />
      {/* Bars stand above each other from the top; where the yard is narrow they take a row more. */}
      <div className="pointer-events-none absolute inset-x-3 top-3 z-10 flex flex-col gap-1.5 *:pointer-events-auto">
        <div data-over-yard className="flex flex-wrap justify-between gap-x-3 gap-y-1.5">
          <LookChips look={look} bends={(subject?.bend ?? null) !== null} />
          {!playing && (
            <YardTools
              crate={crate}
              item={item}
              rulebook={rulebook}
              result={result}
              picking={picking !== null}
              onWhole={showWhole}
            />
          )}
        </div>
        <div className="flex flex-wrap items-start justify-between gap-x-3 gap-y-1.5">
          <div data-over-yard>
            {compared && view.compare && <CompareBar compared={compared} states={titles} subject={subject} />}
            {subject?.bend && !playing && !picking && !stepView && (look === 'held' || stage === 'motion') && (
              <BendBar bend={subject.bend} space={rulebook.space} reach={longestOf(boxOf(subject))} />
            )}
            {subject?.motion && !playing && <MotionBar motion={subject.motion} />}
            {stepView && <StepNote stepView={stepView} onShow={show} />}
          </div>
          <YardCorner
            rulebook={rulebook}
            look={look}
            subject={subject}
            result={result}
            difference={measurable ? difference : undefined}
            companion={companion}
            comparing={compared !== null}
            picking={picking !== null}
            standOuts={standOuts !== null}
          />
        </div>
      </div>
      {compared && (
        <CompareOverlay
          compared={compared}
          titles={titles}
          subject={subject}
          showLeft={showLeft}
          onTurnOver={turnOver}
        />
      )}
      {stage === 'solids' && result && !stepView && !compared && hasSolids && (
        <PlayBar
          key={item.id}
          subject={{ item }}
          game={game}
          scene={result}
          loose={kindOf(rulebook, item.kind).solids?.fixed === false}
        />
      )}
      {scenes && !picking && !stepView && !playing && (!compared || compared.mode === 'wipe') && (
        <PartChips parts={scenes.result.parts} dropped={droppedParts(scenes)} selected={selected} onSelect={onSelect} />
      )}
      {picking && scenes && <PickNote picking={picking} namesIn={(area) => picker.current?.(area) ?? []} />}
      {/* Above the row of parts. */}
      <div className="absolute right-3 bottom-11 z-10">
        {look === 'facing' && <FacingLegend />}
        {look === 'held' && subject?.bend && <HeldLegend />}
        {look === 'solids' && result && !hasSolids && <p className="chip">There are no solids yet.</p>}
      </div>
    </section>
  )
}

/** What is looked at first at a stage. */
const lookAt = (stage: Stage, scene: SceneData | null): YardLook =>
  stage === 'solids' ? 'solids' : stage === 'motion' && scene?.bend ? 'held' : 'seen'

/** What a step that waits for hands lets them do. */
const handsOf = (stepView: StepView | null): YardProps['hands'] => ({
  shapes: stepView?.shapes ?? null,
  placed: stepView?.placed ? { placed: stepView.placed.decal, onChange: stepView.placed.onChange } : null,
  brush: stepView?.onStroke ? { radius: stepView.brush, onStroke: stepView.onStroke } : null,
})

/** Levels as one walks away, and the distance from which the shown one is drawn. */
const levelsOf = ({ levels: { chain } }: Rulebook, mesh: ShownLevel, playing: boolean): YardProps['levels'] => ({
  switches: chain,
  playing,
  distance: mesh === 'shadow' || mesh === 0 ? null : (chain.find((each) => each.level === mesh)?.fromDistance ?? null),
  onLevel: (level) => changeYardView({ level }),
  onDone: () => changeYardView({ playing: false, level: 0 }),
})

/** What a step waits for, and a way to look straight at what it places. */
function StepNote({ stepView, onShow }: { stepView: StepView; onShow: (framing: Framing) => void }) {
  const { placed, message } = stepView
  return (
    <div className="flex items-center gap-1.5">
      <p className="chip font-semibold" role="status">
        {message}
      </p>
      {placed && (
        <button type="button" className="button py-0 text-[12.5px]" onClick={() => onShow(facing(placed.decal))}>
          Look straight at it
        </button>
      )}
    </div>
  )
}

/** How parts of the source are picked. */
function PickNote({ picking, namesIn }: { picking: Picking; namesIn: (area: Area) => string[] }) {
  const { picks, area: drawing, onArea } = picking
  return (
    <>
      <p className="chip absolute bottom-3 left-3 z-10">
        {drawing ? 'Drag over the parts to pick' : 'The source as it came. Click a part to pick it.'}
      </p>
      {drawing && (
        <AreaPick
          onDone={(area) => {
            onArea(false)
            if (area) picks.set([...picks.names, ...namesIn(area)])
          }}
        />
      )}
    </>
  )
}
