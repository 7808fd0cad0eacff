import type { Rulebook } from './schema.ts'

/** A place of the game's own list that an item stands in for. */
export type Slot = NonNullable<Rulebook['slots']>['listed'][number]

interface Slotted {
  id: string
  kind: string
  slot?: string
}

/**
 * The slots that an item of a kind may have; none where the game knows no slots.
 * @example const free = slotsFor(rulebook, kind.id).filter(({ slot }) => !taken.has(slot))
 */
export const slotsFor = ({ slots }: Rulebook, kind: string): Slot[] =>
  slots?.listed.filter(({ kinds }) => kinds.includes(kind)) ?? []

/**
 * The slot of an item of a kind that has no others beside it; null where there is none.
 * @example const slot = item.slot ?? firstSlot(rulebook, item.kind)
 */
export const firstSlot = (rulebook: Rulebook, kind: string): string | null => slotsFor(rulebook, kind)[0]?.slot ?? null

/**
 * A slot of the game's list; null when it has none of that name.
 * @example findSlot(rulebook, 'nowhere') // null
 */
export const findSlot = ({ slots }: Rulebook, slot: string): Slot | null =>
  slots?.listed.find((each) => each.slot === slot) ?? null

/**
 * The slot of each item: those that were given stay, the others get the first free one of their kind, so that a thing
 * stands in the same place of the game from one build to the next.
 * @returns by the items' ids; null where the game knows no slots, or none is free
 *
 * @example const slots = giveSlots(crate.items, crate.rulebook)
 */
export function giveSlots(items: readonly Slotted[], rulebook: Rulebook): Map<string, string | null> {
  const taken = new Set<string>()
  const given = new Map<string, string | null>()
  for (const { id, kind, slot } of items) {
    if (slot === undefined || taken.has(slot) || !slotsFor(rulebook, kind).some((each) => each.slot === slot)) continue
    taken.add(slot)
    given.set(id, slot)
  }
  for (const { id, kind } of items) {
    if (given.has(id)) continue
    const free = slotsFor(rulebook, kind).find((each) => !taken.has(each.slot))?.slot ?? null
    if (free !== null) taken.add(free)
    given.set(id, free)
  }
  return given
}
