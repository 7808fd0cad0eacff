import type { Document } from '@gltf-transform/core'
import { copyDocument } from '../item/io.ts'
import { kindOf } from '../game/load.ts'
import type { Kind, Rulebook } from '../game/schema.ts'
import { stepById } from '../steps/registry.ts'
import type { Host, Proposal, SourceImage } from '../operations/context.ts'
import type { StepSummary } from '../steps/step.ts'
import { tarnAndTiller } from './prepared-gate.ts'

export interface StepTrial {
  before: Document
  after: Document
  summary: StepSummary
}

interface Surroundings {
  rulebook?: Rulebook
  kind?: Kind
  images?: readonly SourceImage[]
  source?: Document
  hosts?: readonly Host[]
}

/** Runs one step on a copy, with its defaults where nothing else is given. */
export async function runStep(
  id: string,
  before: Document,
  parameters: Record<string, unknown> = {},
  around: Surroundings = {},
): Promise<StepTrial> {
  const step = stepById(id)
  const rulebook = around.rulebook ?? tarnAndTiller
  const kind = around.kind ?? kindOf(rulebook, 'prop')
  const after = copyDocument(before)
  const defaults = step.defaults({
    document: after,
    rulebook,
    kind,
    images: around.images,
    hosts: around.hosts,
  }) as Record<string, unknown>
  const summary = await step.run({
    document: after,
    parameters: { ...defaults, ...parameters },
    rulebook,
    kind,
    progress: async () => undefined,
    hosts: around.hosts,
    images: around.images,
    source: around.source ?? before,
  })
  return { before, after, summary }
}

/** What a step proposes for an item. */
export function proposals(
  id: string,
  document: Document,
  around: Surroundings = {},
): Proposal<Record<string, unknown>>[] {
  const rulebook = around.rulebook ?? tarnAndTiller
  const kind = around.kind ?? kindOf(rulebook, 'prop')
  return stepById(id).propose({ document, rulebook, kind }) as Proposal<Record<string, unknown>>[]
}
