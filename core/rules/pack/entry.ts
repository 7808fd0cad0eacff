import { entryFaults } from '../../game/catalogue/entry-faults.ts'
import { fieldsOfKind, rowsOfKind } from '../../game/catalogue/fields.ts'
import { lostName } from '../../game/catalogue/lost-name.ts'
import type { ReferenceTarget } from '../../game/schema-catalogue.ts'
import { getRootExtras } from '../../item/extras.ts'
import { entryAsPacked, lookNamesOf } from '../../operations/entry/entry-as-packed.ts'
import { isOwnOrInStock, namesFor, referencesIn } from '../../operations/entry/references.ts'
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
    ...lostNames(context),
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

/** Names that lead to nothing of the item and to nothing in stock, where they may not be those of other items. */
function lostNames({ document, rulebook, kind, itemName }: RuleContext): Finding[] {
  const { fields, rows } = entryAsPacked(document, rulebook, kind, itemName)
  const ofRows = rowsOfKind(rulebook, kind)
  const references = [
    ...referencesIn(fields, fieldsOfKind(rulebook, kind), '', null),
    ...rows.flatMap((row, number) =>
      referencesIn(row.fields, ofRows?.fields ?? [], `${ofRows?.key ?? ''}[${number}].`, row.look),
    ),
  ]
  return references
    .filter(({ to }) => !to.includes('item'))
    .filter((reference) => !isOwnOrInStock(reference, document, rulebook, kind, itemName))
    .map((reference) => {
      const { to, ofKinds, name } = reference
      const known = namesFor(ofKinds, document, rulebook, kind, itemName)
      const all = Object.entries(namesFor(null, document, rulebook, kind, itemName))
      const elsewhere = all.find(([, names]) => names.includes(name))?.[0] as ReferenceTarget | undefined
      const candidates = to.flatMap((target) => (target === 'item' ? [] : known[target]))
      return lostName(reference, to, candidates, elsewhere ?? null)
    })
}
