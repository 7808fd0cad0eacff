import type { Document } from '@gltf-transform/core'
import { mergeDocuments } from '@gltf-transform/functions'
import { itemScene } from './parts.ts'

/**
 * Puts everything that stands in another document's scene into the item's, with all that it uses; the other is not to
 * be used any more.
 *
 * @example addScene(document, await documentFromGlb(bytes))
 */
export function addScene(whole: Document, other: Document): void {
  const scene = itemScene(whole)
  const before = new Set(whole.getRoot().listScenes())
  mergeDocuments(whole, other)
  for (const added of whole.getRoot().listScenes()) {
    if (before.has(added)) continue
    for (const child of added.listChildren()) {
      added.removeChild(child)
      scene.addChild(child)
    }
    added.dispose()
  }
}
