import type { Document, mat4, Node } from '@gltf-transform/core'
import { ownMesh } from '../../item/own-mesh.ts'
import { itemScene, listMovingNodes } from '../../item/parts.ts'
import { transformPrimitive } from '../../item/transform-primitive.ts'
import { isIdentity, multiplyMatrices } from '../../maths/axes.ts'

/**
 * Turns a whole item that stands still. Parts without a transform of their own are turned in their vertices, so that
 * they stay without one; all else by its node.
 * @param turn column-major 4 × 4, a rotation
 *
 * @example turnItem(document, axesTurn('+z', '-y', '+y', '+z'))
 */
export function turnItem(document: Document, turn: readonly number[]): void {
  const moving = listMovingNodes(document)
  const byNode = (node: Node): void => void node.setMatrix(multiplyMatrices(turn, node.getMatrix()) as unknown as mat4)
  const byVertices = (node: Node): void => {
    for (const primitive of ownMesh(node)?.listPrimitives() ?? []) transformPrimitive(document, primitive, turn)
    for (const child of node.listChildren())
      if (isIdentity(child.getMatrix())) byVertices(child)
      else byNode(child)
  }
  for (const node of itemScene(document).listChildren())
    if (moving.has(node) || node.getSkin() || !isIdentity(node.getMatrix())) byNode(node)
    else byVertices(node)
}
