import type { Document, Node } from '@gltf-transform/core'
import { groupBoxes } from '../../geometry/shapes/group-boxes.ts'
import { partBounds } from '../../item/measure.ts'
import { listMovingNodes, movingReasons, type Part } from '../../item/parts.ts'

/** Groups that fill so much of their common box share one solid although each could have its own. */
const FILLED_SHARE = 0.9

/**
 * Groups parts so that one solid can stand for each: parts that lie together and move together.
 * @param most groups at most; of things with more bodies than that, the largest are given
 *
 * @example for (const parts of solidGroups(document, listViewParts(document), 48)) addSolid(parts)
 */
export function solidGroups(document: Document, parts: readonly Part[], most: number): Part[][] {
  const bodyOf = bodies(document)
  const boxes = parts.map((part) => ({ bounds: partBounds(part), body: bodyOf(part.node) }))
  return groupBoxes(boxes, most, FILLED_SHARE)
    .slice(0, most)
    .map((members) => members.map((index) => parts[index]))
}

/** Numbers the rigid bodies of an item: nodes below the same moving node share one, what never moves another. */
function bodies(document: Document): (node: Node) => number {
  if (listMovingNodes(document).size === 0) return () => 0
  const reasons = movingReasons(document)
  const numbers = new Map<Node, number>()
  return (node) => {
    for (let at: Node | null = node; at; at = at.getParentNode()) {
      const reason = reasons.get(at)
      if (reason !== 'moves' && reason !== 'is a bone') continue
      const known = numbers.get(at) ?? numbers.size + 1
      numbers.set(at, known)
      return known
    }
    return 0
  }
}
