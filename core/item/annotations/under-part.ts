import type { Node } from '@gltf-transform/core'

/**
 * Whether a node hangs under a part whose name its own begins with, as what is made from a part does.
 * @example const made = nodes.filter(hangsUnderItsPart)
 */
export function hangsUnderItsPart(node: Node): boolean {
  const parent = node.getParentNode()
  return parent !== null && parent.getMesh() !== null && node.getName().startsWith(parent.getName())
}
