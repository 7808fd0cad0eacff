import { circles, doubled, linkEvents, waitingForNothing, type LinkedEvent } from '../../game/catalogue/event-chain.ts'
import { eventInWords } from '../../operations/entry/event-words.ts'
import type { Rulebook } from '../../game/schema.ts'
import { nowhere, severities, type Finding } from '../rule.ts'
import type { TogetherFacts } from './facts.ts'

/**
 * What only shows when the items of a pack are looked at together: lines that two say alike, and events that follow on
 * each other. By the item that it is said of.
 *
 * @example checkTogether(items.map(({ facts }) => facts), rulebook).get('mooring_bell')
 */
export function checkTogether(items: readonly TogetherFacts[], rulebook: Rulebook): Map<string, Finding[]> {
  const found = new Map<string, Finding[]>()
  const say = (item: string, finding: Finding): void => void found.set(item, [...(found.get(item) ?? []), finding])
  for (const [item, finding] of [...saidAlike(items, rulebook), ...eventsTogether(items, rulebook)]) say(item, finding)
  return found
}

const common = { stage: 'pack' as const, place: nowhere }

/** Lines that no two things of the game may say alike. */
function saidAlike(items: readonly TogetherFacts[], { stock, catalogue }: Rulebook): [string, Finding][] {
  const first = new Map<string, string>()
  for (const { key } of catalogue.fields.filter(({ unique }) => unique))
    for (const { title, fields } of stock.entries)
      if (Object.hasOwn(fields, key)) first.set(`${key} ${JSON.stringify(fields[key])}`, title)
  return items.flatMap(({ name, unique }) =>
    Object.entries(unique).flatMap(([key, value]): [string, Finding][] => {
      const said = `${key} ${value}`
      const other = first.get(said)
      if (other === undefined) {
        first.set(said, name)
        return []
      }
      return [
        [
          name,
          {
            ...common,
            rule: 'entry-alike',
            severity: 'blocks',
            title: 'Said by another already',
            where: `${name}: ${key}`,
            value,
            limit: 'said once',
            message: `“${key}” of ${name} is ${value}, as ${other} says it`,
            why: 'The game tells things apart by this line, and keeps the first.',
            mend: null,
          },
        ],
      ]
    }),
  )
}

function eventsTogether(items: readonly TogetherFacts[], rulebook: Rulebook): [string, Finding][] {
  const all = linkEvents(items, rulebook)
  if (all.length === 0) return []
  const words = ({ event, item }: LinkedEvent): string => eventInWords(event, item)
  const at = ({ item, number }: LinkedEvent): { where: string } => ({ where: `${item}: event ${number + 1}` })
  return [
    ...circles(all).map((circle): [string, Finding] => [
      circle[0].item,
      {
        ...common,
        ...at(circle[0]),
        rule: 'event-circle',
        severity: 'blocks',
        title: 'Events in a circle',
        value: `${circle.length} events`,
        limit: 'an end',
        message: `${[...circle, circle[0]].map((event) => `“${words(event)}”`).join(', then ')}: it never ends`,
        why: 'The game goes on with it for ever, and stands still.',
        mend: null,
      },
    ]),
    ...doubled(all).map((event): [string, Finding] => [
      event.item,
      {
        ...common,
        ...at(event),
        rule: 'event-twice',
        severity: 'risky',
        title: 'Event that happens twice',
        value: 'twice',
        limit: 'once',
        message: `“${words(event)}” is done already when the same happens`,
        why: 'What is done twice at once starts over, or is heard twice.',
        mend: null,
      },
    ]),
    ...waitingForNothing(all).map((event): [string, Finding] => [
      event.item,
      {
        ...common,
        ...at(event),
        rule: 'event-never',
        severity: 'risky',
        title: 'Event that never happens',
        value: 'never',
        limit: 'something that sets it off',
        message: `“${words(event)}” never happens: no event does “${event.after ?? ''}” to ${event.event.at ?? event.item}`,
        why: 'What follows on something waits until that is done.',
        mend: null,
      },
    ]),
  ]
}

/** Findings in the order in which an item's are told. */
export const worstFirst = <T extends { severity: Finding['severity'] }>(findings: readonly T[]): T[] =>
  [...findings].sort((a, b) => severities.indexOf(a.severity) - severities.indexOf(b.severity))
