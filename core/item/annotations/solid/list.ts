import type { Document } from '@gltf-transform/core'
import { listAllParts, type Part } from '../../parts.ts'

/**
 * Every solid, in the order of the scene.
 *
 * @example const names = listSolids(document).map(({ name }) => name)
 */
export const listSolids = (document: Document): Part[] =>
  listAllParts(document).filter((part) => part.extras.role === 'solid')
