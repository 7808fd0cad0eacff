import type { Document } from '@gltf-transform/core'
import { assetBytes, type AssetFile } from '../support/asset-files.ts'
import { documentFromGlb } from '../item/io.ts'
import { openPack, takeItem, type OpenedPack } from '../pack/open-pack.ts'
import type { Rulebook } from '../game/schema.ts'
import type { SourceImage } from '../operations/context.ts'

const opened = new Map<string, Promise<OpenedPack>>()

/** What a game has in stock, as a pack; opened once. */
export function stockOf(rulebook: Rulebook): Promise<OpenedPack> {
  const known = opened.get(rulebook.id)
  if (known) return known
  const opening = assetBytes(`stock/${rulebook.id}` as AssetFile).then((bytes) =>
    openPack(bytes, `stock of ${rulebook.title}`),
  )
  opened.set(rulebook.id, opening)
  return opening
}

/** The game's own textures as picture files under their own paths, for steps that take a picture by name. */
export async function stockPictures(rulebook: Rulebook): Promise<SourceImage[]> {
  if (rulebook.stock.textures.length === 0) return []
  const { files } = await stockOf(rulebook)
  return rulebook.stock.textures.flatMap(({ path }) => {
    const bytes = files.get(path)
    return bytes ? [{ path, bytes }] : []
  })
}

/** A stock object in game units and axes. */
export async function stockObject(rulebook: Rulebook, id: string): Promise<Document> {
  return documentFromGlb(await takeItem(await stockOf(rulebook), id))
}
