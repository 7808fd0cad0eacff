import type { GroupIs } from '../item/annotations/group/facts.ts'
import { fillTemplate, templatePattern } from '../support/templates.ts'
import { cleanName } from './clean-name.ts'
import type { Rulebook } from './schema.ts'

const kinds: readonly GroupIs[] = ['moves', 'stays', 'backdrop']

/**
 * What the game takes a node for by its name; null for a node that is no group, or where the game knows none.
 * @example const group = groupInName(rulebook, node.getName())
 */
export function groupInName({ motion: { groups } }: Pick<Rulebook, 'motion'>, name: string): GroupIs | null {
  return groups ? (kinds.find((is) => templatePattern(groups[is], { group: '.+' }).test(name)) ?? null) : null
}

/**
 * A group's name as the game reads it; the clean name alone where the game knows no groups.
 *
 * @example groupName(rulebook, 'moves', 'Gate 1') // moves_gate_1
 */
export function groupName(rulebook: Rulebook, is: GroupIs, name: string): string {
  const { groups } = rulebook.motion
  if (!groups) return cleanName(rulebook, name, 'group')
  const known = groupInName(rulebook, name)
  const own = known ? (templatePattern(groups[known], { group: '(.+)' }).exec(name)?.[1] ?? name) : name
  const longest = Math.max(1, rulebook.names.longest - groups[is].replace('{group}', '').length)
  const room = { ...rulebook, names: { ...rulebook.names, longest } }
  return fillTemplate(groups[is], { group: cleanName(room, own, 'group') })
}
