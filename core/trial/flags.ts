import type { Rulebook } from '../game/schema.ts'

type Meaning = NonNullable<Rulebook['materials']['flags'][number]['means']>

/** What the loader takes out of a material's name, or leaves to its look: what it is made of and its flags. */
export interface WrittenMaterial {
  base: string
  surface: string | null
  flags: string[]
}

/**
 * A material's name as the rulebook has it written; a game whose names carry nothing is told by its looks.
 * @example takeApart('sail@cloth.both', rulebook)
 */
export function takeApart(name: string, rulebook: Rulebook): WrittenMaterial {
  const { naming } = rulebook.materials
  if (naming.form !== 'marks') return { base: name, surface: null, flags: [] }
  const [base, ...tag] = name.split(naming.surfaceMark)
  const [surface, ...flags] = tag.join(naming.surfaceMark).split(naming.flagMark)
  return { base, surface: tag.length === 0 ? null : surface, flags }
}

/**
 * Whether one of the flags says a thing in this game.
 * @example const isCutOut = says(material.flags, 'cut-out', rulebook)
 */
export const says = (flags: readonly string[], meaning: Meaning, rulebook: Rulebook): boolean =>
  flags.some((flag) => rulebook.materials.flags.find(({ name }) => name === flag)?.means === meaning)

/** The flags of a material by its name in the mesh file. */
export type FlagsOf = (name: string) => readonly string[]
