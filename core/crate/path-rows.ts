import type { Document } from '@gltf-transform/core'
import { itemPaths } from '../game/item-paths.ts'
import { kindOf } from '../game/load.ts'
import { keyOf, packedRoles } from '../game/map-roles.ts'
import type { Rulebook } from '../game/schema.ts'
import { comparablePath } from '../intake/texture-search.ts'
import { fileName } from '../intake/source-file.ts'
import { getMaterialExtras, getTextureExtras, type TextureReference } from '../item/extras.ts'
import { listUsedMaterials } from '../item/parts.ts'
import { materialMap } from '../item/source-maps.ts'
import { isDiskPath } from '../support/paths.ts'
import type { NamedItem } from './evaluate-items.ts'
import { nameRows } from './name-rows.ts'
import type { PathRow, PathTrouble } from './path-row.ts'

/**
 * Every file that an item asks for, its mesh first, and the names of its parts and materials.
 * @param start the item before its first step
 * @param result the item after its last
 *
 * @example pathRows(named, start.document, result.document, rulebook).filter(({ trouble }) => trouble === 'missing')
 */
export function pathRows(
  { item, itemName, slot = null }: NamedItem,
  start: Document,
  result: Document,
  rulebook: Rulebook,
): PathRow[] {
  const kind = kindOf(rulebook, item.kind)
  const paths = itemPaths(rulebook, kind, itemName, slot)
  const meshes = Object.entries(item.models ?? { '': item.main }).map(([model, main]): PathRow => {
    const packed = kind.mesh === null ? [] : [model === '' ? paths.mesh : paths.model(model)]
    return {
      id: item.id,
      item: item.name,
      sort: 'mesh',
      asks: 'mesh',
      written: main,
      found: main,
      stock: null,
      packed,
      trouble: null,
    }
  })
  const maps = packedMaps(result, rulebook, paths.map)
  const references = listUsedMaterials(start).flatMap((material) =>
    getMaterialExtras(material).references.map((reference) => ({ material: material.getName(), reference })),
  )
  return [
    ...meshes,
    ...references.map(({ material, reference }): PathRow => {
      const { path, role, found, stock = null } = reference
      const own = maps.filter(({ written }) => written === path).map(({ path: packed }) => packed)
      // What was put together with others lies in a map that was made here.
      const madeOf =
        found !== null && own.length === 0 && role !== 'colour' && role !== 'normal'
          ? maps.filter(({ made }) => made).map(({ path: packed }) => packed)
          : []
      return {
        id: item.id,
        item: item.name,
        sort: 'picture',
        asks: `${material} · ${role}`,
        written: path,
        found,
        stock,
        packed: [...new Set(stock !== null ? [stock] : own.length > 0 ? own : madeOf)],
        trouble: troubleOf(reference, item.sources, item.reading.links),
      }
    }),
    ...nameRows({ id: item.id, item: item.name }, result, rulebook, paths),
  ]
}

interface PackedMap {
  path: string
  written: string | undefined
  /** Whether it is of a role that is put together of several pictures. */
  made: boolean
}

function packedMaps(
  document: Document,
  rulebook: Rulebook,
  pathOf: (map: string, ending: string) => string,
): PackedMap[] {
  const { writer } = rulebook.files.texture
  const together = packedRoles(rulebook)
  return listUsedMaterials(document).flatMap((material) =>
    rulebook.maps.roles.flatMap((role): PackedMap[] => {
      const texture = materialMap(material, keyOf(role, rulebook))
      if (!texture) return []
      const { written } = getTextureExtras(texture)
      return [{ path: pathOf(texture.getName(), writer), written, made: together.includes(role) }]
    }),
  )
}

function troubleOf(
  { path, found, stock, problem }: TextureReference,
  sources: readonly { path: string; sha256: string }[],
  links: Readonly<Record<string, string>>,
): PathTrouble | null {
  if (stock !== undefined) return null
  if (found === null) return 'missing'
  if (problem !== undefined) return 'unreadable'
  // Files of one name and other content: which is meant is told by their folders alone, unless somebody pointed to one.
  const name = fileName(comparablePath(path))
  const alike = sources.filter((source) => fileName(comparablePath(source.path)) === name)
  if (!(path in links) && new Set(alike.map(({ sha256 }) => sha256)).size > 1) return 'doubled'
  return isDiskPath(path) && !(path in links) ? 'own disk' : null
}
