import * as Comlink from 'comlink'
import { ownSlot } from '../../../core/crate/evaluate'
import { gameNames } from '../../../core/crate/game-names'
import { decalPlacementSchema } from '../../../core/operations/maps/decal-placement'
import { layoutOf, listMaps, lookChains, mapPicture } from '../item-maps'
import { placedDecal } from '../item-states'
import type { LookChain, MapFacts, MapPicture, PlacedDecal, UvLayoutMessage } from '../map-messages'
import { openSession, type OnProgress } from './session'

/** Looking at an item's pictures. */
export const maps = {
  /** The maps of the item after so many steps. */
  async maps(rawItem: unknown, rawGame: unknown, steps: number, onProgress: OnProgress): Promise<MapFacts[]> {
    const { after, options } = openSession(rawItem, rawGame, onProgress)
    return listMaps(await after(steps), options.kind, options.rulebook)
  },

  /** What each look of the result shows, as it would be packed. */
  async looks(rawItem: unknown, rawGame: unknown, onProgress: OnProgress): Promise<LookChain[]> {
    const { item, result, options } = openSession(rawItem, rawGame, onProgress)
    const { rulebook, kind } = options
    return lookChains(
      await result(),
      rulebook,
      kind,
      gameNames([item], rulebook).get(item.id) ?? item.id,
      ownSlot(item, rulebook),
    )
  },

  /** One level of a map after so many steps, as it is kept or in blocks that are tried. */
  async mapPicture(
    rawItem: unknown,
    rawGame: unknown,
    steps: number,
    name: string,
    level: number,
    as: string,
    onProgress: OnProgress,
  ): Promise<MapPicture> {
    const { after, options } = openSession(rawItem, rawGame, onProgress)
    const picture = await mapPicture(await after(steps), options.rulebook, name, level, as)
    return Comlink.transfer(picture, [picture.data.buffer as ArrayBuffer])
  },

  /** How the item's surfaces lie on a map. */
  async uvLayout(
    rawItem: unknown,
    rawGame: unknown,
    steps: number,
    name: string,
    onProgress: OnProgress,
  ): Promise<UvLayoutMessage> {
    return layoutOf(await openSession(rawItem, rawGame, onProgress).after(steps), name)
  },

  /** Where a decal lies in the state that its step is given; null while no faces are picked. */
  async decal(
    rawItem: unknown,
    rawGame: unknown,
    steps: number,
    parameters: unknown,
    onProgress: OnProgress,
  ): Promise<PlacedDecal | null> {
    const { after, start } = openSession(rawItem, rawGame, onProgress)
    return placedDecal(await after(steps), decalPlacementSchema.parse(parameters), (await start()).images)
  },
}
