import type { Mesh, Node } from '@gltf-transform/core'

/**
 * The node's mesh, made its own first where other nodes draw it too, so that a change stays with this node.
 *
 * @example const mesh = ownMesh(node) // changed from now on for this node alone
 */
export function ownMesh(node: Node): Mesh | null {
  const mesh = node.getMesh()
  if (!mesh || mesh.listParents().filter((parent) => parent.propertyType === 'Node').length < 2) return mesh
  const copy = mesh.clone()
  for (const primitive of copy.listPrimitives()) copy.removePrimitive(primitive).addPrimitive(primitive.clone())
  node.setMesh(copy)
  return copy
}
