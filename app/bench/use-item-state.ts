import { rulebookKey, type Game } from '../../core/game/game'
import { useEffect, useEffectEvent, useState } from 'react'
import type { CrateItem } from '../../core/crate/schema'
import { inBenchQueue, runKey, setJob } from '../crate/runs'
import { tellError } from '../ui/notify'
import {
  touchTestOf,
  decalOn,
  differenceBetween,
  ladderFor,
  looksOf,
  mapPictureOf,
  mapsOf,
  pickedBy,
  settingsOf,
  shapesOf,
  standOutsOf,
  stateAfter,
  stockScene,
  uvLayoutOf,
} from '../workers/clients'
import type { StepSettings } from '../workers/field-messages'
import type { LookChain, MapFacts, MapPicture, PlacedDecal, UvLayoutMessage } from '../workers/map-messages'
import type { Difference, ItemState, Ladder, Progress } from '../workers/messages'
import type { TouchReport, PlacedShapes, StandOuts } from '../workers/yard-messages'
import type { SceneData } from '../workers/scene-data'

/** Answers of the bench's worker that are worth keeping while one looks back and forth; the oldest go. */
const MOST_KEPT = 24
const kept = new Map<string, unknown>()

function remember(key: string, value: unknown): void {
  kept.delete(key)
  kept.set(key, value)
  for (const oldest of kept.keys()) {
    if (kept.size <= MOST_KEPT) break
    kept.delete(oldest)
  }
}

/** Asks the worker when `key` is new; null until the answer is there. */
function useAnswer<T>(key: string | null, ask: (onProgress: (progress: Progress) => void) => Promise<T>): T | null {
  const [answer, setAnswer] = useState<{ key: string; value: T } | null>(null)
  const present =
    key === null ? null : ((kept.get(key) as T | undefined) ?? (answer?.key === key ? answer.value : null))
  // The key stands for all that the question is made of: it is asked anew when the key changes.
  const askNow = useEffectEvent(ask)
  useEffect(() => {
    if (key === null || kept.has(key)) return
    let wanted = true
    void inBenchQueue(async () => {
      if (!wanted) return
      try {
        const value = await askNow(setJob)
        remember(key, value)
        if (wanted) setAnswer({ key, value })
      } catch (error) {
        if (!(error instanceof Error && error.name === 'StoppedError')) tellError(error)
      } finally {
        setJob(null)
      }
    })
    return () => {
      wanted = false
    }
  }, [key])
  return present
}

/** The item after so many steps; null while it is fetched or not asked for. */
export function useItemState(item: CrateItem, game: Game, steps: number | null): ItemState | null {
  return useAnswer(steps === null ? null : `state ${steps} ${runKey(item, game)}`, (onProgress) =>
    stateAfter(item, game, steps ?? 0, onProgress),
  )
}

/** What can be set on a step. `before` is the item with the steps before it, so that names and lists are those that the step finds. */
export function useStepSettings(before: CrateItem, game: Game, step: string | null): StepSettings | null {
  return useAnswer(step && `settings ${step} ${runKey(before, game)}`, (onProgress) =>
    settingsOf(before, game, before.worklist.length, step ?? '', onProgress),
  )
}

/** How far one state lies from another; both as numbers of steps. */
export function useDifference(
  item: CrateItem,
  game: Game,
  between: { from: number; to: number } | null,
): Difference | null {
  return useAnswer(between && `difference ${between.from} ${between.to} ${runKey(item, game)}`, (onProgress) =>
    differenceBetween(item, game, between?.from ?? 0, between?.to ?? 0, onProgress),
  )
}

/** Levels for dragging a reduction's slider. `before` is the item with the steps before it. */
export function useLadder(before: CrateItem, game: Game, leaveAlone: string[] | null): Ladder | null {
  return useAnswer(leaveAlone && `ladder ${leaveAlone.join('/')} ${runKey(before, game)}`, (onProgress) =>
    ladderFor(before, game, before.worklist.length, leaveAlone ?? [], onProgress),
  )
}

/** The triangles that a step's picks stand for. `before` is the item with the steps before it. */
export function usePickedFaces(before: CrateItem, game: Game, picks: unknown[] | null): Float32Array | null {
  return useAnswer(picks && `picked ${JSON.stringify(picks)} ${runKey(before, game)}`, (onProgress) =>
    pickedBy(before, game, before.worklist.length, picks, onProgress),
  )
}

/** Where a decal lies. `before` is the item with the steps before its step. */
export function usePlacedDecal(
  before: CrateItem,
  game: Game,
  parameters: Record<string, unknown> | null,
): PlacedDecal | null {
  return useAnswer(parameters && `decal ${JSON.stringify(parameters)} ${runKey(before, game)}`, (onProgress) =>
    decalOn(before, game, before.worklist.length, parameters, onProgress),
  )
}

/** What it is like to bump into the result. */
export function useTouchTest(item: CrateItem, game: Game, wanted: boolean): TouchReport | null {
  return useAnswer(wanted ? `touch test ${runKey(item, game)}` : null, (onProgress) =>
    touchTestOf(item, game, onProgress),
  )
}

/** Where the result's solids stand out. */
export function useStandOuts(item: CrateItem, game: Game, wanted: boolean): StandOuts | null {
  return useAnswer(wanted ? `stand-outs ${runKey(item, game)}` : null, (onProgress) =>
    standOutsOf(item, game, onProgress),
  )
}

/** The shapes that a step puts, by its number. `until` is the item with that step as its last. */
export function useShapes(until: CrateItem, game: Game, steps: number | null): PlacedShapes | null {
  return useAnswer(steps === null ? null : `shapes ${steps} ${runKey(until, game)}`, (onProgress) =>
    shapesOf(until, game, steps ?? 0, onProgress),
  )
}

/** The item's maps after so many steps. */
export function useMaps(item: CrateItem, game: Game, steps: number | null): MapFacts[] | null {
  return useAnswer(steps === null ? null : `maps ${steps} ${runKey(item, game)}`, (onProgress) =>
    mapsOf(item, game, steps ?? 0, onProgress),
  )
}

/** What each look of the result shows. */
export function useLooks(item: CrateItem, game: Game, wanted: boolean): LookChain[] | null {
  return useAnswer(wanted ? `looks ${runKey(item, game)}` : null, (onProgress) => looksOf(item, game, onProgress))
}

/** One level of a map after so many steps, as kept or in blocks that are tried. */
export function useMapPicture(
  item: CrateItem,
  game: Game,
  wanted: { steps: number; name: string; level: number; as: string } | null,
): MapPicture | null {
  return useAnswer(
    wanted && `map ${wanted.steps} ${wanted.name} ${wanted.level} ${wanted.as} ${runKey(item, game)}`,
    (onProgress) =>
      mapPictureOf(
        item,
        game,
        wanted?.steps ?? 0,
        wanted?.name ?? '',
        wanted?.level ?? 0,
        wanted?.as ?? 'kept',
        onProgress,
      ),
  )
}

/** How the item's surfaces lie on a map. */
export function useUvLayout(
  item: CrateItem,
  game: Game,
  wanted: { steps: number; name: string } | null,
): UvLayoutMessage | null {
  return useAnswer(wanted && `layout ${wanted.steps} ${wanted.name} ${runKey(item, game)}`, (onProgress) =>
    uvLayoutOf(item, game, wanted?.steps ?? 0, wanted?.name ?? '', onProgress),
  )
}

/** A stock object of the game. */
export function useStockScene(game: Game, object: string | null): SceneData | null {
  return useAnswer(object && `stock ${rulebookKey(game.rulebook)} ${object}`, () => stockScene(game, object ?? ''))
}

/** The result of another item, to stand beside this one. */
export function useOtherItem(other: CrateItem | null, game: Game): SceneData | null {
  return (
    useAnswer(other && `state ${other.worklist.length} ${runKey(other, game)}`, (onProgress) =>
      stateAfter(other as CrateItem, game, (other as CrateItem).worklist.length, onProgress),
    )?.scene ?? null
  )
}
