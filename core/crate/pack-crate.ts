import { kindOf } from '../game/load.ts'
import type { Game } from '../game/game.ts'
import { packReady, readyItem, type ReadyItem } from '../pack/pack-crate.ts'
import type { Pack, PackHead } from '../pack/pack-files.ts'
import type { EvaluateOptions } from './evaluate.ts'
import { namedItems, reportOn, shareOf, withTogether, type ItemReport, type NamedItem } from './evaluate-items.ts'
import type { Crate } from './schema.ts'
import { countOpen } from './waivers.ts'

/** One item of a crate, checked and ready to be packed. */
export interface PackedOne {
  report: ItemReport
  /** Null where it cannot be read. */
  ready: ReadyItem | null
}

export interface PackedCrate {
  pack: Pack
  /** What its manifest says of it as a whole. */
  head: PackHead
  items: ItemReport[]
  /** Open findings that block, over all items. */
  blocks: number
}

/**
 * Runs, checks and writes one item; of it only its files and its report are kept.
 * @example const one = await packOne(named, game, options)
 */
export async function packOne(named: NamedItem, game: Game, options: EvaluateOptions): Promise<PackedOne> {
  let ready: ReadyItem | null = null
  const report = await reportOn(named, game, options, async (document) => {
    const kind = kindOf(game.rulebook, named.item.kind)
    ready = await readyItem({ name: named.itemName, slot: named.slot, kind, document }, game.rulebook)
  })
  return { report, ready }
}

/**
 * Puts items that were packed one by one together, in their order.
 * @throws PlainError when two items want different files at one path
 *
 * @example const { pack } = togetherPacked(ones, crate)
 */
export function togetherPacked(ones: readonly PackedOne[], { rulebook, name: title }: Crate): PackedCrate {
  const ready = ones.flatMap((one) => one.ready ?? [])
  const items = withTogether(
    ones.map(({ report }) => report),
    rulebook,
  )
  return {
    pack: packReady(ready, rulebook, title),
    head: { title, items: ready.map(({ name, kind }) => ({ name, kind })) },
    items,
    blocks: items.reduce((sum, each) => sum + countOpen(each.findings).blocks, 0),
  }
}

/**
 * Evaluates every item of a crate and packs the results, blocked or not; what cannot be read is left out, and blocks.
 * @throws StoppedError when the modder stopped it
 *
 * @example const { pack, blocks } = await packCrate(crate, { store: noStore, bytesOf })
 */
export async function packCrate(crate: Crate, options: EvaluateOptions): Promise<PackedCrate> {
  const items = namedItems(crate)
  const ones: PackedOne[] = []
  for (const [index, named] of items.entries())
    ones.push(await packOne(named, crate, { ...options, onProgress: shareOf(options, index, items.length) }))
  return togetherPacked(ones, crate)
}
