import type { Document } from '@gltf-transform/core'
import type { ItemPaths } from '../game/item-paths.ts'
import { materialTag } from '../game/material-tag.ts'
import { isGameName } from '../game/names.ts'
import { packedName } from '../game/packed-name.ts'
import type { Rulebook } from '../game/schema.ts'
import { listSceneNodes, listUsedMaterials } from '../item/parts.ts'
import { getNodeExtras } from '../item/extras.ts'
import { writtenMaterialName, writtenNodeName } from '../item/written-name.ts'
import type { PathRow } from './path-row.ts'

/** Parts of an item that are told by name at most: beyond it the rest is as the first ones are. */
const MOST_NAMES = 2000

/**
 * Names of parts, groups and materials, as the source wrote them and as they are packed.
 * @param result the item after its last step
 * @param paths where its files lie in a pack, for games that name a material by the path of what it shows
 *
 * @example nameRows({ id, item: 'Gate' }, document, rulebook, paths).filter(({ trouble }) => trouble === 'not a name')
 */
export function nameRows(
  of: Pick<PathRow, 'id' | 'item'>,
  result: Document,
  rulebook: Rulebook,
  paths: ItemPaths,
): PathRow[] {
  const nodes = listSceneNodes(result).filter((node) => {
    const { role, group } = getNodeExtras(node)
    return role === 'part' && (node.getMesh() !== null || group !== undefined)
  })
  const counts = new Map<string, number>()
  for (const node of nodes) counts.set(node.getName(), (counts.get(node.getName()) ?? 0) + 1)
  const named = { ...of, found: null, stock: null }
  const parts = nodes.slice(0, MOST_NAMES).map((node): PathRow => {
    const name = node.getName()
    const trouble = !isGameName(rulebook, name) ? 'not a name' : (counts.get(name) ?? 0) > 1 ? 'doubled' : null
    const asks = node.getMesh() === null ? 'group' : 'part'
    return { ...named, sort: 'part', asks, written: writtenNodeName(node), packed: [name], trouble }
  })
  const byPath = rulebook.materials.naming.form === 'path'
  const materials = listUsedMaterials(result).map((material): PathRow => {
    const accepted = byPath || isGameName(rulebook, materialTag(material, rulebook).base)
    return {
      ...named,
      sort: 'material',
      asks: 'material',
      written: writtenMaterialName(material),
      packed: [packedName(material, rulebook, paths)],
      trouble: accepted ? null : 'not a name',
    }
  })
  return [...parts, ...materials]
}
