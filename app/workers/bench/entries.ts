import { gameName } from '../../../core/crate/game-names'
import { ownSlot } from '../../../core/crate/evaluate'
import { itemPaths } from '../../../core/game/item-paths'
import { getRootExtras } from '../../../core/item/extras'
import { disagreements, donorsFor, madeOf } from '../../../core/operations/entry/donor-agreement'
import { entryAsPacked, lookNamesOf } from '../../../core/operations/entry/entry-as-packed'
import { namesWithin } from '../../../core/operations/entry/names-within'
import type { EntryReport } from '../entry-messages'
import { openSession, type OnProgress } from './session'

/** Looking at what an item's entry says. */
export const entries = {
  /** The entry of the result, and all that it may name. */
  async entry(rawItem: unknown, rawGame: unknown, onProgress: OnProgress): Promise<EntryReport> {
    const { item, options, start, result } = openSession(rawItem, rawGame, onProgress)
    const { rulebook, kind } = options
    const document = await result()
    const name = gameName(item, rulebook)
    const made = madeOf(document, rulebook)
    return {
      said: entryAsPacked(document, rulebook, kind, name),
      fromSource: getRootExtras((await start()).document.getRoot()).entry ?? null,
      path: itemPaths(rulebook, kind, name, ownSlot(item, rulebook)).entry,
      names: namesWithin(document, kind, name, lookNamesOf(document)),
      shown: made.shown,
      donors: donorsFor(rulebook, kind, made).map((donor) => ({
        id: donor.id,
        against: disagreements(donor, made),
      })),
    }
  },
}
