import type { Document } from '@gltf-transform/core'
import { kindOf } from '../game/load.ts'
import type { Rulebook } from '../game/schema.ts'
import { checkItem, type Checked, type Report } from '../rules/registry.ts'
import { nowhere, type Finding, type Gauge, worstFirst } from '../rules/rule.ts'
import { packItems } from '../pack/pack-crate.ts'
import type { Pack, PackHead } from '../pack/pack-files.ts'
import { plainMessage } from '../support/plain-error.ts'
import { giveSlots } from '../game/slots.ts'
import { runWorklist, StoppedError, type EntryOutcome, type RunOptions, type RunResult } from '../worklist/run.ts'
import type { TogetherFacts } from '../game/catalogue/together-facts.ts'
import { togetherFaults } from '../game/catalogue/together.ts'
import { togetherFacts } from '../operations/entry/together-facts.ts'
import type { ResultStore } from '../worklist/result-store.ts'
import { gameName, gameNames } from './game-names.ts'
import { startOf } from './bring-in.ts'
import type { BytesOf } from './stock.ts'
import type { Game } from '../game/game.ts'
import type { Crate, CrateItem } from './schema.ts'
import { countOpen, judge, type JudgedFinding } from './waivers.ts'

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
  /** Names in the game of the items that are wanted; all when left out. The others are not run. */
  wanted?: readonly string[]
  store: ResultStore
  bytesOf: BytesOf
  /** What the item is called in the game, where others of its crate are called alike. */
  itemName?: string
  /** The game's place that it stands in for, where others of its crate have some. */
  slot?: string | null
  onProgress?: RunOptions['onProgress']
  shouldStop?: () => boolean
}

/** Runs one item's worklist from what is kept, and checks the result. */
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

/** An item of several: one that cannot be read or run at all holds up no other, and is said of it alone. */
export interface ItemOfMany extends Omit<EvaluatedItem, 'document' | 'facts'> {
  /** Null where there is nothing of it. */
  document: Document | null
  facts: TogetherFacts | null
}

/**
 * Every item of a crate, run and checked, the broken ones told.
 * @param onItem told of each before it begins
 * @throws StoppedError when the modder stopped it
 */
export async function evaluateItems(
  crate: Crate,
  options: EvaluateOptions,
  onItem: (item: CrateItem) => void = () => undefined,
): Promise<ItemOfMany[]> {
  const names = gameNames(crate.items, crate.rulebook)
  const slots = giveSlots(crate.items, crate.rulebook)
  const evaluated: ItemOfMany[] = []
  const items = crate.items.filter(({ id }) => options.wanted?.includes(names.get(id) ?? id) ?? true)
  for (const [index, item] of items.entries()) {
    onItem(item)
    // Each item is as much of the whole as every other.
    const onProgress: RunOptions['onProgress'] = (progress) =>
      options.onProgress?.({ ...progress, fraction: (index + progress.fraction) / items.length })
    try {
      evaluated.push(
        await evaluateItem(item, crate, {
          ...options,
          onProgress,
          itemName: names.get(item.id),
          slot: slots.get(item.id),
        }),
      )
    } catch (error) {
      if (error instanceof StoppedError) throw error
      evaluated.push({
        item,
        document: null,
        facts: null,
        key: '',
        outcomes: [],
        gauges: [],
        findings: judge([unreadable(item, error)], []),
      })
    }
  }
  return withTogether(evaluated, crate.rulebook)
}

/** Items with what only shows when they are looked at together. */
function withTogether(items: ItemOfMany[], rulebook: Rulebook): ItemOfMany[] {
  const together = togetherFaults(
    items.flatMap(({ facts }) => facts ?? []),
    rulebook,
  )
  return items.map((each) => {
    const more = together.get(each.facts?.name ?? '')
    return more ? { ...each, findings: worstFirst([...each.findings, ...judge(more, each.item.waivers)]) } : each
  })
}

const unreadable = (item: CrateItem, error: unknown): Finding => ({
  rule: 'item-unreadable',
  severity: 'blocks',
  stage: 'intake',
  title: 'The item cannot be read',
  where: item.name,
  place: nowhere,
  value: 'nothing of it',
  limit: 'an item',
  message: plainMessage(error),
  why: 'Without its source there is nothing to pack; the other items of the crate go on without it.',
  mend: null,
})

/** What the game would say of a run's result, and that a step did not work where one did not. */
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

/** The slot of an item by itself. */
export const ownSlot = (item: Pick<CrateItem, 'id' | 'kind' | 'slot'>, rulebook: Rulebook): string | null =>
  giveSlots([item], rulebook).get(item.id) ?? null

export interface PackedCrate {
  pack: Pack
  /** What its manifest says of it as a whole. */
  head: PackHead
  items: ItemOfMany[]
  /** Open findings that block, over all items. */
  blocks: number
}

/**
 * Evaluates every item of a crate and packs the results, blocked or not; what cannot be read is left out, and blocks.
 */
export async function packCrate(
  crate: Crate,
  options: EvaluateOptions & { onPacking?: (fraction: number, doing: string) => Promise<void> },
): Promise<PackedCrate> {
  const { rulebook } = crate
  const items = await evaluateItems(crate, options)
  const names = gameNames(crate.items, rulebook)
  const slots = giveSlots(crate.items, rulebook)
  const packable = items.flatMap(({ item, document }) =>
    document
      ? [{ name: names.get(item.id) ?? item.id, slot: slots.get(item.id), kind: kindOf(rulebook, item.kind), document }]
      : [],
  )
  const pack = await packItems(packable, rulebook, crate.name, options.onPacking)
  return {
    pack,
    head: { title: crate.name, items: packable.map(({ name, kind }) => ({ name, kind: kind.id })) },
    items,
    blocks: items.reduce((sum, each) => sum + countOpen(each.findings).blocks, 0),
  }
}
