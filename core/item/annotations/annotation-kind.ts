import type { Node } from '@gltf-transform/core'
import type { AnnotationFacts } from './facts.ts'

/** What of a rulebook says how such nodes are called in the game; a rulebook has all of it. */
export interface AnnotationWords {
  solids: { name: string }
  levels: { nameSuffix: string; shadow: { nameSuffix: string } }
  /** Templates with {point}, and with {marker} and {nn}. */
  points: { attach: string; marker: string }
  markers: readonly { name: string; most: number | null }[]
}

/** Where a node stands that is to be named. */
export interface NamingPlace {
  /** What it hangs under, as the game will call it; or a clean form of its own name where it hangs under nothing. */
  parentName: string
  /** A clean form of its own name. */
  ownName: string
  /** How many of its kind were named before it. */
  before: number
}

/**
 * One kind of node that is more than geometry. Each stands in a folder of its own with what is said of it (`facts.ts`),
 * and how a game reads it; adding one adds a folder and its lines in `facts.ts` and `index.ts` beside this file.
 */
export interface AnnotationKind {
  /** The word in a node's extras. */
  readonly role: AnnotationRole
  /** What the modder reads. */
  readonly title: string
  /** Whether it is a shape, or a place alone: a node without mesh. */
  readonly is: 'shape' | 'place'
  /** Its name in the game. */
  packedName: (words: AnnotationWords, facts: AnnotationFacts, place: NamingPlace) => string
  /** What the packed node carries in `extras`; null where nothing but what others wrote there. */
  packedExtras: (facts: AnnotationFacts) => Record<string, unknown> | null
  /** What a node of a packed mesh is, by what the game goes by; null for something else. */
  recognise: (node: Node, words: AnnotationWords) => AnnotationFacts | null
}

export const annotationRoles = ['level', 'shadow', 'solid', 'light', 'marker', 'attach-point'] as const
export type AnnotationRole = (typeof annotationRoles)[number]
