import { rulebookKey, type Game } from '../../core/game/game'
import { keepPreviousData, skipToken, useQuery } from '@tanstack/react-query'
import type { CrateItem } from '../../core/crate/schema'
import { askForItem, runId, runKey } from './runs'
import { useParams } from 'react-router'
import {
  touchTestOf,
  decalOn,
  entryReportOf,
  differenceBetween,
  ladderFor,
  looksOf,
  mapPictureOf,
  mapsOf,
  pickedBy,
  samplingOf,
  settingsOf,
  shapesOf,
  standOutsOf,
  stateAfter,
  stockScene,
  uvLayoutOf,
  worthwhileSteps,
  type Ask,
} from '../workers/bench-client'
import type { EntryReport } from '../workers/entry-messages'
import type { StepSettings } from '../workers/field-messages'
import type { LookChain, MapFacts, MapPicture, PlacedDecal, UvLayoutMessage } from '../workers/map-messages'
import type { Difference, ItemState, Ladder, SamplingReport } from '../workers/messages'
import type { TouchReport, PlacedShapes, StandOuts } from '../workers/yard-messages'
import type { SceneData } from '../workers/scene-data'

/**
 * Asks the bench; null until the answer is there, and while nothing is asked. The key holds all that the question is
 * made of.
 */
function useAnswer<T>(about: string, key: readonly unknown[] | null, ask: (how: Ask) => Promise<T>): T | null {
  const { crateId = '' } = useParams()
  const id = runId(crateId, about)
  const { data } = useQuery({
    queryKey: key ?? ['nothing'],
    queryFn: key === null ? skipToken : ({ signal }) => askForItem(id, ask, signal),
  })
  return (key !== null && data) || null
}

/** The item after so many steps; null while it is fetched or not asked for. */
export function useItemState(item: CrateItem, game: Game, steps: number | null): ItemState | null {
  return useAnswer(item.id, steps === null ? null : ['state', steps, runKey(item, game)], (how) =>
    stateAfter(item, game, steps ?? 0, how),
  )
}

/**
 * What can be set on a step. `before` is the item with the steps before it, so that names and lists are those that the
 * step finds.
 */
export function useStepSettings(before: CrateItem, game: Game, step: string | null): StepSettings | null {
  return useAnswer(before.id, step === null ? null : ['settings', step, runKey(before, game)], (how) =>
    settingsOf(before, game, before.worklist.length, step ?? '', how),
  )
}

/** The steps that would do something to the result as it stands; null while it is looked. */
export function useWorthwhileSteps(item: CrateItem, game: Game): string[] | null {
  return useAnswer(item.id, ['worthwhile', runKey(item, game)], (how) => worthwhileSteps(item, game, how))
}

/** How far one state lies from another; both as numbers of steps. */
export function useDifference(
  item: CrateItem,
  game: Game,
  between: { from: number; to: number } | null,
): Difference | null {
  return useAnswer(item.id, between && ['difference', between.from, between.to, runKey(item, game)], (how) =>
    differenceBetween(item, game, between?.from ?? 0, between?.to ?? 0, how),
  )
}

/** Levels for dragging a reduction's slider. `before` is the item with the steps before it. */
export function useLadder(before: CrateItem, game: Game, leaveAlone: string[] | null): Ladder | null {
  return useAnswer(before.id, leaveAlone && ['ladder', leaveAlone, runKey(before, game)], (how) =>
    ladderFor(before, game, before.worklist.length, leaveAlone ?? [], how),
  )
}

/**
 * How a sampling of the motion changes each curve; the answer before stays until the next is there, so that a slider
 * can be dragged. `before` is the item with the steps before it.
 */
export function useSampling(before: CrateItem, game: Game, parameters: unknown): SamplingReport | null {
  const { crateId = '' } = useParams()
  const id = runId(crateId, before.id)
  const { data } = useQuery({
    queryKey: ['sampling', parameters, runKey(before, game)],
    queryFn: ({ signal }) =>
      askForItem(id, (how) => samplingOf(before, game, before.worklist.length, parameters, how), signal),
    placeholderData: keepPreviousData,
    // One for each place of a slider: they are not worth keeping.
    gcTime: 5_000,
  })
  return data ?? null
}

/** What the item's entry says; the answer before stays until the next is there, so that a form keeps its place. */
export function useEntryReport(item: CrateItem, game: Game): EntryReport | null {
  const { crateId = '' } = useParams()
  const id = runId(crateId, item.id)
  const { data } = useQuery({
    queryKey: ['entry', item.name, runKey(item, game)],
    queryFn: ({ signal }) => askForItem(id, (how) => entryReportOf(item, game, how), signal),
    placeholderData: keepPreviousData,
  })
  return data ?? null
}

/** The triangles that a step's picks stand for. `before` is the item with the steps before it. */
export function usePickedFaces(before: CrateItem, game: Game, picks: unknown[] | null): Float32Array | null {
  return useAnswer(before.id, picks && ['picked', picks, runKey(before, game)], (how) =>
    pickedBy(before, game, before.worklist.length, picks, how),
  )
}

/** Where a decal lies. `before` is the item with the steps before its step. */
export function usePlacedDecal(
  before: CrateItem,
  game: Game,
  parameters: Record<string, unknown> | null,
): PlacedDecal | null {
  return useAnswer(before.id, parameters && ['decal', parameters, runKey(before, game)], (how) =>
    decalOn(before, game, before.worklist.length, parameters, how),
  )
}

/** What it is like to bump into the result. */
export function useTouchTest(item: CrateItem, game: Game, wanted: boolean): TouchReport | null {
  return useAnswer(item.id, wanted ? ['touch test', runKey(item, game)] : null, (how) => touchTestOf(item, game, how))
}

/** Where the result's solids stand out. */
export function useStandOuts(item: CrateItem, game: Game, wanted: boolean): StandOuts | null {
  return useAnswer(item.id, wanted ? ['stand-outs', runKey(item, game)] : null, (how) => standOutsOf(item, game, how))
}

/** The shapes that a step puts, by its number. `until` is the item with that step as its last. */
export function useShapes(until: CrateItem, game: Game, steps: number | null): PlacedShapes | null {
  return useAnswer(until.id, steps === null ? null : ['shapes', steps, runKey(until, game)], (how) =>
    shapesOf(until, game, steps ?? 0, how),
  )
}

/** The item's maps after so many steps. */
export function useMaps(item: CrateItem, game: Game, steps: number | null): MapFacts[] | null {
  return useAnswer(item.id, steps === null ? null : ['maps', steps, runKey(item, game)], (how) =>
    mapsOf(item, game, steps ?? 0, how),
  )
}

/** What each look of the result shows. */
export function useLooks(item: CrateItem, game: Game, wanted: boolean): LookChain[] | null {
  return useAnswer(item.id, wanted ? ['looks', runKey(item, game)] : null, (how) => looksOf(item, game, how))
}

/** One level of a map after so many steps, as kept or in blocks that are tried. */
export function useMapPicture(
  item: CrateItem,
  game: Game,
  wanted: { steps: number; name: string; level: number; as: string } | null,
): MapPicture | null {
  return useAnswer(item.id, wanted && ['map', wanted, runKey(item, game)], (how) =>
    mapPictureOf(item, game, wanted?.steps ?? 0, wanted?.name ?? '', wanted?.level ?? 0, wanted?.as ?? 'kept', how),
  )
}

/** How the item's surfaces lie on a map. */
export function useUvLayout(
  item: CrateItem,
  game: Game,
  wanted: { steps: number; name: string } | null,
): UvLayoutMessage | null {
  return useAnswer(item.id, wanted && ['layout', wanted, runKey(item, game)], (how) =>
    uvLayoutOf(item, game, wanted?.steps ?? 0, wanted?.name ?? '', how),
  )
}

/** A stock object of the game. */
export function useStockScene(game: Game, object: string | null): SceneData | null {
  return useAnswer('', object === null ? null : ['stock', rulebookKey(game.rulebook), object], ({ signal }) =>
    stockScene(game, object ?? '', signal),
  )
}

/** The result of another item, to stand beside this one. */
export function useOtherItem(other: CrateItem | null, game: Game): SceneData | null {
  return (
    useAnswer(other?.id ?? '', other && ['state', other.worklist.length, runKey(other, game)], (how) =>
      stateAfter(other as CrateItem, game, (other as CrateItem).worklist.length, how),
    )?.scene ?? null
  )
}
