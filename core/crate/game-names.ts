import { cleanName, uniqueName } from '../game/clean-name.ts'
import type { Rulebook } from '../game/schema.ts'
import type { CrateItem } from './schema.ts'

/**
 * What an item is called in the game when no other is called alike.
 * @example const path = `out/${gameName(item, rulebook)}.zip`
 */
export const gameName = ({ name }: Pick<CrateItem, 'name'>, rulebook: Rulebook): string =>
  cleanName(rulebook, name, 'item')

/**
 * The names that a crate's items have in the game: clean, different from each other and from what the game has under a
 * name of its own.
 *
 * @example const name = gameNames(crate.items, rulebook).get(item.id)
 */
export function gameNames(items: readonly Pick<CrateItem, 'id' | 'name'>[], rulebook: Rulebook): Map<string, string> {
  const taken = new Set(rulebook.stock.entries.map(({ id }) => id))
  const names = new Map<string, string>()
  for (const item of items) {
    const name = uniqueName(rulebook, gameName(item, rulebook), taken)
    taken.add(name)
    names.set(item.id, name)
  }
  return names
}
