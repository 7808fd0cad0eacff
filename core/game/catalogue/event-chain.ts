import type { ItemEvent } from '../../item/entry.ts'
import type { Rulebook } from '../schema.ts'

/** What events of several items hang on. */
export interface EventsOfItem {
  name: string
  /** Its parts and groups. */
  things: readonly string[]
  events: readonly ItemEvent[]
}

/** An event between things that are named throughout: an item, or an item and one of its things. */
export interface LinkedEvent {
  item: string
  /** Which of the item's events it is, from 0. */
  number: number
  event: ItemEvent
  at: string
  to: string
  /** What sets it off: a word of the game, or the action that it follows. */
  after: string | null
}

/** Every event of every item, its ends looked up. */
export function linkEvents(items: readonly EventsOfItem[], { behaviour }: Rulebook): LinkedEvent[] {
  const whenOf = new Map(behaviour.events.when.map((each) => [each.word, each]))
  return items.flatMap(({ name, things, events }) =>
    events.map((event, number) => {
      const when = whenOf.get(event.when)
      return {
        item: name,
        number,
        event,
        at: event.at === undefined ? name : `${name}/${event.at}`,
        to:
          event.to === undefined || (event.to === name && !things.includes(name))
            ? name
            : endOf(name, event.to, things),
        after: when?.cause === 'follows' ? when.after : null,
      }
    }),
  )
}

const endOf = (item: string, to: string, things: readonly string[]): string =>
  things.includes(to) ? `${item}/${to}` : to

/** Whether one thing is the other, or the whole item that the other is of. */
export const touches = (a: string, b: string): boolean => a === b || a.startsWith(`${b}/`) || b.startsWith(`${a}/`)

/** The events that follow on one. */
export const followers = (event: LinkedEvent, all: readonly LinkedEvent[]): LinkedEvent[] =>
  all.filter(({ after, at }) => after !== null && after === event.event.do && touches(at, event.to))

/** How far events are followed: more than any game links one after another. */
const MOST_STEPS = 10_000

/**
 * Events that follow on each other in a circle, each circle once, in its order.
 *
 * @example circles([rings, opens]) // [[rings, opens]] where each follows on the other
 */
export function circles(all: readonly LinkedEvent[]): LinkedEvent[][] {
  const found: LinkedEvent[][] = []
  const done = new Set<LinkedEvent>()
  let steps = 0
  for (const start of all) {
    // Depth first without recursion: a chain may be as long as there are events.
    const path: { event: LinkedEvent; next: LinkedEvent[] }[] = []
    const open = (event: LinkedEvent): void => void path.push({ event, next: followers(event, all) })
    if (!done.has(start)) open(start)
    while (path.length > 0 && steps++ < MOST_STEPS) {
      const top = path[path.length - 1]
      const next = top.next.shift()
      if (next === undefined) {
        done.add(top.event)
        path.pop()
        continue
      }
      const at = path.findIndex(({ event }) => event === next)
      if (at >= 0) found.push(path.slice(at).map(({ event }) => event))
      else if (!done.has(next)) open(next)
    }
  }
  return found
}

/** Everything that one happening sets going, however it comes about, without going round. */
function reached(start: readonly LinkedEvent[], all: readonly LinkedEvent[]): LinkedEvent[] {
  const order: LinkedEvent[] = []
  const waiting = [...start]
  while (waiting.length > 0 && order.length < MOST_STEPS) {
    const event = waiting.shift()
    if (!event || order.includes(event)) continue
    order.push(event)
    waiting.push(...followers(event, all))
  }
  return order
}

/** Events that do once more what another does already when the same happens; the later one of each two. */
export function doubled(all: readonly LinkedEvent[]): LinkedEvent[] {
  const twice = new Set<LinkedEvent>()
  const happenings = new Map<string, LinkedEvent[]>()
  for (const event of all) {
    if (event.after !== null) continue
    const happening = `${event.event.when} ${event.at}`
    happenings.set(happening, [...(happenings.get(happening) ?? []), event])
  }
  for (const start of happenings.values()) {
    const seen = new Set<string>()
    for (const event of reached(start, all)) {
      const does = `${event.event.do} ${event.to}`
      if (seen.has(does)) twice.add(event)
      seen.add(does)
    }
  }
  return all.filter((event) => twice.has(event))
}

/** Events that wait for an action that none does. */
export const waitingForNothing = (all: readonly LinkedEvent[]): LinkedEvent[] =>
  all.filter(({ after, at }) => after !== null && !all.some(({ event, to }) => event.do === after && touches(at, to)))
