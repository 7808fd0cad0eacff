import type { Node } from '@gltf-transform/core'

/**
 * The stiff part that a bone follows: the node it hangs on, where that has a mesh that no bone holds.
 * @example const part = stiffPartOf(bone)?.getName()
 */
export function stiffPartOf(bone: Node): Node | null {
  const carrier = bone.getParentNode()
  return carrier?.getMesh() && !carrier.getSkin() ? carrier : null
}
