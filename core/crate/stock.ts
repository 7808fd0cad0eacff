import { shippedStock, stockIsMissing } from './brought-game.ts'
import type { Document } from '@gltf-transform/core'
import { openPack, type OpenedPack } from '../pack/open-pack.ts'
import { openItem } from '../pack/take-item.ts'
import type { Game } from '../game/game.ts'
import type { Host, SourceImage } from '../operations/context.ts'

/** Bytes that were kept under a checksum, or null when they are gone. */
export type BytesOf = (sha256: string) => Promise<Uint8Array | null>

const opened = new Map<string, Promise<OpenedPack>>()

/**
 * What a game has in stock, as a pack; opened once for the same bytes.
 * @throws PlainError when its bytes are nowhere
 *
 * @example const { files } = await stockOf(game, bytesOf)
 */
export function stockOf({ rulebook, stock }: Game, bytesOf: BytesOf): Promise<OpenedPack> {
  const key = `${rulebook.id} ${stock?.sha256 ?? 'as shipped'}`
  const known = opened.get(key)
  if (known) return known
  const opening = (stock ? bytesOf(stock.sha256) : shippedStock(rulebook)).then((bytes) => {
    if (!bytes) throw stockIsMissing(rulebook)
    return openPack(bytes, `stock of ${rulebook.title}`, [rulebook])
  })
  opened.set(key, opening)
  opening.catch(() => opened.delete(key))
  return opening
}

/**
 * The game’s own textures as picture files under their own paths, for steps that take a picture by name.
 * @example const images = await stockPictures(game, bytesOf)
 */
export async function stockPictures(game: Game, bytesOf: BytesOf): Promise<SourceImage[]> {
  const { textures } = game.rulebook.stock
  if (textures.length === 0) return []
  const { files } = await stockOf(game, bytesOf)
  return textures.flatMap(({ path }) => {
    const bytes = files.get(path)
    return bytes ? [{ path, bytes }] : []
  })
}

/**
 * A stock object in the working space.
 * @example const stove = await stockObject(game, 'stove', bytesOf)
 */
export async function stockObject(game: Game, id: string, bytesOf: BytesOf): Promise<Document> {
  return openItem(await stockOf(game, bytesOf), id)
}

/**
 * Every stock object that things can be put into.
 * @example const hosts = await stockHosts(game, bytesOf)
 */
export async function stockHosts(game: Game, bytesOf: BytesOf): Promise<Host[]> {
  const hosts: Host[] = []
  for (const { id, title, role } of game.rulebook.stock.objects)
    if (role === 'host') hosts.push({ id, title, document: await stockObject(game, id, bytesOf) })
  return hosts
}
