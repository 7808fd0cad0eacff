import type { Rulebook } from './schema.ts'

/** Whether a name is one the game accepts. */
export function isGameName(rulebook: Rulebook, name: string): boolean {
  const { pattern, longest, reserved } = rulebook.names
  return name.length <= longest && new RegExp(`^(?:${pattern})$`).test(name) && !reserved.includes(name)
}

/** A name for a solid: `solid_box_01`. */
export function solidName(rulebook: Rulebook, shape: string, number: number): string {
  return rulebook.solids.name.replace('{shape}', shape).replace('{nn}', String(number).padStart(2, '0'))
}

export const levelSuffix = (rulebook: Rulebook, level: number): string =>
  rulebook.levels.nameSuffix.replace('{level}', String(level))
