import type { Document, Material } from '@gltf-transform/core'
import { KHRMaterialsUnlit } from '@gltf-transform/extensions'
import { getMaterialExtras, setMaterialExtras } from '../item/extras.ts'
import type { FlagMeaning } from './schema-surface.ts'
import type { Rulebook } from './schema.ts'

/**
 * What the game is told of a material: its name without any tag, what it is made of, and the flags it is drawn with.
 */
export interface MaterialTag {
  base: string
  surface: string | null
  flags: string[]
}

/**
 * Reads a name as the game's files have it. Where names carry no tag it has neither surface nor flags.
 * @example readWrittenName(rulebook, 'sail@cloth.both') // { base: 'sail', surface: 'cloth', flags: ['both'] }
 */
export function readWrittenName(rulebook: Rulebook, name: string): MaterialTag {
  const { naming } = rulebook.materials
  const at = naming.form === 'marks' ? name.indexOf(naming.surfaceMark) : -1
  if (naming.form !== 'marks' || at < 0) return { base: name, surface: null, flags: [] }
  const [surface, ...flags] = name.slice(at + 1).split(naming.flagMark)
  return { base: name.slice(0, at), surface, flags }
}

/**
 * A tag as the game's files write it: behind the name where the rulebook has marks, else the name alone.
 * @example writtenName(rulebook, { base: 'sail', surface: 'cloth', flags: ['both'] }) // 'sail@cloth.both'
 */
export function writtenName(rulebook: Rulebook, { base, surface, flags }: MaterialTag): string {
  const { naming } = rulebook.materials
  if (naming.form !== 'marks' || surface === null) return base
  return [base + naming.surfaceMark + surface, ...flags].join(naming.flagMark)
}

/**
 * A material's tag: what was said of it, else what its source wrote into its name in the game's own way.
 *
 * @example const { base, surface, flags } = materialTag(material, rulebook)
 */
export function materialTag(material: Material, rulebook: Rulebook): MaterialTag {
  const { tag } = getMaterialExtras(material)
  return tag ? { base: material.getName(), ...tag } : readWrittenName(rulebook, material.getName())
}

/**
 * A material's name without its tag: what steps, messages and settings call it by.
 *
 * @example const base = baseNameOf(material, rulebook)
 */
export const baseNameOf = (material: Material, rulebook: Rulebook): string => materialTag(material, rulebook).base

/**
 * What a material is said to be made of; null when nothing says it, or there is none.
 *
 * @example const surface = surfaceOf(primitive.getMaterial(), rulebook)
 */
export const surfaceOf = (material: Material | null, rulebook: Rulebook): string | null =>
  material && materialTag(material, rulebook).surface

/**
 * Tags a material. How it is drawn in our own pictures follows the flags' meanings.
 *
 * @example setMaterialTag(document, material, { ...materialTag(material, rulebook), surface }, rulebook)
 */
export function setMaterialTag(
  document: Document,
  material: Material,
  { base, surface, flags }: MaterialTag,
  rulebook: Rulebook,
): void {
  material.setName(base)
  setMaterialExtras(material, { ...getMaterialExtras(material), tag: { surface, flags } })
  drawByFlags(document, material, flags, rulebook)
}

/**
 * Sets how a material is drawn in our own pictures from what its flags mean.
 * @example drawByFlags(document, material, ['both'], rulebook)
 */
export function drawByFlags(
  document: Document,
  material: Material,
  flags: readonly string[],
  rulebook: Rulebook,
): void {
  const has = (means: FlagMeaning): boolean => hasFlag(flags, means, rulebook)
  material.setDoubleSided(has('two-sided')).setAlphaMode(has('cut-out') ? 'MASK' : has('blended') ? 'BLEND' : 'OPAQUE')
  if (has('unlit'))
    material.setExtension('KHR_materials_unlit', document.createExtension(KHRMaterialsUnlit).createUnlit())
}

/**
 * The game's word for a meaning; null where it has no such flag.
 *
 * @example const flag = flagFor(rulebook, 'two-sided')
 */
export const flagFor = (rulebook: Rulebook, means: FlagMeaning): string | null =>
  rulebook.materials.flags.find((flag) => flag.means === means)?.name ?? null

/**
 * Whether some flags of a game's say a thing.
 * @example hasFlag(['both'], 'two-sided', rulebook) // true
 */
export const hasFlag = (flags: readonly string[], means: FlagMeaning, rulebook: Rulebook): boolean =>
  rulebook.materials.flags.some((flag) => flag.means === means && flags.includes(flag.name))

/**
 * The flags of a game that say some of these things, in the rulebook's order.
 * @example flagsFor(rulebook, ['two-sided']) // ['both']
 */
export const flagsFor = (rulebook: Rulebook, means: readonly FlagMeaning[]): string[] =>
  rulebook.materials.flags.flatMap((flag) => (flag.means !== null && means.includes(flag.means) ? [flag.name] : []))

/**
 * Tags written into names, in the game's own way, become tags: for what comes out of a pack or a stock.
 * @example readWrittenTags(await openMesh(mesh, rulebook), rulebook)
 */
export function readWrittenTags(document: Document, rulebook: Rulebook): void {
  for (const material of document.getRoot().listMaterials()) {
    const tag = readWrittenName(rulebook, material.getName())
    if (tag.surface !== null) setMaterialTag(document, material, tag, rulebook)
  }
}
