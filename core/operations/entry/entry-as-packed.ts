import type { Document } from '@gltf-transform/core'
import { completeEntry } from '../../game/catalogue/complete-entry.ts'
import type { Kind, Rulebook } from '../../game/schema.ts'
import type { ItemEntry } from '../../item/entry.ts'
import { getRootExtras } from '../../item/extras.ts'
import { listLooks } from '../../item/looks.ts'

/**
 * The names of an item's looks as its entry has them.
 * @example const rows = lookNamesOf(document).map((look) => ({ look, fields: {} }))
 */
export const lookNamesOf = (document: Document): string[] =>
  getRootExtras(document.getRoot()).lookNames ?? listLooks(document)

/**
 * An item's entry as it would be packed: what was said, and what is usual where nothing was.
 * @example const { fields } = entryAsPacked(document, rulebook, kind, 'boathouse_gate')
 */
export const entryAsPacked = (document: Document, rulebook: Rulebook, kind: Kind, itemName: string): ItemEntry =>
  completeEntry(getRootExtras(document.getRoot()).entry, { rulebook, kind, itemName, looks: lookNamesOf(document) })
