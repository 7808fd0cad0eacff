import { fieldsOfKind, rowsOfKind } from '../../game/catalogue/fields.ts'
import { entryFaults, type EntryMend } from '../../game/catalogue/entry-faults.ts'
import { nearest, orNearest } from '../../game/nearest.ts'
import type { CatalogueField, ReferenceTarget } from '../../game/schema-catalogue.ts'
import { getRootExtras } from '../../item/extras.ts'
import { entryAsPacked, lookNamesOf } from '../../operations/entry/entry-as-packed.ts'
import { namesWithin } from '../../operations/entry/names-within.ts'
import { nowhere, type Finding, type Mend, type RuleContext, type RuleFamily } from '../rule.ts'

/** What an item's entry says: lines the game knows, of the right sort, that lead to what is there. */
export const entryRules: RuleFamily = { id: 'entry', check }

const targetWords: Record<ReferenceTarget, string> = {
  part: 'part',
  group: 'group',
  point: 'attach point',
  marker: 'marker',
  clip: 'clip',
  light: 'light',
  look: 'look',
  item: 'item',
  stock: 'thing in stock',
}

function check(context: RuleContext): Finding[] {
  const { document, rulebook, kind, itemName } = context
  const entry = entryAsPacked(document, rulebook, kind, itemName)
  return [
    ...idTaken(context),
    ...entryFaults(entry, rulebook, kind, lookNamesOf(document), getRootExtras(document.getRoot()).entry?.fields).map(
      ({ mend, ...fault }) => ({
        ...fault,
        stage: 'pack' as const,
        place: nowhere,
        mend: mend && mendOf(mend),
      }),
    ),
    ...references(context),
  ]
}

const mendOf = (parameters: EntryMend): Mend => ({
  step: 'write-entry',
  label: 'Write the entry',
  parameters: { ...parameters },
})

const common = { severity: 'blocks' as const, stage: 'pack' as const }

const idTaken = ({ rulebook: { stock }, itemName }: RuleContext): Finding[] =>
  stock.entries
    .filter(({ id }) => id === itemName)
    .map(({ title }) => ({
      ...common,
      rule: 'entry-id-taken',
      title: 'Name of a thing of the game',
      where: itemName,
      place: nowhere,
      value: itemName,
      limit: 'a name of its own',
      message: `The game has “${itemName}” already: ${title}`,
      why: 'Of two things with one name the game keeps one.',
      mend: null,
    }))

/** Every reference of an entry, with how to write another in its place. */
function references(context: RuleContext): Finding[] {
  const { document, rulebook, kind, itemName } = context
  const { fields, rows } = entryAsPacked(document, rulebook, kind, itemName)
  const ofRows = rowsOfKind(rulebook, kind)
  return [
    ...referencesIn(fields, fieldsOfKind(rulebook, kind), '', context, (change) => ({ fields: change })),
    ...rows.flatMap((row, number) =>
      referencesIn(row.fields, ofRows?.fields ?? [], `${ofRows?.key ?? ''}[${number}].`, context, (change) => ({
        rows: [{ look: row.look, fields: change }],
      })),
    ),
  ]
}

function referencesIn(
  said: Readonly<Record<string, unknown>>,
  fields: readonly CatalogueField[],
  place: string,
  context: RuleContext,
  mend: (change: Record<string, unknown>) => EntryMend,
): Finding[] {
  return fields.flatMap(({ key, value: allowed }): Finding[] => {
    const value = said[key]
    if (allowed.sort === 'reference') return lost(allowed, value, place + key, context, (name) => mend({ [key]: name }))
    if (allowed.sort !== 'list' || allowed.of.sort !== 'reference' || !Array.isArray(value)) return []
    const { of } = allowed
    return value.flatMap((each: unknown, number) =>
      lost(of, each, `${place}${key}[${number}]`, context, (name) =>
        mend({ [key]: value.map((other: unknown, at) => (at === number ? name : other)) }),
      ),
    )
  })
}

/** A name that leads nowhere, or to the wrong sort of thing; none where it leads where it should. */
function lost(
  { to, ofKinds }: { to: readonly ReferenceTarget[]; ofKinds: readonly string[] | null },
  name: unknown,
  where: string,
  context: RuleContext,
  mend: (name: string) => EntryMend,
): Finding[] {
  if (typeof name !== 'string' || name === '') return []
  const known = namesOf(context, ofKinds)
  if (to.some((target) => known[target]?.includes(name))) return []
  // Other items are not known where one is looked at alone.
  if (to.includes('item') && known.item === null) return []
  const candidates = to.flatMap((target) => known[target] ?? [])
  const near = nearest(name, candidates)
  const wanted = to.map((target) => targetWords[target]).join(' or ')
  const all = namesOf(context, null)
  const [elsewhere] = (Object.keys(targetWords) as ReferenceTarget[]).filter((target) => all[target]?.includes(name))
  const otherwise = elsewhere === undefined ? null : targetWords[elsewhere]
  return [
    {
      ...common,
      rule: otherwise === null ? 'entry-lost' : 'entry-wrong-target',
      title: otherwise === null ? 'Name that leads nowhere' : 'Name of another sort of thing',
      where,
      place: nowhere,
      value: name,
      limit: candidates.length > 0 ? candidates.slice(0, 8).join(', ') : `a ${wanted}; there is none`,
      message:
        otherwise === null
          ? `“${where}” names “${name}”, and there is no such ${wanted}${orNearest(near)}`
          : `“${where}” names “${name}”, which is a ${otherwise}${to.includes(elsewhere) ? ' of another kind' : ` and no ${wanted}`}`,
      why: 'The game looks the name up when the thing is made, and gives up where it finds nothing.',
      mend: near !== null ? mendOf(mend(near)) : candidates.length === 1 ? mendOf(mend(candidates[0])) : null,
    },
  ]
}

function namesOf(
  { document, rulebook: { stock }, itemName, others, kind }: RuleContext,
  ofKinds: readonly string[] | null,
): Record<ReferenceTarget, string[] | null> {
  const fits = (each: { kind: string }): boolean => ofKinds === null || ofKinds.includes(each.kind)
  return {
    ...namesWithin(document, kind, itemName, lookNamesOf(document)),
    item: others ? [...others, { name: itemName, kind: kind.id }].filter(fits).map(({ name }) => name) : null,
    stock: [
      ...stock.entries.filter(fits).map(({ id }) => id),
      ...(ofKinds === null ? stock.objects.map(({ id }) => id) : []),
    ],
  }
}
