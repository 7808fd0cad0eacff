import type { Contradiction } from './contradictions.ts'
import { carriedBy } from './formats.ts'
import type { Rulebook } from './schema.ts'

/**
 * Where a rulebook asks for groups that it does not name or cannot write.
 * @example wrongGroups(rulebook) // []
 */
export function wrongGroups({ kinds, motion: { groups }, files }: Rulebook): Contradiction[] {
  const writer = files.mesh.writer
  const found: Contradiction[] = Object.entries(groups ?? {}).flatMap(([is, template]) =>
    template.includes('{group}')
      ? []
      : [{ path: ['motion', 'groups', is], message: 'every group would have the same name: {group} is not in it' }],
  )
  for (const [number, kind] of kinds.entries()) {
    if (kind.groupsAsked && !groups)
      found.push({
        path: ['kinds', number, 'groupsAsked'],
        message: `the kind “${kind.id}” wants its parts in groups, and motion.groups does not say how groups are called`,
      })
    if (kind.groupsAsked && !carriedBy(writer).tree)
      found.push({
        path: ['kinds', number, 'groupsAsked'],
        message: `${writer.toUpperCase()} holds no groups, and the kind “${kind.id}” wants its parts in some`,
      })
  }
  return found
}
