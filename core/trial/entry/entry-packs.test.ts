import { unzipSync, zipSync } from 'fflate'
import { beforeAll, describe, expect, it } from 'vitest'
import { kindOf } from '../../game/load.ts'
import type { Rulebook } from '../../game/schema.ts'
import { openPack } from '../../pack/open-pack.ts'
import { packItems } from '../../pack/pack-crate.ts'
import { openItem } from '../../pack/take-item.ts'
import { judgePack } from '../../test-support/spoiled/judge-pack.ts'
import { prepareDemo, tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { strictGame } from '../../test-support/strict-game.ts'
import { runStep } from '../../test-support/step-runs.ts'

type Json = string | number | boolean | null | Json[] | { [key: string]: Json }
type Entry = { [key: string]: Json }
type Verdict = 'refuses' | 'complains' | 'takes'

const ENTRY = 'items/movers/mooring_bell/entry.json'
const leftHanded: Rulebook = {
  ...tarnAndTiller,
  space: { ...tarnAndTiller.space, up: '+z', forward: '-x', handedness: 'left' },
}
const games: [string, Rulebook][] = [
  ['Tarn & Tiller, made strict', strictGame(tarnAndTiller)],
  ['the same, seen in a mirror', strictGame(leftHanded)],
]

/** The bell twice, with everything that an entry may say. */
async function twoBells(rulebook: Rulebook): Promise<Record<string, Uint8Array>> {
  const kind = kindOf(rulebook, 'mover')
  const prepared = (await prepareDemo('mooring_bell', 'mover')).result.document
  const steps: [string, Record<string, unknown>][] = [
    ['add-solid', { part: 'swing_arm', shape: 'box', surface: 'timber', layers: ['walls', 'reach'] }],
    ['borrow-behaviour', { donor: 'stock_gate' }],
    [
      'write-entry',
      {
        fields: {
          about: 'Heard at Far Bank.',
          price: 90,
          lakes: ['tarn_head'],
          handle: 'swing_arm',
          idle: 'sway',
          shown: 'plain',
          goes_with: ['small_bell', 'davit'],
          code: 'MB7',
          crew: ['Ida'],
        },
      },
    ],
    [
      'link-events',
      {
        events: [
          { when: 'used', at: 'swing_arm', do: 'ring' },
          { when: 'rung', do: 'ring', to: 'small_bell' },
          { when: 'touched', do: 'open', to: 'swing_arm' },
        ],
      },
    ],
  ]
  let document = prepared
  for (const [id, parameters] of steps) document = (await runStep(id, document, parameters, { rulebook, kind })).after
  const small = (await runStep('borrow-behaviour', prepared, { donor: 'stock_gate' }, { rulebook, kind })).after
  const { bytes } = await packItems(
    [
      { name: 'mooring_bell', kind, document },
      { name: 'small_bell', kind, document: small },
    ],
    rulebook,
    'Bells',
  )
  return unzipSync(bytes)
}

const put =
  (change: Entry) =>
  (entry: Entry): Entry => ({ ...entry, ...change })
const without =
  (...keys: string[]) =>
  (entry: Entry): Entry =>
    Object.fromEntries(Object.entries(entry).filter(([key]) => !keys.includes(key)))
const events = (...list: Json[]) => put({ events: list })
const renamed =
  (from: string, to: string) =>
  (entry: Entry): Entry =>
    Object.fromEntries(Object.entries(entry).map(([key, value]) => [key === from ? to : key, value]))
/** A line that stands between two others where it is new, so that it is not out of order as well. */
const row =
  (change: Entry) =>
  (entry: Entry): Entry => ({
    ...entry,
    colours: [{ ...((entry['colours'] as Entry[])[0] ?? {}), ...change }],
  })

const deep = (steps: number): Json => (steps === 0 ? 1 : [deep(steps - 1)])

/** What is done to the entry, what check and the loader make of it, and what check calls it. */
const spoilers: [string, Verdict, string | null, (entry: Entry) => Entry][] = [
  ['as it was packed', 'takes', null, (entry) => entry],
  [
    'without what need not be said',
    'takes',
    null,
    without('about', 'lakes', 'idle', 'code', 'crew', 'events', 'shown'),
  ],
  // Keys.
  ['a key of another game', 'complains', 'entry-unknown', put({ weight: 12 })],
  ['a key with a letter too many', 'complains', 'entry-unknown', renamed('shelf', 'shelff')],
  ['a key in capitals', 'complains', 'entry-unknown', renamed('about', 'About')],
  ['a key of another kind', 'complains', 'entry-misplaced', put({ laps: 2 })],
  ['a key of a row at the top', 'complains', 'entry-unknown', put({ look: 'plain' })],
  [
    'a key of an event that the game does not have',
    'complains',
    'entry-unknown',
    events({ when: 'used', do: 'ring', loud: true }),
  ],
  ['a key of a row that the game does not have', 'complains', 'entry-unknown', row({ tint: 'red' })],
  // Missing.
  ['no title', 'refuses', 'entry-missing', without('title')],
  ['an empty title', 'refuses', 'entry-missing', put({ title: '' })],
  ['no price', 'refuses', 'entry-missing', without('price')],
  ['no title of a look', 'refuses', 'entry-missing', (entry) => ({ ...entry, colours: [{ look: 'plain' }] })],
  ['a look without a row', 'refuses', 'entry-row-missing', put({ colours: [] })],
  ['no donor', 'refuses', 'like-missing', without('like')],
  // Sorts.
  ['a number as text', 'refuses', 'entry-type', put({ price: '90' })],
  ['a text as number', 'refuses', 'entry-type', put({ title: 7 })],
  ['nothing as a value', 'refuses', 'entry-type', put({ about: null })],
  ['a switch as text', 'refuses', 'entry-type', put({ weatherproof: 'yes' })],
  ['a list as one word', 'refuses', 'entry-type', put({ lakes: 'tarn_head' })],
  ['a name as number', 'refuses', 'entry-type', put({ handle: 3 })],
  ['rows as one row', 'refuses', 'entry-type', put({ colours: { look: 'plain', title: 'Bell' } })],
  ['events as one event', 'refuses', 'entry-type', put({ events: { when: 'used', do: 'ring' } })],
  ['an event without what it does', 'refuses', 'entry-type', events({ when: 'used' })],
  ['a key longer than any', 'refuses', 'entry-type', put({ ['k'.repeat(201)]: 1 })],
  ['a key of a row longer than any', 'refuses', 'entry-type', row({ ['k'.repeat(201)]: 1 })],
  ['a value that lies too deep', 'refuses', 'entry-type', put({ weight: deep(41) })],
  ['a donor with a name longer than any', 'refuses', 'like-unknown', put({ like: 'g'.repeat(300) })],
  // Ranges.
  ['a price of nothing', 'refuses', 'entry-range', put({ price: 0 })],
  ['a price beyond the most', 'refuses', 'entry-range', put({ price: 5001 })],
  ['half a shilling', 'refuses', 'entry-range', put({ price: 90.5 })],
  ['a title that is too long', 'complains', 'entry-length', put({ title: 'A bell '.repeat(8) })],
  ['a code of another form', 'refuses', 'entry-pattern', put({ code: 'mb-7' })],
  ['a crew of nobody', 'refuses', 'entry-count', put({ crew: [] })],
  ['a crew of three', 'refuses', 'entry-count', put({ crew: ['Ida', 'Tom', 'Ann'] })],
  ['a crew of one, twice', 'complains', 'entry-twice', put({ crew: ['Ida', 'Ida'] })],
  ['a word that is none of the game’s', 'refuses', 'entry-choice', put({ shelf: 'attic' })],
  ['a word in capitals', 'refuses', 'entry-choice', put({ shelf: 'Quay' })],
  ['a price far from what the game has', 'takes', 'entry-unusual', put({ price: 4000 })],
  // References.
  ['a part one letter off', 'refuses', 'entry-lost', put({ handle: 'swing_arn' })],
  ['a part in capitals', 'refuses', 'entry-lost', put({ handle: 'Swing_arm' })],
  ['a clip where a part should be', 'refuses', 'entry-wrong-target', put({ handle: 'sway' })],
  ['a part where a clip should be', 'refuses', 'entry-wrong-target', put({ idle: 'swing_arm' })],
  ['a clip that is not there', 'refuses', 'entry-lost', put({ idle: 'ring' })],
  ['a look that is not there', 'refuses', 'entry-lost', put({ shown: 'red' })],
  ['an item that is not there', 'refuses', 'entry-lost', put({ goes_with: ['great_bell'] })],
  ['a row of a look that is not there', 'refuses', 'entry-row-look', row({ look: 'red' })],
  [
    'two rows of a look',
    'refuses',
    'entry-row-twice',
    (entry) => ({ ...entry, colours: [...(entry['colours'] as Json[]), ...(entry['colours'] as Json[])] }),
  ],
  // Names that are taken.
  ['the title of another item', 'refuses', 'entry-alike', put({ title: 'Small bell' })],
  ['the title of a thing in stock', 'refuses', 'entry-alike', put({ title: 'Quay bell' })],
  // Order.
  ['a line before its turn', 'complains', 'entry-order', ({ price, ...entry }) => ({ price, ...entry })],
  ['a line after its turn', 'complains', 'entry-order', ({ title, ...entry }) => ({ ...entry, title })],
  // Donors.
  ['a donor one letter off', 'refuses', 'like-unknown', put({ like: 'stock_gat' })],
  ['a donor of another kind', 'refuses', 'like-kind', put({ like: 'stock_stove' })],
  ['a donor of another surface', 'complains', 'like-sound', put({ like: 'stock_bell' })],
  ['a donor whose solids are of something else', 'complains', 'like-solids', put({ like: 'stock_bell' })],
  ['a donor that leaves what the item is not of', 'complains', 'like-remains', put({ like: 'stock_sail' })],
  // Events.
  ['a cause that the game does not have', 'refuses', 'event-when', events({ when: 'kicked', do: 'ring' })],
  ['an action that the game does not have', 'refuses', 'event-do', events({ when: 'used', do: 'rign' })],
  ['an event at what is not there', 'refuses', 'event-at', events({ when: 'used', at: 'rope', do: 'ring' })],
  ['an event to what is not there', 'refuses', 'event-to', events({ when: 'used', do: 'ring', to: 'great_bell' })],
  ['an event that nothing sets off', 'complains', 'event-never', events({ when: 'used', at: 'post', do: 'ring' })],
  ['an event that waits for nothing', 'complains', 'event-never', events({ when: 'opened', do: 'ring' })],
  ['an end of a run without a marker', 'complains', 'event-never', events({ when: 'arrived', do: 'ring' })],
  [
    'an event that moves what stands still',
    'complains',
    'event-nothing',
    events({ when: 'used', do: 'open', to: 'post' }),
  ],
  ['a light that is not there', 'complains', 'event-nothing', events({ when: 'used', do: 'light' })],
  ['an event twice', 'complains', 'event-twice', events({ when: 'used', do: 'ring' }, { when: 'used', do: 'ring' })],
  [
    'an event once more by a way round',
    'complains',
    'event-twice',
    events({ when: 'used', do: 'ring' }, { when: 'used', do: 'open' }, { when: 'opened', do: 'ring' }),
  ],
  ['an event that sets itself off', 'refuses', 'event-circle', events({ when: 'rung', do: 'ring' })],
  [
    'two events in a circle',
    'refuses',
    'event-circle',
    events({ when: 'rung', do: 'open' }, { when: 'opened', do: 'ring' }),
  ],
  [
    'more events than the game takes',
    'refuses',
    'events-too-many',
    events(...Array.from({ length: 17 }, (): Json => ({ when: 'used', do: 'ring' }))),
  ],
]

describe.each(games)('an entry in %s', (_, rulebook) => {
  let files: Record<string, Uint8Array>
  beforeAll(async () => {
    files = await twoBells(rulebook)
  })
  const judgeText = (text: string): ReturnType<typeof judgePack> =>
    judgePack(new Map(Object.entries({ ...files, [ENTRY]: new TextEncoder().encode(text) })), rulebook)
  const entry = (): Entry => JSON.parse(new TextDecoder().decode(files[ENTRY])) as Entry

  it('says everything that its rulebook asks', () => {
    expect(entry()).toMatchObject({
      title: 'Mooring bell',
      price: 90,
      shelf: 'quay',
      colours: [{ look: 'plain', title: 'Mooring bell' }],
      like: 'stock_gate',
      events: [{ when: 'used', at: 'swing_arm', do: 'ring' }, { when: 'rung', to: 'small_bell' }, { when: 'touched' }],
    })
  })

  it.each(spoilers)('with %s: both say that the game %s it', async (_what, verdict, rule, spoil) => {
    const { check, loader, told, rules } = await judgeText(JSON.stringify(spoil(entry())))
    expect({ check, loader }, told.join('\n')).toEqual({ check: verdict, loader: verdict })
    if (rule !== null) expect(rules).toContain(rule)
  })

  it('comes out of its pack and goes into another, byte for byte', async () => {
    const taken = openPack(zipSync(files), 'bells.zip', [rulebook])
    const kind = kindOf(rulebook, 'mover')
    const again = await packItems(
      [
        { name: 'mooring_bell', kind, document: await openItem(taken, 'mooring_bell') },
        { name: 'small_bell', kind, document: await openItem(taken, 'small_bell') },
      ],
      rulebook,
      'Bells',
    )
    const bytes = unzipSync(again.bytes)
    for (const path of Object.keys(files).filter((each) => each.endsWith('entry.json')))
      expect(new TextDecoder().decode(bytes[path])).toBe(new TextDecoder().decode(files[path]))
  })

  it('that says a line twice is refused by both', async () => {
    const { check, loader, rules } = await judgeText(
      JSON.stringify(entry()).replace('"price":', '"price": 5, "price":'),
    )
    expect({ check, loader }).toEqual({ check: 'refuses', loader: 'refuses' })
    expect(rules).toContain('entry-key-twice')
  })

  it('of a name that the game has is refused by both', async () => {
    const taken = { ...rulebook, stock: { ...rulebook.stock, entries: [...rulebook.stock.entries] } }
    taken.stock.entries.push({ id: 'mooring_bell', title: 'Old bell', kind: 'mover', fields: {}, events: [] })
    const { check, loader, rules } = await judgePack(new Map(Object.entries(files)), taken)
    expect({ check, loader }).toEqual({ check: 'refuses', loader: 'refuses' })
    expect(rules).toContain('entry-id-taken')
  })
})
