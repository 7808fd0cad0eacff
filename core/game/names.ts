import type { Rulebook } from './schema.ts'

/** Whether a name is one the game accepts. */
export function isGameName(rulebook: Rulebook, name: string): boolean {
  const { pattern, longest, reserved } = rulebook.names
  return name.length <= longest && new RegExp(`^(?:${pattern})$`).test(name) && !reserved.includes(name)
}

/** A material's name taken apart: `name@surface.flag.flag`. */
export interface MaterialTag {
  base: string
  surface: string | null
  flags: string[]
}

/** Reads a tag by the rulebook's marks; a name without the surface mark has no surface and no flags. */
export function parseMaterialTag(rulebook: Rulebook, name: string): MaterialTag {
  const { surfaceMark, flagMark } = rulebook.materials.tag
  const at = name.indexOf(surfaceMark)
  if (at < 0) return { base: name, surface: null, flags: [] }
  const [surface, ...flags] = name.slice(at + 1).split(flagMark)
  return { base: name.slice(0, at), surface, flags }
}

export function formatMaterialTag(rulebook: Rulebook, tag: MaterialTag): string {
  const { surfaceMark, flagMark } = rulebook.materials.tag
  if (tag.surface === null) return tag.base
  return [tag.base + surfaceMark + tag.surface, ...tag.flags].join(flagMark)
}

/** A name for a solid: `solid_box_01`. */
export function solidName(rulebook: Rulebook, shape: string, number: number): string {
  return rulebook.solids.name.replace('{shape}', shape).replace('{nn}', String(number).padStart(2, '0'))
}

export const levelSuffix = (rulebook: Rulebook, level: number): string =>
  rulebook.levels.nameSuffix.replace('{level}', String(level))

/** Whether a material's name says what it is made of. */
export const isTaggedName = (materialName: string): boolean => materialName.includes('@')

/** Whether a material's tag carries the flag for drawing from both sides. */
export const isTwoSidedName = (materialName: string): boolean => /[@.](?:[a-z]+\.)*both(?:\.|$)/.test(materialName)
