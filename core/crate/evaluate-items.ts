import type { Document } from '@gltf-transform/core'
import { togetherFaults } from '../game/catalogue/together.ts'
import type { TogetherFacts } from '../game/catalogue/together-facts.ts'
import type { Game } from '../game/game.ts'
import type { Rulebook } from '../game/schema.ts'
import { giveSlots } from '../game/slots.ts'
import { nowhere, worstFirst, type Finding } from '../rules/rule.ts'
import { plainMessage } from '../support/plain-error.ts'
import { StoppedError, type RunOptions } from '../worklist/run.ts'
import { evaluateItem, type EvaluatedItem, type EvaluateOptions } from './evaluate.ts'
import { gameNames } from './game-names.ts'
import type { Crate, CrateItem } from './schema.ts'
import { judge } from './waivers.ts'

/** What is known of an item of several; one that cannot be read or run at all holds up no other. */
export interface ItemReport extends Omit<EvaluatedItem, 'document' | 'facts'> {
  /** Null where there is nothing of it. */
  facts: TogetherFacts | null
}

/** An item of a crate with what it is called beside the others, and where it stands. */
export interface NamedItem {
  item: CrateItem
  itemName: string
  slot: string | null | undefined
}

/**
 * @param wanted names in the game; all items when left out
 * @example for (const { itemName, item } of namedItems(crate, ['boathouse_gate'])) report(itemName, item)
 */
export function namedItems({ items, rulebook }: Crate, wanted?: readonly string[]): NamedItem[] {
  const names = gameNames(items, rulebook)
  const slots = giveSlots(items, rulebook)
  return items
    .map((item) => ({ item, itemName: names.get(item.id) ?? item.id, slot: slots.get(item.id) }))
    .filter(({ itemName }) => wanted?.includes(itemName) ?? true)
}

/**
 * One of a crate's items, run and checked; one that is broken is told.
 * @param take is given what came of it before it is let go
 * @throws StoppedError when the modder stopped it
 *
 * @example const report = await reportOn(named, game, options)
 */
export async function reportOn(
  { item, itemName, slot }: NamedItem,
  game: Game,
  options: EvaluateOptions,
  take: (document: Document) => Promise<void> = async () => undefined,
): Promise<ItemReport> {
  try {
    const { document, ...report } = await evaluateItem(item, game, { ...options, itemName, slot })
    await take(document)
    return report
  } catch (error) {
    if (error instanceof StoppedError) throw error
    const findings = judge([unreadable(item, error)], [])
    return { item, facts: null, key: '', outcomes: [], gauges: [], findings }
  }
}

/**
 * Every item of a crate, run and checked one after the other.
 * @param onItem told of each before it begins
 * @throws StoppedError when the modder stopped it
 *
 * @example const reports = await evaluateItems(crate, options, ({ name }) => console.log(name))
 */
export async function evaluateItems(
  crate: Crate,
  options: EvaluateOptions,
  onItem: (item: CrateItem) => void = () => undefined,
): Promise<ItemReport[]> {
  const items = namedItems(crate)
  const reports: ItemReport[] = []
  for (const [index, named] of items.entries()) {
    onItem(named.item)
    reports.push(await reportOn(named, crate, { ...options, onProgress: shareOf(options, index, items.length) }))
  }
  return withTogether(reports, crate.rulebook)
}

/**
 * Progress of one of many: each is as much of the whole as every other.
 * @example const onProgress = shareOf(options, index, items.length)
 */
export const shareOf =
  ({ onProgress }: EvaluateOptions, index: number, count: number): RunOptions['onProgress'] =>
  (progress) =>
    onProgress?.({ ...progress, fraction: (index + progress.fraction) / count })

/**
 * Reports with what only shows when items are looked at together.
 * @example const reports = withTogether(await Promise.all(items.map(reportOf)), rulebook)
 */
export function withTogether(reports: readonly ItemReport[], rulebook: Rulebook): ItemReport[] {
  const together = togetherFaults(
    reports.flatMap(({ facts }) => facts ?? []),
    rulebook,
  )
  return reports.map((each) => {
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
