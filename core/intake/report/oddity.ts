import type { Document } from '@gltf-transform/core'
import type { SourceFacts } from '../survey.ts'

/** Something in a source that looks off, in words. */
export interface Oddity {
  /** Which check found it: “unit-implausible”. */
  id: string
  /** Part, material, texture or file; empty for the whole source. */
  where: string
  message: string
  mend: OddityMend | null
}

/** What the interface offers to do about it. */
export type OddityMend =
  | { do: 'set-unit'; metresPerUnit: number; label: string }
  | { do: 'drop-strays'; label: string }
  | { do: 'link-texture'; label: string }
  | { do: 'step'; step: string; label: string }

export interface ReportContext {
  document: Document
  sources: readonly SourceFacts[]
}

/** A family of checks on a source. Adding one adds a file and a line in the report. */
export type OddityCheck = (context: ReportContext) => Oddity[]

const MOST_LISTED = 3

/**
 * “Left, Right and 3 more”.
 * @example listed(['Left', 'Right']) // 'Left, Right'
 */
export function listed(names: readonly string[]): string {
  const shown = names.slice(0, MOST_LISTED).join(', ')
  return names.length > MOST_LISTED ? `${shown} and ${names.length - MOST_LISTED} more` : shown
}
