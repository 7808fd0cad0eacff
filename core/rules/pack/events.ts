import { nearest, orNearest } from '../../game/nearest.ts'
import { eventFacts, type EventFacts } from '../../operations/entry/event-facts.ts'
import { namesWithin } from '../../operations/entry/names-within.ts'
import { getRootExtras } from '../../item/extras.ts'
import type { ItemEvent } from '../../item/entry.ts'
import { eventInWords, eventsMend } from '../../game/catalogue/event-words.ts'
import { nowhere, type Finding, type RuleContext, type RuleFamily } from '../rule.ts'

/** Events of an entry by themselves; what follows on what is looked at for all items together. */
export const eventRules: RuleFamily = { id: 'events', check }

function check(context: RuleContext): Finding[] {
  const { document, rulebook, kind, itemName } = context
  const events = getRootExtras(document.getRoot()).entry?.events ?? []
  if (events.length === 0) return []
  const { events: known } = rulebook.behaviour
  const ofAll = { stage: 'pack' as const, where: itemName, place: nowhere, mend: null }
  if (known.when.length === 0)
    return [
      {
        ...ofAll,
        rule: 'entry-unknown',
        severity: 'risky',
        title: 'Line the game does not know',
        value: 'events',
        limit: 'none',
        message: 'The game passes over events: it has none',
        why: 'The game passes over what it does not know, and says nothing.',
        mend: eventsMend([]),
      },
    ]
  const { part, group } = namesWithin(document, kind, itemName)
  const own: OwnEvents = {
    events,
    things: new Set([...part, ...group]),
    facts: eventFacts(document, rulebook, kind),
  }
  return [
    ...(events.length > known.most
      ? [
          {
            ...ofAll,
            rule: 'events-too-many',
            severity: 'blocks' as const,
            title: 'Too many events',
            value: String(events.length),
            limit: String(known.most),
            message: `It has ${events.length} events; the game takes ${known.most} of an item`,
            why: 'The game looks through them all whenever something happens.',
          },
        ]
      : []),
    ...events.flatMap((event, number) => [
      ...wrongWords(event, number, own, context),
      ...idle(event, number, own, context),
    ]),
  ]
}

/** What each event of an item is held against, made once for all of them. */
interface OwnEvents {
  events: readonly ItemEvent[]
  /** Names of its parts and groups. */
  things: ReadonlySet<string>
  facts: EventFacts
}

const placeOf = (number: number, context: RuleContext): Pick<Finding, 'stage' | 'where' | 'place'> => ({
  stage: 'pack',
  where: `${context.itemName}: event ${number + 1}`,
  place: nowhere,
})

/** Words that the game does not have, things that are not there. */
function wrongWords(event: ItemEvent, number: number, { events, things }: OwnEvents, context: RuleContext): Finding[] {
  const { rulebook, itemName } = context
  const wrong = (slot: 'when' | 'at' | 'do', known: readonly string[], what: string, why: string): Finding[] => {
    const word = event[slot]
    if (word === undefined || known.includes(word)) return []
    const near = nearest(word, known)
    return [
      {
        ...placeOf(number, context),
        rule: `event-${slot}`,
        severity: 'blocks',
        title:
          slot === 'when' || slot === 'do' ? 'Event in words the game does not have' : 'Event of what is not there',
        value: word,
        limit: known.slice(0, 8).join(', ') || 'nothing',
        message: `“${eventInWords(event, itemName)}”: there is no ${what} “${word}”${orNearest(near)}`,
        why,
        mend:
          near === null
            ? null
            : eventsMend(events.map((each, at) => (at === number ? { ...each, [slot]: near } : each))),
      },
    ]
  }
  const words = 'The game refuses an event that it cannot read.'
  const ends = 'The game looks up both ends of an event, and gives up where it finds nothing.'
  return [
    ...wrong(
      'when',
      rulebook.behaviour.events.when.map(({ word }) => word),
      'cause',
      words,
    ),
    ...wrong('at', [...things], 'part or group', ends),
    ...wrong(
      'do',
      rulebook.behaviour.events.do.map(({ word }) => word),
      'action',
      words,
    ),
  ]
}

/** Events that nothing sets off, or of which nothing is seen. */
function idle(event: ItemEvent, number: number, { things, facts }: OwnEvents, context: RuleContext): Finding[] {
  const { rulebook, itemName } = context
  const isOwn = (thing: string | undefined): boolean => thing === undefined || things.has(thing)
  const when = rulebook.behaviour.events.when.find(({ word }) => word === event.when)
  const what = rulebook.behaviour.events.do.find(({ word }) => word === event.do)
  const thing = event.to === itemName && !isOwn(event.to) ? undefined : event.to
  const common = { ...placeOf(number, context), severity: 'risky' as const, mend: null }
  return [
    ...(when && when.cause !== 'follows' && isOwn(event.at) && !facts.isSetOff(when.cause, event.at)
      ? [
          {
            ...common,
            rule: 'event-never',
            title: 'Event that never happens',
            value: 'never',
            limit: 'something that sets it off',
            message:
              `“${eventInWords(event, itemName)}” never happens: ` +
              `${neverWords(when.cause, event.at ?? itemName, rulebook)}`,
            why: 'Events are set off by what the figure and things meet, and those are solids and markers.',
          },
        ]
      : []),
    ...(what && isOwn(thing) && !facts.acts(what.effect, thing)
      ? [
          {
            ...common,
            rule: 'event-nothing',
            title: 'Event that does nothing',
            value: 'nothing is seen',
            limit: what.effect === 'lights-up' ? 'a light' : 'a clip',
            message:
              `“${eventInWords(event, itemName)}” does nothing: ` +
              `${what.effect === 'lights-up' ? `no light hangs on ${thing ?? itemName}` : `no clip moves ${thing ?? itemName}`}`,
            why: 'The game does it all the same, and nobody sees why the event is there.',
          },
        ]
      : []),
  ]
}

function neverWords(cause: string, thing: string, { solids }: RuleContext['rulebook']): string {
  if (cause === 'marker-reached') return `${thing} has no marker where a run ends`
  const layers = (meanings: readonly string[]): string =>
    solids.layers
      .filter(({ means }) => means !== null && meanings.includes(means))
      .map(({ name }) => name)
      .join(' or ')
  const named = layers(
    cause === 'handled' ? ['handled'] : cause === 'hit' ? ['stops', 'moves'] : ['walked-on', 'stops'],
  )
  return `${thing} has no solid${named === '' ? '' : ` on ${named}`}`
}
