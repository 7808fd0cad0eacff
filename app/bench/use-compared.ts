import type { CrateItem } from '../../core/crate/schema'
import type { Game } from '../../core/game/game'
import { useItemState } from '../queries/item-queries'
import type { ItemRun } from '../queries/runs'
import type { SceneData } from '../workers/scene-data'
import { identity } from '../yard/yard-framing'
import { useYardView, type CompareMode } from '../yard/yard-view'

/** Two states of an item that are set against each other. */
export interface Compared {
  mode: CompareMode
  wipe: number
  /** Numbers of steps that were run. */
  left: number
  right: number
  /** What stands at the left, and where; null while it is worked out. */
  other: { scene: SceneData; placement: readonly number[] } | null
  /** What stands at the right; null while it is worked out. */
  shown: SceneData | null
}

const sourceAndResult = { mode: 'side', left: 0, right: null, wipe: 0.5 } as const

/** The comparison that the modder has open, or the one that the desk below speaks of; null for none. */
export function useCompared(
  item: CrateItem,
  game: Game,
  run: ItemRun | undefined,
  off: boolean,
  sideBySide: boolean,
): Compared | null {
  const view = useYardView((state) => state.compare) ?? (sideBySide ? sourceAndResult : null)
  const all = item.worklist.length
  const compare = off || all === 0 ? null : view
  const [left, right] = [compare?.left ?? 0, compare?.right ?? all]
  const leftState = useItemState(item, game, compare && left > 0 && left < all ? left : null)
  const rightState = useItemState(item, game, compare && right < all ? right : null)
  const scenes = run?.scenes
  if (!compare) return null
  const other = !scenes
    ? null
    : left === 0
      ? { scene: scenes.source, placement: scenes.result.fit }
      : left >= all
        ? { scene: scenes.result, placement: identity }
        : leftState
  return {
    mode: compare.mode,
    wipe: compare.wipe,
    left,
    right,
    other,
    shown: right < all ? (rightState?.scene ?? null) : (scenes?.result ?? null),
  }
}

/** What each state is called, by the number of steps that were run. */
export function stateTitles(item: CrateItem, run: ItemRun | undefined): { steps: number; title: string }[] {
  const all = item.worklist.length
  return [
    { steps: 0, title: 'Source' },
    ...item.worklist.map((entry, index) => ({
      steps: index + 1,
      title:
        index + 1 === all
          ? 'Result'
          : `${index + 1} ${run?.evaluation?.steps.find((step) => step.id === entry.step)?.title ?? entry.step}`,
    })),
  ]
}
