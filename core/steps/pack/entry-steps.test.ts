import { beforeAll, describe, expect, it } from 'vitest'
import type { Document } from '@gltf-transform/core'
import { kindOf } from '../../game/load.ts'
import { rulebookSchema } from '../../game/schema.ts'
import { entryAsPacked } from '../../operations/entry/entry-as-packed.ts'
import { entryOf } from '../../operations/entry/set-entry.ts'
import { checkItem } from '../../rules/registry.ts'
import { prepareDemo, tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { strictGame } from '../../test-support/strict-game.ts'
import { proposals, runStep } from '../../test-support/step-runs.ts'

const kind = kindOf(tarnAndTiller, 'mover')
const around = { rulebook: tarnAndTiller, kind }

let bell: Document
beforeAll(async () => {
  bell = (await prepareDemo('mooring_bell', 'mover')).result.document
})

describe('an entry', () => {
  it('says what is usual, and the name in words, where nobody said anything', () => {
    expect(entryAsPacked(bell, tarnAndTiller, kind, 'mooring_bell').fields).toEqual({
      title: 'Mooring bell',
      price: 40,
      shelf: 'quay',
      weatherproof: true,
    })
  })

  it('starts from a stock entry, and keeps what has to be its own', async () => {
    const { after } = await runStep('write-entry', bell, { from: 'quay_bell', fields: { price: 95 } }, around)
    // What the stock bell is like is of iron, and most of this one is timber.
    expect(entryOf(after).like).toBeUndefined()
    expect(entryOf(after).from).toBe('quay_bell')
    expect(entryAsPacked(after, tarnAndTiller, kind, 'mooring_bell').fields).toEqual({
      title: 'Mooring bell',
      about: 'Heard across the water.',
      price: 95,
      shelf: 'quay',
      weatherproof: true,
    })
  })

  it('takes a line out again, and adds to what another step said', async () => {
    const first = (await runStep('write-entry', bell, { fields: { about: 'Old.', price: 12 } }, around)).after
    const second = (await runStep('write-entry', first, { fields: { about: null, idle: 'sway' } }, around)).after
    expect(entryOf(second).fields).toEqual({ price: 12, idle: 'sway' })
  })

  it('is mended by what its finding says', async () => {
    const { after } = await runStep('write-entry', bell, { fields: { idle: 'swai', Titel: 'Bell' } }, around)
    const findings = checkItem({ document: after, rulebook: tarnAndTiller, kind, itemName: 'mooring_bell' }).findings
    const mends = findings.filter(({ rule }) => rule.startsWith('entry-'))
    expect(mends.map(({ rule }) => rule).sort()).toEqual(['entry-lost', 'entry-unknown'])
    let mended = after
    for (const { mend } of mends) mended = (await runStep('write-entry', mended, mend?.parameters, around)).after
    expect(entryOf(mended).fields).toEqual({ idle: 'sway', title: 'Bell' })
  })

  it('is proposed where the game asks for what nobody can guess, with what most things say', () => {
    const asking = rulebookSchema.parse({
      ...tarnAndTiller,
      catalogue: {
        ...tarnAndTiller.catalogue,
        fields: [
          ...tarnAndTiller.catalogue.fields,
          { key: 'swings', title: 'Swings', needed: true, value: { sort: 'reference', to: ['clip'] } },
          {
            key: 'berth',
            title: 'Berth',
            needed: true,
            value: { sort: 'choice', of: [{ word: 'lee', title: 'Lee' }] },
          },
        ],
      },
    })
    const [proposal] = proposals('write-entry', bell, { rulebook: asking, kind })
    expect(proposal.parameters).toMatchObject({ fields: { swings: 'sway', berth: 'lee' } })
    expect(proposals('write-entry', bell, around)).toEqual([])
  })
})

describe('a donor', () => {
  it('is proposed where it is called alike and agrees, and chosen by what it is made of where one has to be', () => {
    expect(proposals('borrow-behaviour', bell, around)).toEqual([])
    const strict = strictGame(tarnAndTiller)
    const [asked] = proposals('borrow-behaviour', bell, { rulebook: strict, kind: kindOf(strict, 'mover') })
    expect(asked.parameters).toEqual({ donor: 'stock_gate' })
  })

  it('says where it does not agree, and lets another be chosen', async () => {
    const { after, summary } = await runStep('borrow-behaviour', bell, { donor: 'stock_bell' }, around)
    expect(summary.details.join(' ')).toMatch(/Most of the item is timber; Quay bell sounds like iron/)
    const [finding] = checkItem({ document: after, rulebook: tarnAndTiller, kind }).findings.filter(
      ({ rule }) => rule === 'like-sound',
    )
    expect(finding.mend).toMatchObject({ step: 'borrow-behaviour', parameters: { donor: 'stock_gate' } })
  })

  it('that the game does not have leaves the item as it is', async () => {
    const { after, summary } = await runStep('borrow-behaviour', bell, { donor: 'stock_anvil' }, around)
    expect(summary.doesNotApply).toMatch(/no donor “stock_anvil”/)
    expect(entryOf(after).like).toBeUndefined()
  })
})

describe('a rulebook with a catalogue', () => {
  const withCatalogue = (change: object): string[] =>
    rulebookSchema
      .safeParse({ ...tarnAndTiller, catalogue: { ...tarnAndTiller.catalogue, ...change } })
      .error?.issues.map(({ message }) => message) ?? []
  const line = { key: 'hue', title: 'Hue', value: { sort: 'text' } }
  const wrong: [string, object, RegExp][] = [
    ['a line under the key of a file', { fields: [{ ...line, key: 'mesh' }] }, /has “mesh” for something else already/],
    ['two lines under one key', { fields: [line, line] }, /has “hue” for something else already/],
    [
      'a usual value that may not be said',
      { fields: [{ ...line, usual: 4 }] },
      /“hue” is 4; the game reads a text there/,
    ],
    [
      'a least above the most',
      { fields: [{ ...line, value: { sort: 'number', least: 5, most: 1 } }] },
      /the least is more than the most/,
    ],
    [
      'a number that begins as a name',
      { fields: [{ ...line, value: { sort: 'yes-no' }, fromName: true }] },
      /is no text/,
    ],
    [
      'a pattern that looks back',
      { fields: [{ ...line, value: { sort: 'text', pattern: '(?<=a)b' } }] },
      /no regular expression/,
    ],
  ]
  it.each(wrong)('is refused for %s, in a sentence', (_, change, message) => {
    expect(withCatalogue(change).join('\n')).toMatch(message)
  })

  it('is refused for an event that follows on nothing', () => {
    const { behaviour } = structuredClone(tarnAndTiller)
    behaviour.events.when.push({ word: 'sunk', title: 'Sunk', cause: 'follows', after: 'sink' })
    expect(rulebookSchema.safeParse({ ...tarnAndTiller, behaviour }).error?.issues[0].message).toBe(
      '“sunk” follows on “sink”, which no event does',
    )
  })

  it('of an earlier version lists events as words alone, which are read as what the game alone knows', () => {
    const earlier = {
      ...tarnAndTiller,
      behaviour: { own: false, likeDonor: true, events: { when: ['bumped'], do: ['ring'] } },
    }
    expect(rulebookSchema.parse(earlier).behaviour.events).toMatchObject({
      when: [{ word: 'bumped', cause: 'other' }],
      do: [{ word: 'ring', effect: 'other' }],
    })
  })
})
