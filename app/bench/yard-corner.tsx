import type { Rulebook } from '../../core/game/schema'
import type { Difference } from '../workers/messages'
import type { SceneData } from '../workers/scene-data'
import { attachPointsOf, companionSize, type CompanionShape } from '../yard/companion'
import { sizeOf } from '../yard/yard-framing'
import { yardSpaceOf, type YardLook } from '../yard/yard-settings'
import { changeYardView, useYardView } from '../yard/yard-view'
import { CompanionBar, LevelBar, ShiftLegend, StandOutLegend, StretchBar } from './yard-bars'

interface YardCornerProps {
  rulebook: Rulebook
  look: YardLook
  /** What stands in the yard, and the item's result; null while they are worked out. */
  subject: SceneData | null
  result: SceneData | null
  /** Undefined where there is nothing to measure between; null while it is measured. */
  difference: Difference | null | undefined
  companion: { title: string; shape: CompanionShape | null }
  comparing: boolean
  picking: boolean
  /** Whether solids are coloured by where they stand out. */
  standOuts: boolean
}

/** The upper right corner of the yard: measures, what stands beside, levels, looks, marked places. */
export function YardCorner({
  rulebook,
  look,
  subject,
  result,
  difference,
  companion,
  comparing,
  picking,
  standOuts,
}: YardCornerProps) {
  const view = useYardView()
  const { space } = rulebook
  return (
    <div data-over-yard className="ml-auto flex flex-col items-end gap-1.5">
      {look === 'shift' &&
        (difference === undefined ? (
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
          points={companion.shape?.kind === 'scene' ? attachPointsOf(subject).map(({ name }) => name) : []}
        />
      )}
      {view.stretch && !picking && result && (
        <StretchBar nodes={result.parts.filter((part) => part.role === 'part').length} />
      )}
      {view.level !== 0 && !comparing && !picking && result && <LevelBar scene={result} rulebook={rulebook} />}
      {!picking && result && result.looks.length > 1 && <LookSwitch looks={result.looks} />}
      {view.standOuts && standOuts && <StandOutLegend most={rulebook.solids.noticedGap} unit={space.unit.plural} />}
      {view.spots.length > 0 && (
        <button type="button" className="chip" onClick={() => changeYardView({ spots: [] })}>
          {view.spots.length} {view.spots.length === 1 ? 'place' : 'places'} marked · put away
        </button>
      )}
    </div>
  )
}

/** Which of the item's looks is drawn. */
function LookSwitch({ looks }: { looks: readonly string[] }) {
  const shown = useYardView((state) => state.shownLook) ?? looks[0]
  return (
    <div role="group" aria-label="Looks" className="flex gap-1">
      {looks.map((look, index) => (
        <button
          key={look}
          type="button"
          aria-pressed={shown === look}
          className={`chip ${shown === look ? 'border-spruce bg-spruce-wash font-semibold' : ''}`}
          onClick={() => changeYardView({ shownLook: index === 0 ? null : look })}
        >
          {look}
        </button>
      ))}
    </div>
  )
}
