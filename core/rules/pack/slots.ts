import { findSlot, slotsFor } from '../../game/slots.ts'
import { nowhere, type Finding, type RuleFamily } from '../rule.ts'

/** In a game of numbered places: whether the item stands in for one of them, of its own kind. */
export const slotRules: RuleFamily = {
  id: 'slots',
  check({ rulebook, kind, slot, itemName }) {
    if (!rulebook.slots) return []
    const common = {
      severity: 'blocks' as const,
      stage: 'pack' as const,
      where: itemName,
      place: nowhere,
      limit: rulebook.slots.described,
      why: 'The game has no room for new things: each stands where one of its own stood.',
      mend: null,
    }
    const listed = slot === null ? null : findSlot(rulebook, slot)
    const own = slotsFor(rulebook, kind.id)
    if (!listed)
      return [
        {
          ...common,
          rule: 'slot-missing',
          title: 'No slot',
          value: slot ?? 'none',
          message:
            slot === null
              ? `${own.length === 0 ? 'The game has no slot' : `All ${own.length} slots`} for a ` +
                `${kind.title.toLowerCase()}${own.length === 0 ? '' : ' are given to others'}. Take another item ` +
                'out, or make it another kind'
              : `The game has no slot “${slot}”`,
        },
      ] satisfies Finding[]
    if (listed.kinds.includes(kind.id)) return []
    return [
      {
        ...common,
        rule: 'slot-kind',
        title: 'Slot of another kind',
        value: listed.slot,
        limit: own.map((each) => each.slot).join(', ') || 'none',
        message: `${listed.slot} is ${listed.title.toLowerCase()}; no ${kind.title.toLowerCase()} stands there`,
      },
    ]
  },
}
