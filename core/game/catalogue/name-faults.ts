import type { ItemEntry } from '../../item/entry.ts'
import { referenceTargets, type ReferenceTarget } from '../schema-catalogue.ts'
import type { Kind, Rulebook } from '../schema.ts'
import type { EntryFault } from './entry-faults.ts'
import { lostName } from './lost-name.ts'
import { isOwnOrInStock, referencesOf, stockNames, type OwnNames } from './references.ts'

/**
 * Names in an entry that lead to nothing of the item and to nothing in stock. Those that may be of other items are
 * looked up where all items are looked at together.
 *
 * @example const lost = nameFaults(entry, rulebook, kind, namesWithin(document, kind, 'gate'))
 */
export function nameFaults(
  said: Pick<ItemEntry, 'fields' | 'rows'>,
  rulebook: Rulebook,
  kind: Pick<Kind, 'id'>,
  own: OwnNames,
): EntryFault[] {
  const namesOf = (target: ReferenceTarget, ofKinds: readonly string[] | null): readonly string[] =>
    target === 'item' ? [] : target === 'stock' ? stockNames(rulebook, ofKinds) : own[target]
  return referencesOf(said, rulebook, kind)
    .filter(({ to }) => !to.includes('item'))
    .filter((reference) => !isOwnOrInStock(reference, own, rulebook))
    .map((reference) => {
      const { to, ofKinds, name } = reference
      const elsewhere = referenceTargets.find((target) => namesOf(target, null).includes(name))
      const candidates = to.flatMap((target) => namesOf(target, ofKinds))
      return lostName(reference, to, candidates, elsewhere ?? null)
    })
}
