import { assetBytes } from '../support/asset-files.ts'
import { PlainError } from '../support/plain-error.ts'
import { sha256Hex } from '../support/hashing.ts'
import type { Game } from '../game/game.ts'
import { builtInIds, rulebookById } from '../game/load.ts'
import type { Rulebook } from '../game/schema.ts'

/** Whether a rulebook names anything that its game would have in stock. */
export const hasStock = ({ stock }: Rulebook): boolean => stock.objects.length > 0 || stock.textures.length > 0

/**
 * The stock that ships with a built-in game; null for a game that does not ship. Needed where a crate is begun.
 * @example const bytes = await shippedStock(rulebook)
 */
export async function shippedStock({ id }: Rulebook): Promise<Uint8Array | null> {
  return builtInIds.includes(id) && hasStock(rulebookById(id)) ? assetBytes(`stock/${id}`) : null
}

/** A game with the bytes of its stock, as it is when a crate is begun. */
export interface BroughtGame {
  game: Game
  stock: Uint8Array | null
}

/**
 * What is said where a rulebook names stock whose bytes are nowhere.
 * @example if (!bytes) throw stockIsMissing(rulebook)
 */
export const stockIsMissing = ({ title }: Rulebook): PlainError =>
  new PlainError(
    'what the game has in stock did not come with its rulebook',
    title,
    'Begin with a game file that holds its stock.',
  )

/**
 * Asked once where many items are begun, so that not each of them says it.
 * @throws PlainError when a rulebook names stock that did not come with it
 *
 * @example assertStock(readGameFile(bytes, 'mygame.json'))
 */
export function assertStock({ game: { rulebook }, stock }: BroughtGame): void {
  if (hasStock(rulebook) && stock === null) throw stockIsMissing(rulebook)
}

/**
 * A game as a value, and the bytes that have to be kept for it.
 * @example const { game } = gameWith(parseRulebook(text, 'mygame.json'), null)
 */
export const gameWith = (rulebook: Rulebook, stock: Uint8Array | null): BroughtGame => ({
  game: { rulebook, stock: stock && { sha256: sha256Hex(stock), bytes: stock.length } },
  stock,
})
