import type { Document, Node } from '@gltf-transform/core'
import { groupInName } from '../../game/group-names.ts'
import type { Rulebook } from '../../game/schema.ts'
import { lettersOf } from '../../game/solid-names.ts'
import type { GroupIs } from '../../item/annotations/group/facts.ts'
import { getNodeExtras } from '../../item/extras.ts'
import { descendants, listSceneNodes, listViewParts, type Part } from '../../item/parts.ts'

/** A group of parts as the game will know it by its node’s name. */
export interface Group {
  node: Node
  name: string
  is: GroupIs
}

/**
 * Groups that the game knows by their names.
 * @example const groups = listGroups(document, rulebook).map(({ node }) => node.getName())
 */
export const listGroups = (document: Document, rulebook: Rulebook): Group[] =>
  listSceneNodes(document).flatMap((node) => {
    const is = groupInName(rulebook, node.getName())
    return is ? [{ node, name: node.getName(), is }] : []
  })

/**
 * Nodes that clips move.
 * @example const isMoved = movedNodes(document).has(node)
 */
export const movedNodes = (document: Document): Set<Node> =>
  new Set(
    document
      .getRoot()
      .listAnimations()
      .flatMap((clip) => clip.listChannels())
      .filter((channel) => channel.getTargetPath() !== 'weights')
      .flatMap((channel) => channel.getTargetNode() ?? []),
  )

/**
 * The nearest node above one, or itself, that something holds of.
 * @example const group = nearestAbove(node, (each) => groups.has(each))
 */
export function nearestAbove(node: Node, holds: (node: Node) => boolean): Node | null {
  for (let at: Node | null = node; at; at = at.getParentNode()) if (holds(at)) return at
  return null
}

/**
 * Drawn parts that stand in no group that the game knows.
 * @example const outside = partsOutsideGroups(document, rulebook)
 */
export const partsOutsideGroups = (document: Document, rulebook: Rulebook): Part[] =>
  listViewParts(document).filter(
    ({ node }) => nearestAbove(node, (each) => groupInName(rulebook, each.getName()) !== null) === null,
  )

/**
 * Nodes that want to be moving groups and are not said to be: the topmost that clips move, and those that are called
 * like them but for a number and do not move, whose motion was forgotten.
 *
 * @example for (const { node, like } of likelyMovers(document)) ask(node, like)
 */
export function likelyMovers(document: Document): { node: Node; like: Node | null }[] {
  const moved = movedNodes(document)
  const isTold = (node: Node): boolean => getNodeExtras(node).group !== undefined
  const tops = [...moved].filter((node) => {
    const above = node.getParentNode()
    return !above || nearestAbove(above, (each) => moved.has(each)) === null
  })
  const holds = (node: Node): boolean => [node, ...descendants(node)].some((each) => each.getMesh() !== null)
  const forgotten = listSceneNodes(document).flatMap((node): { node: Node; like: Node | null }[] => {
    if (isTold(node) || getNodeExtras(node).role !== 'part' || !holds(node)) return []
    if (nearestAbove(node, (each) => moved.has(each)) || descendants(node).some((each) => moved.has(each))) return []
    const like = moversLike(node.getName(), tops)[0]
    return like ? [{ node, like }] : []
  })
  return [...tops.filter((node) => !isTold(node) && holds(node)).map((node) => ({ node, like: null })), ...forgotten]
}

/**
 * Those of some nodes that are called like another but for its number.
 * @example moversLike('wheel_01', listSceneNodes(document))
 */
export function moversLike(name: string, nodes: readonly Node[]): Node[] {
  const letters = lettersOf(name)
  // Without a number a name stands for itself.
  if (letters === '' || !/\d/.test(name)) return []
  return nodes.filter((node) => node.getName() !== name && lettersOf(node.getName()) === letters)
}
