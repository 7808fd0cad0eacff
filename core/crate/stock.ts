import type { Document } from '@gltf-transform/core'
import { assetBytes } from '../support/asset-files.ts'
import { PlainError } from '../support/plain-error.ts'
import { sha256Hex } from '../support/hashing.ts'
import { documentFromGlb } from '../item/io.ts'
import { openPack, takeItem, type OpenedPack } from '../pack/open-pack.ts'
import type { Game } from '../game/game.ts'
import { builtInRulebooks } from '../game/load.ts'
import type { Rulebook } from '../game/schema.ts'
import type { SourceImage } from '../operations/context.ts'

/** Bytes that were kept under a checksum, or null when they are gone. */
export type BytesOf = (sha256: string) => Promise<Uint8Array | null>

const opened = new Map<string, Promise<OpenedPack>>()

/** Whether a rulebook names anything that its game would have in stock. */
export const hasStock = ({ stock }: Rulebook): boolean => stock.objects.length > 0 || stock.textures.length > 0

/**
 * What a game has in stock, as a pack; opened once for the same bytes.
 * @throws PlainError when its bytes are nowhere
 */
export function stockOf({ rulebook, stock }: Game, bytesOf: BytesOf): Promise<OpenedPack> {
  const key = `${rulebook.id} ${stock?.sha256 ?? 'as shipped'}`
  const known = opened.get(key)
  if (known) return known
  const opening = (stock ? bytesOf(stock.sha256) : shippedStock(rulebook)).then((bytes) => {
    if (!bytes)
      throw new PlainError(
        'what the game has in stock did not come with its rulebook',
        rulebook.title,
        'Begin with a game file that holds its stock.',
      )
    return openPack(bytes, `stock of ${rulebook.title}`, [rulebook])
  })
  opened.set(key, opening)
  opening.catch(() => opened.delete(key))
  return opening
}

/** The stock that ships with a built-in game; null for a game that does not ship. Needed where a crate is begun. */
export async function shippedStock({ id }: Rulebook): Promise<Uint8Array | null> {
  return builtInRulebooks().some((known) => known.id === id && hasStock(known)) ? assetBytes(`stock/${id}`) : null
}

/** A game with the bytes of its stock, as it is when a crate is begun. */
export interface BroughtGame {
  game: Game
  stock: Uint8Array | null
}

/** A game as a value, and the bytes that have to be kept for it. */
export const gameWith = (rulebook: Rulebook, stock: Uint8Array | null): BroughtGame => ({
  game: { rulebook, stock: stock && { sha256: sha256Hex(stock), bytes: stock.length } },
  stock,
})

/** The game’s own textures as picture files under their own paths, for steps that take a picture by name. */
export async function stockPictures(game: Game, bytesOf: BytesOf): Promise<SourceImage[]> {
  const { textures } = game.rulebook.stock
  if (textures.length === 0) return []
  const { files } = await stockOf(game, bytesOf)
  return textures.flatMap(({ path }) => {
    const bytes = files.get(path)
    return bytes ? [{ path, bytes }] : []
  })
}

/** A stock object in the working space. */
export async function stockObject(game: Game, id: string, bytesOf: BytesOf): Promise<Document> {
  return documentFromGlb(await takeItem(await stockOf(game, bytesOf), id))
}
