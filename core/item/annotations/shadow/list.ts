import type { Document } from '@gltf-transform/core'
import { listAllParts, type Part } from '../../parts.ts'

/**
 * The meshes that throw shadows, in the order of the scene.
 * @example for (const { node } of listShadowParts(document)) node.dispose()
 */
export const listShadowParts = (document: Document): Part[] =>
  listAllParts(document).filter((part) => part.extras.role === 'shadow')
