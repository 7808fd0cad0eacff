import type { Document } from '@gltf-transform/core'
import { axesTurn, WORKING_FORWARD, WORKING_UP } from '../maths/axes.ts'
import { copyDocument } from '../item/io.ts'
import { getRootExtras } from '../item/extras.ts'
import { boundsSize, partsBounds } from '../item/measure.ts'
import { listViewParts } from '../item/parts.ts'
import { metresOrLikely } from '../item/units.ts'
import { changeBasis } from '../geometry/mesh/change-basis.ts'
import { compareWithOfficial, type OfficialComparison } from '../intake/compare/against-official.ts'
import type { Kind, Rulebook } from '../game/schema.ts'
import type { OfficialWithin } from '../operations/context.ts'
import { stockObject, type BytesOf } from './stock.ts'
import type { Game } from '../game/game.ts'

/**
 * Compares a source, as it came, with an official object of the game from stock: both are brought into the game's space
 * first.
 *
 * @example const { parts } = await compareWithStock(document, game, 'stove', bytesOf)
 */
export async function compareWithStock(
  source: Document,
  game: Game,
  stockId: string,
  bytesOf: BytesOf,
): Promise<OfficialComparison> {
  return compareWithOfficial(inGameSpace(source, game.rulebook), await stockObject(game, stockId, bytesOf))
}

/**
 * Compares a source with an official object that the modder brought, both by their own units and axes.
 * @example const { parts } = compareWithBrought(document, official, rulebook)
 */
export function compareWithBrought(source: Document, official: Document, rulebook: Rulebook): OfficialComparison {
  return compareWithOfficial(inGameSpace(source, rulebook), inGameSpace(official, rulebook))
}

/**
 * A copy in game units and the working space’s axes, whatever the source is in.
 *
 * @example inGameSpace(document, rulebook)
 */
export function inGameSpace(source: Document, rulebook: Rulebook): Document {
  const document = copyDocument(source)
  const { units, axes } = getRootExtras(document.getRoot())
  const longest = Math.max(...boundsSize(partsBounds(listViewParts(document))))
  changeBasis(
    document,
    axesTurn(axes.up, axes.forward, WORKING_UP, WORKING_FORWARD),
    metresOrLikely(units, longest) / rulebook.space.unit.metres,
  )
  return document
}

/** The parts of a scene that an official object does not have: what an addition is made of. */
export const newParts = (comparison: OfficialComparison): string[] =>
  comparison.parts.filter((part) => part.state === 'new').map((part) => part.name)

/**
 * The parts of a source that the game's own object has already, for a kind that adds to one: the stock object of that
 * role most of whose parts are in the source. Null where the kind adds to nothing, or the source holds none of it.
 *
 * @example const within = await officialWithin(document, game, kind, bytesOf)
 */
export async function officialWithin(
  source: Document,
  game: Game,
  kind: Kind,
  bytesOf: BytesOf,
): Promise<OfficialWithin | null> {
  const candidates = game.rulebook.stock.objects.filter(({ role }) => role === kind.addsTo)
  let best: OfficialWithin | null = null
  for (const { id, title } of candidates) {
    const comparison = await compareWithStock(source, game, id, bytesOf)
    const parts = comparison.parts.filter(({ state }) => state !== 'new').map(({ name }) => name)
    if (parts.length > (best?.parts.length ?? 0)) best = { title, parts }
  }
  return best
}
