import { readArchive, writeArchive } from '../support/archive.ts'
import type { Rulebook } from '../game/schema.ts'
import { PlainError } from '../support/plain-error.ts'
import { parseRulebook, rulebookById } from '../game/load.ts'
import { gameWith, shippedStock, type BroughtGame } from './brought-game.ts'

const RULEBOOK = 'rulebook.json'
const STOCK = 'stock.zip'

/**
 * A built-in game, with what it has in stock. @throws PlainError when no game has that id
 * @example const { game } = await builtInGame('tarn-and-tiller')
 */
export async function builtInGame(id: string): Promise<BroughtGame> {
  const rulebook = rulebookById(id)
  return gameWith(rulebook, await shippedStock(rulebook))
}

/**
 * A game that somebody brought: its rulebook as JSON, or a ZIP that holds it as `rulebook.json` and what the game has
 * in stock as `stock.zip`, a pack in the game's own form.
 * @throws PlainError that names the first place that is wrong
 *
 * @example const { game, stock } = readGameFile(bytes, 'mygame.zip')
 */
export function readGameFile(bytes: Uint8Array, name: string): BroughtGame {
  const isZip = bytes[0] === 0x50 && bytes[1] === 0x4b
  if (!isZip) return gameWith(parseRulebook(new TextDecoder().decode(bytes), name), null)
  const files = readArchive(bytes, name)
  const text = files.get(RULEBOOK)
  if (!text) throw new PlainError(`it holds no ${RULEBOOK}`, name, `Put the rulebook into it as ${RULEBOOK}.`)
  return gameWith(parseRulebook(new TextDecoder().decode(text), `${name}/${RULEBOOK}`), files.get(STOCK) ?? null)
}

/**
 * A game as one file, which `readGameFile` takes: its rulebook, and what it has in stock beside it.
 *
 * @example writeFileSync('marsh-post.zip', writeGameFile(await builtInGame('tarn-and-tiller')))
 */
export function writeGameFile({ game, stock }: BroughtGame): Uint8Array {
  return writeArchive(
    [
      { path: RULEBOOK, bytes: new TextEncoder().encode(rulebookText(game.rulebook)) },
      ...(stock ? [{ path: STOCK, bytes: stock }] : []),
    ],
    'zip-deflated',
  )
}

/**
 * A rulebook as people read and change it.
 *
 * @example writeFileSync('mygame.json', rulebookText(rulebook))
 */
export const rulebookText = (rulebook: Rulebook): string => `${JSON.stringify(rulebook, null, 2)}\n`

/**
 * A rulebook to begin one's own game with: everything as in another, but for its name. What that game has in stock is
 * its own and stays behind.
 * @throws PlainError when the id is none
 *
 * @example startRulebookFrom(rulebook, 'reed-harbour', 'Reed Harbour').title // 'Reed Harbour'
 */
export function startRulebookFrom(rulebook: Rulebook, id: string, title: string): Rulebook {
  const begun = { ...rulebook, id, title, version: '0.1', stock: { donors: [], objects: [], textures: [] } }
  return parseRulebook(JSON.stringify(begun), id)
}
