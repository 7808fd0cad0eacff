import { giveSlots, slotsFor } from '../game/slots.ts'
import { PlainError } from '../support/plain-error.ts'
import type { Crate } from './schema.ts'

/**
 * A crate in which every item has a slot, in a game of slots: what was given stays given from build to build, what has
 * none gets the first free one of its kind. Any other crate is handed on as it is.
 *
 * @example writeCrateFile({ crate: withSlots(crate), sources })
 */
export function withSlots(crate: Crate): Crate {
  if (!crate.rulebook.slots) return crate
  const slots = giveSlots(crate.items, crate.rulebook)
  if (crate.items.every((item) => (item.slot ?? null) === slots.get(item.id))) return crate
  return {
    ...crate,
    items: crate.items.map(({ slot: _, ...item }) => {
      const slot = slots.get(item.id)
      return slot ? { ...item, slot } : item
    }),
  }
}

/**
 * Gives an item a slot; the item that had it takes the other's, so that none is without.
 * @throws PlainError when the item is gone, or no thing of its kind stands there
 *
 * @example const swapped = setSlot(crate, 'bench', 'K-00b')
 */
export function setSlot(crate: Crate, id: string, slot: string): Crate {
  const item = crate.items.find((each) => each.id === id)
  if (!item) throw new PlainError('this item is no longer there', id, 'Reload the page.')
  const own = slotsFor(crate.rulebook, item.kind)
  if (!own.some((each) => each.slot === slot))
    throw new PlainError(
      `a ${item.kind} cannot stand at “${slot}”`,
      item.name,
      own.length === 0
        ? `${crate.rulebook.title} has no slot for it.`
        : `Its slots: ${own.map((each) => each.slot).join(', ')}.`,
    )
  return withSlots({
    ...crate,
    items: crate.items.map((each) =>
      each.id === id ? { ...each, slot } : each.slot === slot ? { ...each, slot: item.slot } : each,
    ),
  })
}
