import type { Document } from '@gltf-transform/core'
import { assetBytes, type AssetFile } from '../document/asset-files.ts'
import { documentFromGlb } from '../document/io.ts'
import { openPack, takeItem, type OpenedPack } from '../pack/open-pack.ts'
import type { Rulebook } from '../rulebook/schema.ts'

const opened = new Map<string, Promise<OpenedPack>>()

/** What a game has in stock, as a pack; opened once. */
export function stockOf(rulebook: Rulebook): Promise<OpenedPack> {
  const known = opened.get(rulebook.id)
  if (known) return known
  const opening = assetBytes(`stock/${rulebook.id}` as AssetFile).then((bytes) => openPack(bytes, `stock of ${rulebook.title}`))
  opened.set(rulebook.id, opening)
  return opening
}

/** A stock object in game units and axes. */
export async function stockObject(rulebook: Rulebook, id: string): Promise<Document> {
  return documentFromGlb(await takeItem(await stockOf(rulebook), id))
}
