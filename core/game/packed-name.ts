import type { Material } from '@gltf-transform/core'
import { materialMap } from '../item/source-maps.ts'
import type { ItemPaths } from './item-paths.ts'
import { keyOf, roleNamed, stockMaps } from './map-roles.ts'
import { materialTag, writtenName } from './material-tag.ts'
import type { Rulebook } from './schema.ts'

const withoutEnding = (path: string): string => path.replace(/\.[^./]*$/, '')

/**
 * The path of the map that a material is named after, without ending, in a game that finds what to show by the name
 * alone.
 * @returns null where materials are not named by paths, or this one shows no such map
 *
 * @example const name = pathName(material, rulebook, itemPaths) ?? material.getName()
 */
export function pathName(material: Material, rulebook: Rulebook, paths: ItemPaths): string | null {
  const { naming } = rulebook.materials
  const role = naming.form === 'path' ? roleNamed(naming.ofRole, rulebook) : null
  if (!role) return null
  const own = stockMaps(material, rulebook).get(role.role)
  const texture = materialMap(material, keyOf(role, rulebook))
  if (own !== undefined) return withoutEnding(own)
  return texture ? withoutEnding(paths.map(texture.getName(), rulebook.files.texture.writer)) : null
}

/**
 * A material's name in the game's files: its own name with its tag, or a path; one without the map that it should be
 * named after keeps its own.
 *
 * @example for (const material of materials) material.setName(packedName(material, rulebook, itemPaths))
 */
export const packedName = (material: Material, rulebook: Rulebook, paths: ItemPaths): string =>
  pathName(material, rulebook, paths) ?? writtenName(rulebook, materialTag(material, rulebook))
