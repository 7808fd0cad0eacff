import type { Kind, Rulebook } from '../game/schema.ts'
import type { LoadedMesh, LoadedNode } from './loaders/mesh/loaded-mesh.ts'
import type { TrialLog } from './log.ts'
import type { SortedNodes } from './sorted-nodes.ts'

type GroupWords = NonNullable<Rulebook['motion']['groups']>
type GroupWord = keyof GroupWords

/** What a group is by the beginning and the end of its name. */
function wordOf(name: string, groups: GroupWords): GroupWord | null {
  const fits = (template: string): boolean => {
    const [before, after = ''] = template.split('{group}')
    return name.length > before.length + after.length && name.startsWith(before) && name.endsWith(after)
  }
  return (['moves', 'stays', 'backdrop'] as const).find((word) => fits(groups[word])) ?? null
}

const chainOf = (node: LoadedNode): LoadedNode[] => (node.parent ? [node, ...chainOf(node.parent)] : [node])

/**
 * Groups as the game reads them: by name, moved by clips or not.
 * @example checkGroups(file, { nodes, clips }, sorted, rulebook, kind, log)
 */
export function checkGroups(
  file: string,
  { nodes, clips }: Pick<LoadedMesh, 'nodes' | 'clips'>,
  sorted: SortedNodes,
  { motion: { groups } }: Rulebook,
  kind: Kind,
  log: TrialLog,
): void {
  if (!groups || !kind.groupsAsked) return
  const moved = new Set(clips.flatMap(({ channels }) => channels.map(({ node }) => node)))
  for (const node of sorted.view)
    if (!chainOf(node).some(({ name }) => wordOf(name, groups)))
      log.complain('group.none', file, `${node.name} is in no group: it is not known whether it moves.`)
  for (const node of nodes) {
    const word = wordOf(node.name, groups)
    if (word === 'moves' && !moved.has(node))
      log.complain('group.rests', file, `${node.name} is to move and nothing moves it.`)
    if ((word === 'stays' || word === 'backdrop') && chainOf(node).some((each) => moved.has(each)))
      log.complain('group.moves', file, `${node.name} is to stand still and is moved.`)
  }
  for (const node of moved)
    if (!chainOf(node).some(({ name }) => wordOf(name, groups)))
      log.complain('group.untold', file, `${node.name} is moved outside of any group.`)
  for (const node of sorted.solids)
    if (isInBackdrop(node, groups)) log.complain('group.backdrop', file, `${node.name} is in a backdrop and skipped.`)
}

/** Whether something stands in a group that is only looked at. */
const isInBackdrop = (node: LoadedNode, groups: GroupWords): boolean =>
  chainOf(node).some(({ name }) => wordOf(name, groups) === 'backdrop')

/**
 * The solids that the game reads: those of a backdrop are none.
 * @example const solids = withoutBackdrops(sorted.solids, rulebook, kind)
 */
export function withoutBackdrops(solids: LoadedNode[], { motion: { groups } }: Rulebook, kind: Kind): LoadedNode[] {
  return groups && kind.groupsAsked ? solids.filter((node) => !isInBackdrop(node, groups)) : solids
}
