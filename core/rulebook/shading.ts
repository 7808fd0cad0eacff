import type { Rulebook } from './schema.ts'

/** What of a material matters for its shading: whatever has these three getters will do. */
interface MapHolder {
  getBaseColorTexture: () => unknown
  getNormalTexture: () => unknown
  getMetallicRoughnessTexture: () => unknown
}

export type MapRoleName = Rulebook['maps']['roles'][number]['role']

/** The roles for which a material has a map. */
export function presentMaps(material: MapHolder): MapRoleName[] {
  const present: MapRoleName[] = []
  if (material.getBaseColorTexture()) present.push('colour')
  if (material.getNormalTexture()) present.push('normal')
  if (material.getMetallicRoughnessTexture()) present.push('mixed')
  return present
}

/** The shading model for the maps and flags a material has: `flat` by its flag, else the first that fits, else the first. */
export function shadingModelFor(rulebook: Rulebook, present: readonly MapRoleName[], flags: readonly string[]): string {
  const models = rulebook.materials.shadingModels
  const byFlag = models.find((model) => flags.includes(model.name))
  if (byFlag) return byFlag.name
  const fits = models.find((model) => model.requires.every((role) => present.includes(role)) && !model.forbids.some((role) => present.includes(role)))
  return (fits ?? models[0]).name
}
