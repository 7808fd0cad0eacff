import type { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { prepareItem } from '../crate/prepare-item.ts'
import { bodyInName, bodyName } from '../game/body-names.ts'
import { kindOf, rulebookById } from '../game/load.ts'
import { wrongBodies } from '../game/wrong-bodies.ts'
import { rulebookSchema, type Rulebook } from '../game/schema.ts'
import { boxMesh } from '../geometry/shapes/box-mesh.ts'
import { listViewParts } from '../item/parts.ts'
import { packItems } from '../pack/pack-crate.ts'
import { checkItem } from '../rules/registry.ts'
import { documentOf, turnedOver } from '../test-support/meshes.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { runStep } from '../test-support/step-runs.ts'
import { memoryStore } from '../worklist/result-store.ts'
import { cutHollows } from './cut-hollows.ts'
import { layByPlace } from './lay-by-place.ts'
import { loadPack } from './load-pack.ts'
import { Yard } from './yard/yard.ts'
import type { YardInput } from './yard/yard-frame.ts'

const hollinKeep = rulebookById('hollin-keep')

/** A game with other words for the same: the word stands at the end, and nothing is trim. */
const other: Rulebook = rulebookSchema.parse({
  ...tarnAndTiller,
  id: 'tarn-caves',
  bodies: { solid: '{part}_rock', hollow: '{part}_cave', trim: '{part}_deco' },
  kinds: tarnAndTiller.kinds.map((kind) => (kind.id === 'ground' ? { ...kind, faceRoles: ['solid', 'hollow'] } : kind)),
})

/** A rock with a passage through it from front to back, as a room whose faces look inward; and a rail beside. */
const rock = (names = { rock: 'rock', passage: 'passage', rail: 'rail' }): Document =>
  documentOf({
    [names.rock]: boxMesh({ min: [-4, 0, -4], max: [4, 5, 4] }),
    [names.passage]: turnedOver(boxMesh({ min: [-1.5, 0.5, -5], max: [1.5, 4, 5] })),
    [names.rail]: openBox([2, 5, 0], [2.2, 6, 1]),
  })

/** A box without its first face. */
function openBox(min: [number, number, number], max: [number, number, number]) {
  const { positions, indices } = boxMesh({ min, max })
  return { positions, indices: indices.slice(6) }
}

const findings = (document: Document, rulebook: Rulebook) =>
  checkItem({ document, rulebook, kind: kindOf(rulebook, 'ground'), itemName: 'rock', slot: null }).findings

const load = async (document: Document, rulebook: Rulebook) => {
  const kind = kindOf(rulebook, 'ground')
  const { bytes } = await packItems([{ name: 'rock', kind, document }], rulebook, 'rock')
  return loadPack(bytes, rulebook)
}

async function prepared(document: Document, rulebook = tarnAndTiller): Promise<Document> {
  const kind = kindOf(rulebook, 'ground')
  const { result } = await prepareItem(
    { key: 'rock', document },
    { rulebook, kind, store: memoryStore() },
    { itemName: 'rock' },
  )
  return result.document
}

const namesIn = (document: Document): string[] => listViewParts(document).map(({ name }) => name)

describe('solid, hollow and trim', () => {
  it('are told by Prepare from how faces look, in the words of each game', async () => {
    expect(namesIn(await prepared(rock()))).toEqual(['rock', 'hollow_passage', 'trim_rail'])
    expect(namesIn(await prepared(rock(), other))).toEqual(['rock', 'passage_cave', 'rail'])
  })

  it('are kept where their names said so already, spelt as the game reads them', async () => {
    const names = { rock: 'Big Rock', passage: 'hollow_The Passage', rail: 'trim_Rail 1' }
    expect(namesIn(await prepared(rock(names)))).toEqual(['big_rock', 'hollow_the_passage', 'trim_rail_1'])
  })

  it('are walked through in Trial: the passage is cut out, shows its finish, and the rail stops nobody', async () => {
    const { loads, items, log } = await load(await prepared(rock()), tarnAndTiller)
    expect(loads).toBe(true)
    expect(log.filter(({ code }) => code.startsWith('body.'))).toEqual([])
    const [item] = items
    expect(item.solids.map(({ name }) => name)).toEqual(['rock'])
    const cut = await cutHollows(item, tarnAndTiller)
    expect(cut.view.map(({ name }) => name)).toEqual(['rock', 'trim_rail'])
    // The passage leads through it from end to end: what is drawn of the rock shows both finishes, each once.
    expect(cut.solids.length).toBe(cut.view[0].primitives.length)
    const materials = new Set(cut.view[0].primitives.map(({ material }) => material))
    expect(materials.size).toBe(new Set(item.view.slice(0, 2).map(({ primitives }) => primitives[0].material)).size)
    const through = async (solids: typeof cut.solids): Promise<number> => {
      const yard = await Yard.open([{ name: 'rock', solids, loose: false }], tarnAndTiller, [0, 0.6, 0])
      const ahead: YardInput = { walk: [0, 0, 1], look: [0, 0, 1], actions: [] }
      let furthest = 0
      for (let step = 0; step < 400; step++) furthest = yard.step(ahead).feet[2]
      yard.close()
      return furthest
    }
    expect(await through(cut.solids)).toBeGreaterThan(5)
    expect(await through(item.solids)).toBeLessThan(4)
  })

  it('leaves an item without rooms as it is', async () => {
    const [item] = (
      await load(await prepared(documentOf({ quay: boxMesh({ min: [0, 0, 0], max: [4, 1, 4] }) })), other)
    ).items
    expect(await cutHollows(item, other)).toBe(item)
  })
})

describe('bodies that cannot be cut', () => {
  const solid = boxMesh({ min: [-4, 0, -4], max: [4, 5, 4] })
  const room = boxMesh({ min: [-1, 1, -1], max: [1, 3, 1] })
  type Parts = Parameters<typeof documentOf>[0]
  const cases: { what: string; parts: Parts; rule: string | null; code: string | null }[] = [
    { what: 'all is well', parts: { rock: solid, hollow_room: turnedOver(room) }, rule: null, code: null },
    {
      what: 'a room looks outward',
      parts: { rock: solid, hollow_room: room },
      rule: 'hollow-outward',
      code: 'body.side',
    },
    { what: 'a solid looks inward', parts: { rock: turnedOver(solid) }, rule: 'body-inside-out', code: 'body.side' },
    {
      what: 'a room lies in nothing',
      parts: { rock: solid, hollow_room: turnedOver(boxMesh({ min: [9, 0, 9], max: [10, 1, 10] })) },
      rule: 'hollow-cuts-nothing',
      code: 'body.alone',
    },
    { what: 'a solid is open', parts: { rock: openBox([0, 0, 0], [2, 2, 2]) }, rule: 'body-open', code: 'body.open' },
    {
      what: 'a solid is two sheets back to back',
      parts: { rock: solid, rail: boxMesh({ min: [5, 0, 0], max: [5, 1, 2] }) },
      rule: 'body-open',
      code: 'body.open',
    },
    {
      what: 'only trim is open',
      parts: { rock: solid, trim_rail: openBox([2, 5, 0], [2.2, 6, 1]) },
      rule: null,
      code: null,
    },
  ]
  it.each(cases)('are told before and complained of after: $what', async ({ parts, rule, code }) => {
    const document = documentOf(parts)
    const bodies = /^(body|hollow)-/
    expect(
      findings(document, tarnAndTiller)
        .map((each) => each.rule)
        .filter((id) => bodies.test(id)),
    ).toEqual(rule === null ? [] : [rule])
    const { log } = await load(document, tarnAndTiller)
    expect(log.map((line) => line.code).filter((id) => id.startsWith('body.'))).toEqual(code === null ? [] : [code])
  })

  it('a sort that the kind does not have is told by both', async () => {
    const document = documentOf({ stone_rock: solid, rail_deco: boxMesh({ min: [2, 5, 0], max: [3, 6, 1] }) })
    expect(findings(document, other).map(({ rule }) => rule)).toContain('body-unknown')
    expect((await load(document, other)).log.map(({ code }) => code)).toContain('body.word')
  })

  it.each(['hollow-outward', 'body-inside-out', 'body-open'])('%s is settled by its mend', async (rule) => {
    const parts = cases.find((each) => each.rule === rule)?.parts
    const document = documentOf(rule === 'body-open' ? { ...parts, floor: solid } : (parts ?? {}))
    const found = findings(document, tarnAndTiller).find((each) => each.rule === rule)
    expect(found?.mend?.step).toBe('tell-bodies')
    expect(found?.place.spots.length).toBe(rule === 'body-open' ? 1 : 0)
    const { after } = await runStep('tell-bodies', document, found?.mend?.parameters, {
      kind: kindOf(tarnAndTiller, 'ground'),
    })
    expect(findings(after, tarnAndTiller).some((each) => each.rule === rule)).toBe(false)
  })
})

describe('what was said of parts', () => {
  it('is said by their cleaned names as well, since whoever looks at the result knows no others', async () => {
    const document = documentOf({
      'Big Rock': boxMesh({ min: [0, 0, 0], max: [4, 4, 4] }),
      'The Rail': openBox([0, 4, 0], [4, 5, 1]),
    })
    const kind = kindOf(tarnAndTiller, 'ground')
    const { result } = await prepareItem(
      { key: 'rock', document },
      { rulebook: tarnAndTiller, kind, store: memoryStore() },
      { itemName: 'rock' },
    )
    expect(namesIn(result.document)).toEqual(['big_rock', 'trim_the_rail'])
    expect(findings(result.document, tarnAndTiller).filter(({ rule }) => rule.startsWith('body'))).toEqual([])
    const { summary } = await runStep('tell-bodies', document, { is: 'trim', parts: ['the_rail', 'gone'] }, { kind })
    expect(summary.details.join(' ')).toMatch(/1 part is trim: trim_the_rail\. Not there any more: gone\./)
  })
})

describe('other games', () => {
  /** An old game with Z up, in OBJ, whose names have capitals and hyphens alone. */
  const old = {
    ...hollinKeep,
    id: 'hollin-caves',
    names: { ...hollinKeep.names, pattern: '[A-Z][A-Za-z0-9-]*', described: 'letters, digits and -', longest: 24 },
    bodies: { solid: '{part}', hollow: '{part}-Cave', trim: '{part}-Deco' },
  }
  const named = ({ bodies, names }: Partial<Rulebook>) =>
    wrongBodies({ ...tarnAndTiller, bodies: bodies ?? null, ...(names ? { names } : {}) }).map(({ message }) => message)

  it('have their bodies numbered as they join words, and never lose what a name says', () => {
    const taken = new Set<string>()
    const names = ['passage', 'passage', 'passage', 'a passage with far too long a name for this'].map((name) => {
      const made = bodyName(old, 'hollow', name, taken)
      taken.add(made)
      return made
    })
    expect(new Set(names).size).toBe(4)
    for (const name of names) {
      expect(name).toMatch(/^[A-Z][A-Za-z0-9-]{0,18}-Cave$/)
      expect(bodyInName(old, name)).toBe('hollow')
    }
  })

  it('are refused where bodies cannot be told apart, or are called what is no name there', () => {
    expect(named({ bodies: { solid: '{part}', hollow: 'cave', trim: 'deco_{part}' } })).toEqual([
      'every body would have the same name: {part} is not in it',
    ])
    expect(named({ bodies: { solid: '{part}', hollow: 'x_{part}', trim: 'x_{part}' } })).toEqual([
      'two sorts of bodies are called alike',
    ])
    const spaced = { ...tarnAndTiller, bodies: { solid: '{part}', hollow: 'Cave {part}', trim: 'trim_{part}' } }
    expect(rulebookSchema.safeParse(spaced).error?.issues.map(({ path }) => path.join('.'))).toEqual(['bodies.hollow'])
  })

  it('measure each body once: a thousand parts are told in one go', async () => {
    const parts = Object.fromEntries(
      Array.from({ length: 1000 }, (_, at) => [
        `Room ${at}`,
        turnedOver(boxMesh({ min: [at * 2, 1, 0], max: [at * 2 + 1, 2, 1] })),
      ]),
    )
    const document = documentOf({ rock: boxMesh({ min: [-1, 0, -1], max: [2001, 3, 2] }), ...parts })
    const names = Object.keys(parts).map((name) => name.toLowerCase().replace(' ', '_'))
    const kind = kindOf(tarnAndTiller, 'ground')
    const { after, summary } = await runStep('tell-bodies', document, { is: 'hollow', parts: names }, { kind })
    expect(summary.headline).toBe('1,000 parts')
    expect(findings(after, tarnAndTiller).filter(({ rule }) => /^(body|hollow)-/.test(rule))).toEqual([])
  }, 60_000)
})

describe('pictures on level geometry', () => {
  it('lie by place in the world: one for each so many units, upright on walls, the same on neighbouring bodies', async () => {
    const two = documentOf({
      left: boxMesh({ min: [-4, 0, 0], max: [0, 3, 4] }),
      right: boxMesh({ min: [0, 0, 0], max: [4, 3, 4] }),
    })
    const [item] = (await load(await prepared(two), tarnAndTiller)).items
    const seen = new Map<string, Set<string>>()
    for (const node of item.view)
      for (const { positions, uvs, indices } of layByPlace(node, 2)) {
        expect(indices).toHaveLength(positions.length / 3)
        for (let corner = 0; corner < indices.length; corner++) {
          const [x, y, z] = positions.subarray(corner * 3, corner * 3 + 3)
          const [u, v] = uvs.subarray(corner * 2, corner * 2 + 2)
          // Sides are axis-aligned: both numbers of a picture are two of the place, halved.
          expect([x, y, z].map((value) => value / 2)).toContain(u)
          expect([x, y, z].map((value) => -value / 2)).toContain(v)
          const key = [x, y, z].join(' ')
          seen.set(key, (seen.get(key) ?? new Set()).add(`${u} ${v}`))
        }
      }
    // A corner that both have: three pictures at most meet there, one an axis, whichever body shows them.
    expect(seen.get('0 3 4')?.size).toBeLessThanOrEqual(3)
  })
})
