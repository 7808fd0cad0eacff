import type { Document } from '@gltf-transform/core'

/**
 * Meshes, materials, textures, cameras and clips that nothing uses any more.
 *
 * @example node.setMesh(null); dropUnused(document)
 */
export function dropUnused(document: Document): void {
  const root = document.getRoot()
  const isUsed = (property: { listParents: () => { propertyType: string }[] }): boolean =>
    property.listParents().some((parent) => parent.propertyType !== 'Root')
  for (const mesh of root.listMeshes())
    if (!isUsed(mesh)) for (const primitive of mesh.listPrimitives()) primitive.dispose()
  for (const list of [
    root.listMeshes(),
    root.listCameras(),
    root.listMaterials(),
    root.listTextures(),
    root.listAccessors(),
  ]) {
    for (const property of list) {
      const held = property
        .listParents()
        .some((parent) => parent.propertyType !== 'Root' && parent.propertyType !== 'Buffer')
      if (!held) property.dispose()
    }
  }
  for (const skin of root.listSkins()) if (!isUsed(skin)) skin.dispose()
  for (const animation of root.listAnimations()) {
    for (const channel of animation.listChannels()) if (!channel.getTargetNode()) channel.dispose()
    if (animation.listChannels().length === 0) animation.dispose()
  }
}
