import { readArchive } from '../support/archive.ts'
import { PlainError } from '../support/plain-error.ts'
import { parseRulebook, rulebookById } from '../game/load.ts'
import { gameWith, shippedStock, type BroughtGame } from './brought-game.ts'

const RULEBOOK = 'rulebook.json'
const STOCK = 'stock.zip'

/** A built-in game, with what it has in stock. @throws PlainError when no game has that id */
export async function builtInGame(id: string): Promise<BroughtGame> {
  const rulebook = rulebookById(id)
  return gameWith(rulebook, await shippedStock(rulebook))
}

/**
 * A game that somebody brought: its rulebook as JSON, or a ZIP that holds it as `rulebook.json` and what the game has
 * in stock as `stock.zip`, a pack in the game's own form.
 * @throws PlainError that names the first place that is wrong
 */
export function readGameFile(bytes: Uint8Array, name: string): BroughtGame {
  const isZip = bytes[0] === 0x50 && bytes[1] === 0x4b
  if (!isZip) return gameWith(parseRulebook(new TextDecoder().decode(bytes), name), null)
  const files = readArchive(bytes, name)
  const text = files.get(RULEBOOK)
  if (!text) throw new PlainError(`it holds no ${RULEBOOK}`, name, `Put the rulebook into it as ${RULEBOOK}.`)
  return gameWith(parseRulebook(new TextDecoder().decode(text), `${name}/${RULEBOOK}`), files.get(STOCK) ?? null)
}
