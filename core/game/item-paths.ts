import { pathSafe } from '../support/paths.ts'
import type { Kind, Rulebook } from './schema.ts'

/** A path of which each step is safe: where materials are named by paths, their files lie there. */
const safePath = (path: string): string => path.split('/').map(pathSafe).join('/')

/** What stands for an item in templates; without a slot a dash, so that it is seen that one is missing. */
const itemWords = (kind: Kind, item: string, slot: string | null): Record<string, string> => ({
  category: kind.category,
  item,
  slot: slot ?? '-',
  SLOT: slot?.toUpperCase() ?? '-',
})

/**
 * Fills the rulebook's path templates for one item.
 * @param slot of the game's list that it stands in for; null where the game has none, or none is free
 *
 * @example itemPaths(rulebook, kind, 'gate', null).mesh
 */
export function itemPaths(rulebook: Rulebook, kind: Kind, itemName: string, slot: string | null) {
  const { paths } = rulebook.files
  const named = rulebook.materials.naming
  const fill = (template: string, words: Record<string, string>): string =>
    Object.entries({ ...itemWords(kind, itemName, slot), ...words }).reduce(
      (path, [word, value]) =>
        path.replaceAll(`{${word}}`, (word === 'material' && named.form === 'path' ? safePath : pathSafe)(value)),
      template,
    )
  return {
    mesh: fill(paths.mesh, {}),
    /** The mesh file of one of several models: its name follows the item's. */
    model: (model: string): string => fill(paths.mesh, {}).replace(/(\.[^./]*)$/, `_${pathSafe(model)}$1`),
    material: (material: string): string => fill(paths.material ?? '{material}.txt', { material }),
    entry: fill(paths.entry, {}),
    look: (look: string): string => fill(paths.look, { look }),
    /** A map keeps its own ending, so that a file is never called what it is not. */
    map: (map: string, ending: string): string => fill(paths.map, { map }).replace(/\.[^./]*$/, `.${ending}`),
  }
}

export type ItemPaths = ReturnType<typeof itemPaths>
