import type { LoadedSolid } from '../check-solids.ts'
import type { LoadedMarker } from '../check-markers.ts'
import type { LoadedMesh, LoadedNode } from '../loaders/mesh/loaded-mesh.ts'
import type { LoadedEvent } from '../entry/read-entry.ts'
import type { Happening } from './happenings.ts'
import type { YardAction } from './actions.ts'

export type Place = [number, number, number]
export type Turn = [number, number, number, number]

/** One thing in the yard. */
export interface YardItem {
  name: string
  solids: readonly LoadedSolid[]
  /** Whether it moves when it is pushed. */
  loose: boolean
  /** The stock thing whose toughness it has; by its surface kind when it names none. */
  like?: string
  /** How it moves, its markers, and what is drawn of it and moves; none for what stands still. */
  /** What happens when something is done to it, looked up among all that was loaded of it. */
  events?: { list: readonly LoadedEvent[]; nodes: readonly LoadedNode[] }
  motion?: { clips: LoadedMesh['clips']; markers: readonly LoadedMarker[]; drawn: readonly LoadedNode[] }
}

/** What the figure is told to do in one step. */
export interface YardInput {
  /** Along the ground, in the scene; longer than 1 counts as 1. */
  walk: Place
  /** Where it looks: a direction for hands, throws and blows. */
  look: Place
  actions: readonly YardAction[]
  /** Whether it stops where the ground ends. */
  mindsEdges?: boolean
}

/** How a run through a course stands. */
export interface YardRun {
  /** What can be taken on the way. */
  places: { name: string; place: Place; taken: boolean }[]
  /** Where one arrives. */
  goals: Place[]
  /** How often the figure fell too deep and began again. */
  falls: number
  /** Seconds from the beginning to where one arrives; null before that. */
  arrivedAfter: number | null
}

/**
 * Something that moves, and how it is put from where it was loaded: turned about `pivot`, then moved so that the pivot
 * comes to `place`.
 */
export interface MovedThing {
  id: number
  item: string
  pivot: Place
  place: Place
  turn: Turn
}

/** What the yard looks like after a step. */
export interface YardFrame {
  seconds: number
  feet: Place
  /** On what it stands or against what it walks; null in the air or on the ground. */
  touches: { solid: string; surface: string } | null
  moved: MovedThing[]
  balls: { id: number; place: Place }[]
  /** What the game would leave of a broken thing. */
  remains: { id: number; place: Place; turn: Turn }[]
  broken: { item: string; remains: string }[]
  /** Things that knocked together in this step: how loudly, 0 to 1, and of what. */
  knocks: { surface: string; loudness: number }[]
  carries: string | null
  /** What takes the figure along. */
  ridesOn: string | null
  run: YardRun | null
  /** Events that have happened in this step, the latest last. */
  happened: Happening[]
  /** Parts that an event has hidden. */
  hidden: string[]
  /** Whether an event has lit its lights. */
  lit: boolean
  /** Where the drawn parts stand that clips move. */
  standing: { part: string; matrix: Float32Array<ArrayBuffer> }[]
}
