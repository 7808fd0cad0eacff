import type { Material } from '@gltf-transform/core'
import { getMaterialExtras } from '../item/extras.ts'
import { presentMaps } from './map-roles.ts'
import { materialTag } from './material-tag.ts'
import type { Rulebook } from './schema.ts'

/**
 * How a material of the mesh is shaded where a look shows another in its place: as was chosen for either, else by what
 * there is.
 *
 * @example const model = shadingOf(surface.getMaterial(), materialInLook(surface, look), rulebook)
 */
export const shadingOf = (own: Material, shown: Material, rulebook: Rulebook): string =>
  getMaterialExtras(shown).shadingModel ??
  getMaterialExtras(own).shadingModel ??
  shadingModelFor(rulebook, roleNames(shown, rulebook), materialTag(own, rulebook).flags)

/**
 * The names of the roles for which a material has a map.
 * @example const maps = roleNames(material, rulebook)
 */
export const roleNames = (material: Material, rulebook: Rulebook): string[] =>
  presentMaps(material, rulebook).map(({ role }) => role)

/**
 * The shading model for the maps and flags a material has: the one that a flag asks for, else the first that fits, else
 * the first.
 *
 * @example const model = shadingModelFor(rulebook, roleNames(material, rulebook), tag.flags)
 */
export function shadingModelFor(rulebook: Rulebook, present: readonly string[], flags: readonly string[]): string {
  const models = rulebook.materials.shadingModels
  const byFlag = models.find(({ flag }) => flag !== null && flags.includes(flag))
  if (byFlag) return byFlag.name
  const fits = models.find(
    (model) =>
      model.flag === null &&
      model.requires.every((role) => present.includes(role)) &&
      !model.forbids.some((role) => present.includes(role)),
  )
  return (fits ?? models[0])?.name ?? ''
}
