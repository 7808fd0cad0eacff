import type { Kind, Rulebook } from './schema.ts'

/** A name made safe for a path of an archive, whatever stands in it. */
const pathSafe = (name: string): string => name.replace(/[\\/:*?"<>|\u0000-\u001f]/g, '_').replace(/^\.+/, '_') || '_'

/** Fills the rulebook's path templates for one item. */
export function itemPaths(rulebook: Rulebook, kind: Kind, itemName: string) {
  const { paths } = rulebook.files
  const fill = (template: string, words: Record<string, string>): string =>
    Object.entries({ category: kind.category, item: itemName, ...words }).reduce(
      (path, [word, value]) => path.replaceAll(`{${word}}`, pathSafe(value)),
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
