import type { Document } from '@gltf-transform/core'
import { listViewParts, type Part } from '../../item/parts.ts'
import { movingReasons } from '../../item/parts.ts'
/**
 * Parts that stand still: those that move would stop moving by themselves.
 * @example const parts = joinable(document)
 */
export function joinable(document: Document): Part[] {
  const moving = movingReasons(document)
  return listViewParts(document).filter((part) => !moving.has(part.node) || part.node.getSkin() !== null)
}
