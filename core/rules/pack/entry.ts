import { entryFaults } from '../../game/catalogue/entry-faults.ts'
import { nameFaults } from '../../game/catalogue/name-faults.ts'
import { getRootExtras } from '../../item/extras.ts'
import { entryAsPacked, lookNamesOf } from '../../operations/entry/entry-as-packed.ts'
import { namesWithin } from '../../operations/entry/names-within.ts'
import { nowhere, type Finding, type RuleContext, type RuleFamily } from '../rule.ts'

/**
 * What an item's entry says: lines the game knows, of the right sort, that lead to what is there. Names of other items
 * are looked up where all items are looked at together.
 */
export const entryRules: RuleFamily = { id: 'entry', check }

function check(context: RuleContext): Finding[] {
  const { document, rulebook, kind, itemName } = context
  const entry = entryAsPacked(document, rulebook, kind, itemName)
  const written = getRootExtras(document.getRoot()).entry?.fields
  return [
    ...idTaken(context),
    ...entryFaults(entry, rulebook, kind, lookNamesOf(document), written),
    ...nameFaults(entry, rulebook, kind, namesWithin(document, kind, itemName, lookNamesOf(document))),
  ]
}

const idTaken = ({ rulebook: { stock }, itemName }: RuleContext): Finding[] =>
  stock.entries
    .filter(({ id }) => id === itemName)
    .map(({ title }) => ({
      rule: 'entry-id-taken',
      severity: 'blocks',
      stage: 'pack',
      title: 'Name of a thing of the game',
      where: itemName,
      place: nowhere,
      value: itemName,
      limit: 'a name of its own',
      message: `The game has “${itemName}” already: ${title}`,
      why: 'Of two things with one name the game keeps one.',
      mend: null,
    }))
