import { matchesWhole } from '../support/pattern.ts'
import { fillTemplate } from '../support/templates.ts'
import type { Rulebook } from './schema.ts'

/**
 * Whether a name is one the game accepts.
 *
 * @example if (!isGameName(rulebook, node.getName())) wrong.push(node)
 */
export function isGameName(rulebook: Rulebook, name: string): boolean {
  const { pattern, longest, reserved } = rulebook.names
  return name.length <= longest && matchesWhole(pattern, name) && !reserved.includes(name)
}

/**
 * A name for a solid: `solid_box_01`.
 * @example solidName(rulebook, 'box', 1)
 */
export const solidName = (rulebook: Rulebook, shape: string, number: number): string =>
  fillTemplate(rulebook.solids.name, { shape, nn: String(number).padStart(2, '0') })

/**
 * What the name of a level ends with in the game: “_L2”.
 * @example const name = `${part.name}${levelSuffix(rulebook, 2)}`
 */
export const levelSuffix = (rulebook: Rulebook, level: number): string =>
  fillTemplate(rulebook.levels.nameSuffix, { level: String(level) })
