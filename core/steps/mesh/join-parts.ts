import type { Document, Node } from '@gltf-transform/core'
import { z } from 'zod'
import { listViewParts, movingReasons, type Part } from '../../item/parts.ts'
import { dropUnusedAccessors } from '../../item/primitive-arrays.ts'
import { joinable } from '../../operations/meshes/joinable.ts'
import { joinTogether } from '../../operations/meshes/join-together.ts'
import { namesInItem } from '../item-names.ts'
import { defineStep, gonePart } from '../step.ts'
import { plural } from '../../support/wording.ts'

const parameters = z.object({ parts: namesInItem })

/** Makes one part of several. */
export const joinParts = defineStep<z.infer<typeof parameters>>({
  id: 'join-parts',
  version: 2,
  stage: 'mesh',
  title: 'Join parts',
  purpose: 'Makes one part of several that stand still or move together; materials stay as groups, bones are merged.',
  parameters,
  fields: () => [{ type: 'parts', key: 'parts', label: 'Join' }],
  defaults: ({ document }) => ({ parts: joinable(document).map((part) => part.name) }),
  propose: () => [],
  async run({ document, parameters: { parts: names } }) {
    const chosen = listViewParts(document).filter((part) => names.includes(part.name))
    if (chosen.length === 0 && names.length > 0) return gonePart(names[0])
    const details: string[] = []
    let joined = 0
    for (const group of groupsThatMoveTogether(document, chosen)) {
      if (group.length < 2) {
        if (chosen.length > 1) details.push(`${group[0].name} moves on its own and was left.`)
        continue
      }
      joinTogether(document, group)
      joined += group.length - 1
      details.push(
        `${group[0].name} took in ${group
          .slice(1)
          .map((part) => part.name)
          .slice(0, 8)
          .join(', ')}${group.length > 9 ? ` and ${group.length - 9} more` : ''}.`,
      )
    }
    dropUnusedAccessors(document)
    if (details.length === 0) details.push('There is only one part, so there is nothing to join.')
    return { headline: joined > 0 ? `−${plural(joined, 'part')}` : 'as it was', details, changed: joined > 0 }
  },
})

/**
 * Still parts in one group, parts held by bones in another, and a group for each node that moves with what hangs on it.
 */
function groupsThatMoveTogether(document: Document, parts: readonly Part[]): Part[][] {
  const moving = movingReasons(document)
  const groups = new Map<Node | string, Part[]>()
  for (const part of parts) {
    let mover: Node | null = part.node
    while (mover && moving.get(mover) !== 'moves' && moving.get(mover) !== 'is a bone') mover = mover.getParentNode()
    const key = part.node.getSkin() ? 'bones' : (mover ?? 'still')
    groups.set(key, [...(groups.get(key) ?? []), part])
  }
  return [...groups.values()]
}
