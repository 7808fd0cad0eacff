import type { Document } from '@gltf-transform/core'
import type { ItemEntry } from '../../item/entry.ts'
import { getRootExtras, setRootExtras } from '../../item/extras.ts'

/**
 * What an item's entry says so far.
 * @example const { fields, events } = entryOf(document)
 */
export const entryOf = (document: Document): ItemEntry =>
  getRootExtras(document.getRoot()).entry ?? { fields: {}, rows: [], events: [] }

/**
 * Changes what an item's entry says.
 * @example setEntry(document, { fields: { ...entryOf(document).fields, price: 40 } })
 */
export function setEntry(document: Document, change: Partial<ItemEntry>): void {
  const root = document.getRoot()
  setRootExtras(root, { ...getRootExtras(root), entry: { ...entryOf(document), ...change } })
}
