import type { Document } from '@gltf-transform/core'
import { listSceneNodes } from './parts.ts'

/**
 * What is never written into a mesh of another format, in sentences.
 * @example for (const sentence of notExported(document)) console.error(sentence)
 */
export function notExported(document: Document): string[] {
  const root = document.getRoot()
  const morphs = root
    .listMeshes()
    .some((mesh) => mesh.listPrimitives().some((primitive) => primitive.listTargets().length > 0))
  const cameras = listSceneNodes(document).some((node) => node.getCamera())
  const lights = root.listExtensionsUsed().some(({ extensionName }) => extensionName === 'KHR_lights_punctual')
  return [
    ...(morphs ? ['Shapes to morph to are left out: the first is written.'] : []),
    ...(cameras ? ['Cameras are left out.'] : []),
    ...(lights ? ['Lights are left out.'] : []),
  ]
}
