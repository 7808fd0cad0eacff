import { EventChain, linkEvents, type LinkedEvent } from './event-chain.ts'
import { eventInWords, eventsMend } from './event-words.ts'
import { nearest, orNearest } from '../nearest.ts'
import { lostName } from './lost-name.ts'
import { nowhereInPack, type EntryFault } from './entry-faults.ts'
import type { Rulebook } from '../schema.ts'
import type { TogetherFacts } from './together-facts.ts'

/**
 * What only shows when the items of a pack are looked at together: lines that two say alike, and events that follow on
 * each other. By the item that it is said of.
 *
 * @example togetherFaults(items.map(({ facts }) => facts), rulebook).get('mooring_bell')
 */
export function togetherFaults(items: readonly TogetherFacts[], rulebook: Rulebook): Map<string, EntryFault[]> {
  const found = new Map<string, EntryFault[]>()
  const say = (item: string, finding: EntryFault): void => void found.set(item, [...(found.get(item) ?? []), finding])
  for (const [item, finding] of [
    ...saidAlike(items, rulebook),
    ...lostNames(items),
    ...eventsTogether(items, rulebook),
  ])
    say(item, finding)
  return found
}

const common = nowhereInPack

/** Lines that no two things of the game may say alike. */
function saidAlike(items: readonly TogetherFacts[], { stock, catalogue }: Rulebook): [string, EntryFault][] {
  const first = new Map<string, string>()
  for (const { key } of catalogue.fields.filter(({ unique }) => unique))
    for (const { title, fields } of stock.entries)
      if (Object.hasOwn(fields, key)) first.set(`${key} ${JSON.stringify(fields[key])}`, title)
  return items.flatMap(({ name, unique }) =>
    Object.entries(unique).flatMap(([key, value]): [string, EntryFault][] => {
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

/** Names of items that are not there. */
function lostNames(items: readonly TogetherFacts[]): [string, EntryFault][] {
  return items.flatMap((item) =>
    item.names.flatMap(({ ofKinds, ...line }): [string, EntryFault][] => {
      const fits = ({ kind }: TogetherFacts): boolean => ofKinds === null || ofKinds.includes(kind)
      if (items.some((each) => each.name === line.name && fits(each))) return []
      const candidates = items.filter(fits).map(({ name }) => name)
      const isThere = items.some(({ name }) => name === line.name)
      return [[item.name, lostName(line, ['item'], candidates, isThere ? 'item' : null)]]
    }),
  )
}

/** Events to things that are neither of the item nor another item. */
const eventsToNothing = (items: readonly TogetherFacts[]): [string, EntryFault][] =>
  items.flatMap(({ name, things, events }) =>
    events.flatMap((event, number): [string, EntryFault][] => {
      const known = [...things, ...items.map((each) => each.name)]
      if (event.to === undefined || known.includes(event.to)) return []
      const near = nearest(event.to, known)
      return [
        [
          name,
          {
            ...common,
            rule: 'event-to',
            severity: 'blocks',
            title: 'Event of what is not there',
            where: `${name}: event ${number + 1}`,
            value: event.to,
            limit: known.slice(0, 8).join(', '),
            message: `“${eventInWords(event, name)}”: there is no part, group or item “${event.to}”${orNearest(near)}`,
            why: 'The game looks up both ends of an event, and gives up where it finds nothing.',
            mend:
              near === null
                ? null
                : eventsMend(events.map((each, at) => (at === number ? { ...each, to: near } : each))),
          },
        ],
      ]
    }),
  )

function eventsTogether(items: readonly TogetherFacts[], rulebook: Rulebook): [string, EntryFault][] {
  const chain = new EventChain(linkEvents(items, rulebook))
  const words = ({ event, item }: LinkedEvent): string => eventInWords(event, item)
  const at = ({ item, number }: LinkedEvent): { where: string } => ({ where: `${item}: event ${number + 1}` })
  return [
    ...eventsToNothing(items),
    ...chain.circles().map((circle): [string, EntryFault] => [
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
    ...chain.doubled().map((event): [string, EntryFault] => [
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
    ...chain.waitingForNothing().map((event): [string, EntryFault] => [
      event.item,
      {
        ...common,
        ...at(event),
        rule: 'event-never',
        severity: 'risky',
        title: 'Event that never happens',
        value: 'never',
        limit: 'something that sets it off',
        message:
          `“${words(event)}” never happens: no event does “${event.after ?? ''}” to ` +
          `${event.event.at ?? event.item}`,
        why: 'What follows on something waits until that is done.',
        mend: null,
      },
    ]),
  ]
}
