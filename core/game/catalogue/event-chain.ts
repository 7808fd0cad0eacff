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

/** Events of all items together: of more than these none are followed. */
const MOST_EVENTS = 5000
/** How many events are followed from one happening, and how many circles are told. */
const MOST_REACHED = 500
const MOST_CIRCLES = 20

/**
 * Every event of every item, its ends looked up; those beyond what the game takes of an item are left out.
 * @example const never = linkEvents(items, rulebook).filter(({ to }) => to === null)
 */
export function linkEvents(items: readonly EventsOfItem[], { behaviour }: Rulebook): LinkedEvent[] {
  const whenOf = new Map(behaviour.events.when.map((each) => [each.word, each]))
  const linked = items.flatMap(({ name, things, events }) => {
    const own = new Set(things)
    return events.slice(0, behaviour.events.most).map((event, number): LinkedEvent => {
      const when = whenOf.get(event.when)
      return {
        item: name,
        number,
        event,
        at: event.at === undefined ? name : `${name}/${event.at}`,
        to: event.to === undefined ? name : own.has(event.to) ? `${name}/${event.to}` : event.to,
        after: when?.cause === 'follows' ? when.after : null,
      }
    })
  })
  return linked.length > MOST_EVENTS ? [] : linked
}

/** Whether one thing is the other, or the whole item that the other is of. */
const touches = (a: string, b: string): boolean => a === b || a.startsWith(`${b}/`) || b.startsWith(`${a}/`)

/** Which events follow on which; those of one item that follow on one action are found at once. */
export class EventChain {
  private readonly waiting = new Map<string, LinkedEvent[]>()
  private readonly done = new Map<string, LinkedEvent[]>()

  constructor(private readonly all: readonly LinkedEvent[]) {
    for (const each of all) {
      if (each.after !== null) put(this.waiting, `${each.after} ${itemOf(each.at)}`, each)
      put(this.done, `${each.event.do} ${itemOf(each.to)}`, each)
    }
  }

  /**
   * Events that follow on each other in a circle, each circle in its order.
   *
   * @example new EventChain([rings, opens]).circles() // [[rings, opens]] where each follows on the other
   */
  circles(): LinkedEvent[][] {
    const found: LinkedEvent[][] = []
    const finished = new Set<LinkedEvent>()
    for (const start of this.all) {
      if (finished.has(start)) continue
      // Depth first without recursion: a chain may be as long as there are events.
      const path: { event: LinkedEvent; next: LinkedEvent[] }[] = []
      const placeOnPath = new Map<LinkedEvent, number>()
      const open = (event: LinkedEvent): void => {
        placeOnPath.set(event, path.length)
        path.push({ event, next: [...this.followers(event)] })
      }
      open(start)
      for (let top = path.at(-1); top; top = path.at(-1)) {
        const next = top.next.shift()
        if (next === undefined) {
          finished.add(top.event)
          placeOnPath.delete(top.event)
          path.pop()
          continue
        }
        const at = placeOnPath.get(next)
        if (at !== undefined) found.push(path.slice(at).map(({ event }) => event))
        else if (!finished.has(next)) open(next)
        if (found.length >= MOST_CIRCLES) return found
      }
    }
    return found
  }

  /** Events that do once more what another does already when the same happens; the later one of each two. */
  doubled(): LinkedEvent[] {
    const happenings = new Map<string, LinkedEvent[]>()
    for (const each of this.all) if (each.after === null) put(happenings, `${each.event.when} ${each.at}`, each)
    const twice = new Set<LinkedEvent>()
    for (const start of happenings.values()) {
      const seen = new Set<string>()
      for (const each of this.reached(start)) {
        const does = `${each.event.do} ${each.to}`
        if (seen.has(does)) twice.add(each)
        seen.add(does)
      }
    }
    return this.all.filter((event) => twice.has(event))
  }

  /** Events that wait for an action that none does. */
  waitingForNothing(): LinkedEvent[] {
    return this.all.filter(
      ({ after, at }) =>
        after !== null && !(this.done.get(`${after} ${itemOf(at)}`) ?? []).some(({ to }) => touches(at, to)),
    )
  }

  private followers({ event, to }: LinkedEvent): LinkedEvent[] {
    return (this.waiting.get(`${event.do} ${itemOf(to)}`) ?? []).filter(({ at }) => touches(at, to))
  }

  /** Everything that one happening sets going, however it comes about, without going round. */
  private reached(start: readonly LinkedEvent[]): LinkedEvent[] {
    const met = new Set(start)
    // A set is walked in the order in which things come to it, those that come meanwhile too.
    for (const event of met) {
      if (met.size > MOST_REACHED) break
      for (const next of this.followers(event)) met.add(next)
    }
    return [...met]
  }
}

const itemOf = (thing: string): string => thing.split('/', 1)[0]

function put(map: Map<string, LinkedEvent[]>, key: string, event: LinkedEvent): void {
  const list = map.get(key)
  if (list) list.push(event)
  else map.set(key, [event])
}
