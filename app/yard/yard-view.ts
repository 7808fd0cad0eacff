import { create } from 'zustand'
import type { YardLook } from './yard-settings'

/** How two states of the item are set against each other. */
export type CompareMode = 'wipe' | 'side' | 'flicker'

/** What is looked at from further off. */
export type ShownLevel = number | 'shadow'

/** What stands beside the item or in it. */
export type Companion =
  { what: 'cube' | 'doorway' | 'figure' } | { what: 'stock'; id: string } | { what: 'item'; id: string }

/** A click in the yard that a setting of a step waits for. */
export interface WaitingPick {
  entry: string
  key: string
  kind: 'points' | 'faces' | 'placement' | 'shape-edit'
  /** Of points: how many are clicked at most. */
  count?: number
}

/** What a click on faces takes. */
export interface PickReach {
  growth: 'face' | 'flat' | 'piece' | 'surface' | 'round'
  angleDegrees: number
  /** Of a round pick, in game units. */
  radius: number
}

interface YardView {
  /** Null for what suits the stage: solids at Solids, the item as seen elsewhere. */
  look: YardLook | null
  showSizes: boolean
  /** States by the number of steps that were run; null for all of them. */
  compare: { mode: CompareMode; left: number; right: number | null; wipe: number } | null
  level: ShownLevel
  playing: boolean
  companion: { thing: Companion; inside: boolean; hungOn?: string | null } | null
  stretch: { axis: 0 | 1 | 2; factor: number } | null
  pick: WaitingPick | null
  reach: PickReach
  /** The slip whose card is open. */
  opened: string | null
  /** A slider that is being dragged and has not been let go. */
  draft: { entry: string; key: string; value: number } | null
  /** What stands in the middle at Surface: the maps, or the item in the yard. */
  atSurface: 'maps' | 'yard'
  /** Which of the item's looks is drawn; null for the first. */
  shownLook: string | null
  /** Whether it is dusk, so that one sees what the item's own lights do. */
  dusk: boolean
  /** Whether what faces the viewer is turned to who looks. */
  turned: boolean
  /** Whether solids are coloured by where they stand out. */
  standOuts: boolean
  /** Places that a finding points to. */
  spots: [number, number, number][]
}

const fresh: YardView = {
  look: null,
  showSizes: true,
  compare: null,
  level: 0,
  playing: false,
  companion: null,
  stretch: null,
  pick: null,
  reach: { growth: 'flat', angleDegrees: 20, radius: 0.5 },
  opened: null,
  draft: null,
  atSurface: 'maps',
  shownLook: null,
  dusk: false,
  turned: true,
  standOuts: false,
  spots: [],
}

/** How the yard is looked at just now: gone when the bench is left, never kept. */
export const useYardView = create<YardView>(() => fresh)

export const changeYardView = (change: Partial<YardView>): void => useYardView.setState(change)

export const resetYardView = (): void => useYardView.setState(fresh)
