import type { Document, Node } from '@gltf-transform/core'
import { itemScene } from '../../item/parts.ts'
import { identityMatrix, multiplyMatrices } from '../../maths/axes.ts'
import { invertMatrix } from '../../maths/matrices.ts'

/**
 * Hangs a node under another, or under nothing but the scene, where it stood.
 * @example hangUnder(knob, lid)
 */
export function hangUnder(node: Node, holder: Node | Document): void {
  const world = node.getWorldMatrix()
  const above = 'getWorldMatrix' in holder ? holder : null
  const back = above ? (invertMatrix(above.getWorldMatrix()) ?? identityMatrix()) : identityMatrix()
  node.getParentNode()?.removeChild(node)
  if ('getWorldMatrix' in holder) holder.addChild(node)
  else itemScene(holder).addChild(node)
  node.setMatrix(multiplyMatrices(back, world) as Parameters<Node['setMatrix']>[0])
}
