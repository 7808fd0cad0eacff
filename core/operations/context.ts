import type { Document } from '@gltf-transform/core'
import type { Kind, Rulebook } from '../game/schema.ts'

/** What a step may know besides its parameters. */
export interface StepContext {
  document: Document
  rulebook: Rulebook
  kind: Kind
  /** Picture files that were brought with the item, used by it or not. */
  images?: readonly SourceImage[]
  /** What of it the game has already, where the kind adds to an object of the game's own. */
  official?: OfficialWithin | null
  /** Objects of the game's own that it can be put into, where the kind changes one. */
  hosts?: readonly Host[]
  /** The item as it came, before the first step; `fit` in its root's extras leads from there to the present space. */
  source?: Document
}

/** An object of the game's own in the working space; copied before it is used. */
export interface Host {
  id: string
  title: string
  document: Document
}

/** A picture file as it was brought. */
export interface SourceImage {
  path: string
  bytes: Uint8Array
}

/** Parts of an item that an object of the game's own has as well. */
export interface OfficialWithin {
  /** What the game calls that object. */
  title: string
  parts: readonly string[]
}

/** Reports progress and, when the modder asked to stop, throws. `fraction` runs from 0 to 1. */
export type ReportProgress = (fraction: number, doing: string) => Promise<void>

/** A step that ought to be in the worklist, and why. */
export interface Proposal<P> {
  parameters: P
  reason: string
}
