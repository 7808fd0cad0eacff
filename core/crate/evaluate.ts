import type { Document } from '@gltf-transform/core'
import { kindOf } from '../game/load.ts'
import type { Rulebook } from '../game/schema.ts'
import { checkItem, type Checked, type Report } from '../rules/registry.ts'
import type { Finding, Gauge } from '../rules/rule.ts'
import { giveSlots } from '../game/slots.ts'
import { runWorklist, type EntryOutcome, type RunOptions, type RunResult } from '../worklist/run.ts'
import type { TogetherFacts } from '../game/catalogue/together-facts.ts'
import { togetherFacts } from '../operations/entry/together-facts.ts'
import type { ResultStore } from '../worklist/result-store.ts'
import { gameName } from './game-names.ts'
import { startOf } from './bring-in.ts'
import type { BytesOf } from './stock.ts'
import type { Game } from '../game/game.ts'
import type { CrateItem } from './schema.ts'
import { judge, type JudgedFinding } from './waivers.ts'

/** An item run through its worklist and checked. */
export interface EvaluatedItem {
  item: CrateItem
  document: Document
  key: string
  outcomes: EntryOutcome[]
  findings: JudgedFinding[]
  gauges: Gauge[]
  /** What the other items of its crate have to know of it. */
  facts: TogetherFacts
}

export interface EvaluateOptions {
  store: ResultStore
  bytesOf: BytesOf
  /** What the item is called in the game, where others of its crate are called alike. */
  itemName?: string
  /** The game's place that it stands in for, where others of its crate have some. */
  slot?: string | null
  onProgress?: RunOptions['onProgress']
  shouldStop?: () => boolean
}

/**
 * Runs one item's worklist from what is kept, and checks the result.
 * @example const { findings } = await evaluateItem(item, game, options)
 */
export async function evaluateItem(item: CrateItem, game: Game, options: EvaluateOptions): Promise<EvaluatedItem> {
  const { rulebook } = game
  const kind = kindOf(rulebook, item.kind)
  const start = await startOf(item, options.bytesOf, game)
  const result = await runWorklist(start, item.worklist, {
    rulebook,
    kind,
    store: options.store,
    onProgress: options.onProgress,
    shouldStop: options.shouldStop,
  })
  const itemName = options.itemName ?? gameName(item, rulebook)
  const { findings, gauges } = checkResult(result, {
    rulebook,
    kind,
    itemName,
    slot: options.slot === undefined ? ownSlot(item, rulebook) : options.slot,
  })
  return {
    item,
    document: result.document,
    key: result.key,
    outcomes: result.outcomes,
    findings: judge(findings, item.waivers),
    gauges,
    facts: togetherFacts(result.document, rulebook, kind, itemName),
  }
}

/**
 * What the game would say of a run's result, and that a step did not work where one did not.
 * @example const { findings } = checkResult(result, { rulebook, kind })
 */
export function checkResult(result: RunResult, about: Omit<Checked, 'document'>): Report {
  const { findings, gauges } = checkItem({ document: result.document, ...about })
  const failures = result.outcomes.flatMap((outcome) => {
    if (outcome.state === 'failed')
      return [
        stepFinding('step-failed', 'A step did not work', 'stopped', outcome.message, 'Later steps build on this one.'),
      ]
    if (outcome.state === 'done' && outcome.record.doesNotApply !== undefined)
      return [
        stepFinding(
          'step-does-not-apply',
          'A step does not apply',
          'passed over',
          outcome.record.doesNotApply,
          'The source is not what the step was made for.',
        ),
      ]
    return []
  })
  return { findings: [...failures, ...findings], gauges }
}

/** A worklist that stops half-way leaves an item that is not what the modder asked for. */
function stepFinding(rule: string, title: string, value: string, message: string, why: string): Finding {
  return {
    rule,
    severity: 'note',
    stage: 'check',
    title,
    where: 'worklist',
    place: { parts: [], bounds: null, spots: [], texture: null },
    value,
    limit: 'all steps',
    message,
    why,
    mend: null,
  }
}

/**
 * The slot of an item by itself.
 * @example const slot = ownSlot(item, rulebook)
 */
export const ownSlot = (item: Pick<CrateItem, 'id' | 'kind' | 'slot'>, rulebook: Rulebook): string | null =>
  giveSlots([item], rulebook).get(item.id) ?? null
