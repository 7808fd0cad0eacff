import type { Document } from '@gltf-transform/core'
import type { Bounds } from '../item/measure.ts'
import type { Kind, Rulebook } from '../game/schema.ts'
import type { Stage } from '../support/stages.ts'

export const severities = ['blocks', 'risky', 'note'] as const
/** blocks: the loader refuses it. risky: it loads with a complaint. note: the loader is silent. */
export type Severity = (typeof severities)[number]

/** The step that mends a finding; settings not given here are filled in from the item. */
export interface Mend {
  step: string
  label: string
  parameters: Record<string, unknown>
}

/** Where “Show me” points the view. */
export interface Place {
  parts: string[]
  bounds: Bounds | null
  /** Single places to mark, in scene units. */
  spots: [number, number, number][]
  texture: string | null
}

/** One rule's answer about one place. */
export interface Finding {
  rule: string
  severity: Severity
  stage: Stage
  title: string
  /** Name of the part, material, texture or item it is about. */
  where: string
  place: Place
  value: string
  limit: string
  message: string
  /** Why games ask for this. */
  why: string
  mend: Mend | null
  /**
   * How far it is from holding, in a measure of the rule's own, where it takes several mends: Prepare keeps each that
   * brings it nearer.
   */
  distance?: number
}

/** A measured value beside its limit. */
export interface Gauge {
  id: string
  label: string
  stage: Stage
  value: number
  limit: number | null
  /** Least value, for gauges that must not be empty. */
  least: number
  unit: 'count' | 'bytes'
}

export interface RuleContext {
  document: Document
  rulebook: Rulebook
  kind: Kind
  /** What the item is called in the game: paths hang on it. */
  itemName: string
  /** The game's place that it stands in for; null where the game has none, or none is free. */
  slot: string | null
}

/** Rules of one matter. They read documents and rulebooks and change nothing. */
export interface RuleFamily {
  id: string
  /** Whether it says nothing of kinds without a mesh. */
  ofMeshes?: boolean
  check: (context: RuleContext) => Finding[]
  gauges?: (context: RuleContext) => Gauge[]
}

/**
 * Findings in the order in which an item's are told: the worst first.
 * @example const [worst] = worstFirst(findings)
 */
export const worstFirst = <T extends { severity: Severity }>(findings: readonly T[]): T[] =>
  [...findings].sort((a, b) => severities.indexOf(a.severity) - severities.indexOf(b.severity))

export const nowhere: Place = { parts: [], bounds: null, spots: [], texture: null }
