import type { ExtensibleProperty, Material } from '@gltf-transform/core'
import { getMaterialExtras } from '../item/extras.ts'
import { isGameMapRole } from '../item/map-roles.ts'
import { materialMap } from '../item/source-maps.ts'
import { parseMaterialTag } from './names.ts'
import type { Rulebook } from './schema.ts'

export type MapRoleName = Rulebook['maps']['roles'][number]['role']

/** The roles for which a material has a map, of its own or of the game's. */
export function presentMaps(material: Material): MapRoleName[] {
  const stock = stockMaps(material)
  const present: MapRoleName[] = []
  if (material.getBaseColorTexture() || stock.colour) present.push('colour')
  if (material.getNormalTexture() || stock.normal) present.push('normal')
  if (materialMap(material, 'mixed') || stock.mixed) present.push('mixed')
  return present
}

/** For each role the game's own texture that was chosen, where one was. */
export function stockMaps(material: ExtensibleProperty): Partial<Record<MapRoleName, string>> {
  const chosen: Partial<Record<MapRoleName, string>> = {}
  for (const { role, stock } of getMaterialExtras(material).references)
    if (stock !== undefined && isGameMapRole(role)) chosen[role] ??= stock
  return chosen
}

/** How a material of the mesh is shaded where a look shows another in its place: as was chosen for either, else by what there is. */
export const shadingOf = (own: Material, shown: Material, rulebook: Rulebook): string =>
  getMaterialExtras(shown).shadingModel ??
  getMaterialExtras(own).shadingModel ??
  shadingModelFor(rulebook, presentMaps(shown), parseMaterialTag(rulebook, own.getName()).flags)

/** The shading model for the maps and flags a material has: `flat` by its flag, else the first that fits, else the first. */
export function shadingModelFor(rulebook: Rulebook, present: readonly MapRoleName[], flags: readonly string[]): string {
  const models = rulebook.materials.shadingModels
  const byFlag = models.find((model) => flags.includes(model.name))
  if (byFlag) return byFlag.name
  const fits = models.find(
    (model) =>
      model.requires.every((role) => present.includes(role)) && !model.forbids.some((role) => present.includes(role)),
  )
  return (fits ?? models[0]).name
}
