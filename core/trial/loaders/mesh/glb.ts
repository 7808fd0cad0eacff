import { openContainer } from './glb-container.ts'
import { readGltfNodes } from './gltf-nodes.ts'
import type { MeshLoader } from './loaded-mesh.ts'

/**
 * Binary glTF 2.0 in one file.
 * @example const { nodes, clips } = loadGlb({ ...files, rulebook })
 */
export const loadGlb: MeshLoader = ({ bytes }) => {
  const { gltf, binary } = openContainer(bytes)
  return readGltfNodes(gltf, binary)
}
