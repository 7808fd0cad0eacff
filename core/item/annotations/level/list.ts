import type { Document } from '@gltf-transform/core'
import { listAllParts, type Part } from '../../parts.ts'

/**
 * The meshes of one level, in the order of the scene.
 * @example countTriangles(listLevelParts(document, 1)) < countTriangles(listViewParts(document))
 */
export const listLevelParts = (document: Document, level: number): Part[] =>
  listAllParts(document).filter((part) => part.extras.role === 'level' && part.extras.level === level)
