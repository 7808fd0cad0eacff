import { describe, expect, it } from 'vitest'
import { rulebookById } from '../load.ts'
import { EventChain, linkEvents, type EventsOfItem, type LinkedEvent } from './event-chain.ts'
import { eventInWords } from './event-words.ts'

const tarn = rulebookById('tarn-and-tiller')
const chain = (...items: EventsOfItem[]): EventChain => new EventChain(linkEvents(items, tarn))
const item = (name: string, things: string[], ...events: EventsOfItem['events']): EventsOfItem => ({
  name,
  things,
  events,
})
const words = (events: readonly LinkedEvent[]): string[] => events.map((each) => eventInWords(each.event, each.item))

describe('events that follow on each other', () => {
  it('end where each is set off by a hand and nothing leads back', () => {
    const events = chain(
      item(
        'gate',
        ['leaf'],
        { when: 'used', do: 'open', to: 'leaf' },
        { when: 'opened', at: 'leaf', do: 'ring', to: 'bell' },
      ),
      item('bell', []),
    )
    expect(events.circles()).toEqual([])
    expect(events.doubled()).toEqual([])
    expect(events.waitingForNothing()).toEqual([])
  })

  it('are found where they go round, across items', () => {
    const events = chain(
      item('gate', [], { when: 'rung', do: 'ring', to: 'bell' }),
      item('bell', [], { when: 'rung', do: 'ring', to: 'gate' }),
    )
    expect(events.circles().map(words)).toEqual([['gate rung → ring bell', 'bell rung → ring gate']])
  })

  it('that set themselves off are a circle of one', () => {
    expect(
      chain(item('bell', [], { when: 'rung', do: 'ring' }))
        .circles()
        .map(words),
    ).toEqual([['bell rung → ring bell']])
  })

  it('reach an item by any of its things, and not another item of a like name', () => {
    const rings: EventsOfItem['events'][number] = { when: 'used', do: 'ring', to: 'leaf' }
    const hides = { when: 'rung', do: 'hide' }
    expect(chain(item('gate', ['leaf'], rings, hides)).waitingForNothing()).toEqual([])
    const apart = chain(item('gate', ['leaf'], rings), item('gate_2', [], hides))
    expect(words(apart.waitingForNothing())).toEqual(['gate_2 rung → hide gate_2'])
  })

  it('wait in vain where nothing does what they follow on', () => {
    const events = chain(item('gate', [], { when: 'opened', do: 'ring' }, { when: 'used', do: 'close' }))
    expect(words(events.waitingForNothing())).toEqual(['gate opened → ring gate'])
  })

  it('that come to the same thing by two ways are done twice', () => {
    const events = chain(
      item(
        'gate',
        [],
        { when: 'used', do: 'ring', to: 'bell' },
        { when: 'used', do: 'open' },
        { when: 'opened', do: 'ring', to: 'bell' },
      ),
      item('bell', []),
    )
    expect(words(events.doubled())).toEqual(['gate opened → ring bell'])
  })

  it('of two happenings may do the same', () => {
    expect(chain(item('gate', [], { when: 'used', do: 'ring' }, { when: 'bumped', do: 'ring' })).doubled()).toEqual([])
  })
})

describe('very many events', () => {
  const many = (count: number): EventsOfItem[] =>
    Array.from({ length: count }, (_, at) =>
      item(`bell_${at}`, [], { when: 'rung', do: 'ring', to: `bell_${(at + 1) % count}` }),
    )

  it('are followed in one long chain, without running out of room', () => {
    const circles = chain(...many(4000)).circles()
    expect(circles.map(({ length }) => length)).toEqual([4000])
  })

  it('beyond a bound are not followed at all', () => {
    expect(linkEvents(many(5001), tarn)).toEqual([])
  })

  it('of one item count as far as the game takes them', () => {
    const events = Array.from({ length: 40 }, () => ({ when: 'used', do: 'ring' }))
    expect(linkEvents([item('bell', [], ...events)], tarn)).toHaveLength(tarn.behaviour.events.most)
  })

  it('that all set each other off tell a few circles, and end', () => {
    const knot = Array.from({ length: 60 }, (_, at) =>
      item(
        `bell_${at}`,
        [],
        ...Array.from({ length: 16 }, (_, to) => ({ when: 'rung', do: 'ring', to: `bell_${to}` })),
      ),
    )
    expect(chain(...knot).circles().length).toBe(20)
  })
})
