import { describe, expect, it } from 'vitest'
import { builtInRulebooks, rulebookById } from '../load.ts'
import { rulebookDifference } from './difference.ts'
import { sentencesOf } from './index.ts'

const landing = rulebookById('tarn-and-tiller')
const keep = rulebookById('hollin-keep')
const said = (...given: Parameters<typeof sentencesOf>): string[] =>
  sentencesOf(...given).map(({ sentence }) => sentence)

describe('a rulebook for people', () => {
  it('says what each game demands with its own numbers and words', () => {
    expect(said(landing, { kind: 'prop', words: 'triangles' })).toEqual([
      'At most 12,000 triangles.',
      'At most 15,000 triangles with those of the solids.',
      'Above 2,000 triangles a level 1 with at most 50 % of them, drawn from 30 spans on.',
      'Above 2,000 triangles a level 2 with at most 20 % of them, drawn from 80 spans on.',
      'Above 2,000 triangles a closed shadow mesh with at most 25 % of them, or one of the levels again.',
      'A solid is needed above 4,000 triangles.',
    ])
    expect(said(keep)).toEqual(
      expect.arrayContaining([
        '+Z up, +X forward, right-handed.',
        '1 inch is 0.0254 m.',
        'Maps are TGA, not packed, first row at the bottom, at skins/{slot}_{map}.tga.',
        'A material’s name is the path of its colour map from the game’s folder, without ending, up to 48 signs.',
        'At most 20 sections, which are triangles of one material and part, of 1,000 corners each.',
        'It has no solids.',
      ]),
    )
    expect(said(rulebookById('pegboard-parish'), { kind: 'shelfpiece', words: 'half-blocks' })).toEqual([
      'A thing is a list of half-blocks in JSON, at {category}/{item}/parts.json.',
      'At most 2,400 half-blocks, two for each triangle.',
      'Put together again, half-blocks lie within 0.0001 of the item’s size.',
      'Its half-blocks are solid themselves.',
    ])
    expect(said(rulebookById('pegboard-parish'), { words: 'maps' })).toEqual(['It reads no maps.'])
  })

  it('says once what is said of several kinds alike, and names them', () => {
    const budgets = sentencesOf(landing, { words: 'mesh.triangles' })
    const counts = landing.kinds.flatMap(({ mesh }) => (mesh ? [mesh.triangles] : []))
    expect(budgets).toHaveLength(new Set(counts).size)
    for (const { kinds, sentence } of budgets)
      for (const kind of kinds ?? landing.kinds.map(({ id }) => id))
        expect(sentence).toContain(
          (landing.kinds.find(({ id }) => id === kind)?.mesh?.triangles ?? 0).toLocaleString('en-GB'),
        )
  })

  it('is filtered by kind: a finish hears nothing of triangles, a course of its markers', () => {
    expect(said(landing, { kind: 'finish', words: 'triangles' })).toEqual([])
    expect(said(landing, { kind: 'course', words: 'markers stamp' })).toEqual([
      'Markers “stamp”: 0 to 200, 0.6 spans above what is under them.',
    ])
    expect(said(landing, { kind: 'prop', words: 'markers stamp' })).toEqual([])
  })

  it('finds by words in any order, in what is said and why; nothing for what no rule speaks of', () => {
    expect(said(keep, { words: 'LONG fixed list' })).toEqual([])
    expect(said(keep, { words: 'Slots list' })).toHaveLength(1)
    expect(said(keep, { words: 'feathers' })).toEqual([])
  })

  it('ends each sentence, has a reason for each, and tells each apart by its field, for every game', () => {
    for (const rulebook of builtInRulebooks()) {
      const all = sentencesOf(rulebook)
      expect(all.length).toBeGreaterThan(25)
      for (const { sentence, why } of all) {
        expect(sentence).toMatch(/^[A-Z+−0-9“].*[.]$/)
        expect(why).toMatch(/[.]$/)
        expect(sentence).not.toMatch(/undefined|null|NaN|\[object/)
      }
      const keys = all.map(({ field, kinds }) => `${field} ${kinds?.join() ?? ''}`)
      expect(keys.filter((key, at) => keys.indexOf(key) !== at)).toEqual([])
    }
  })
})

describe('the difference between two rulebooks', () => {
  it('is nothing between a rulebook and itself', () => {
    for (const rulebook of builtInRulebooks())
      expect(rulebookDifference(rulebook, structuredClone(rulebook))).toEqual([])
  })

  it('says what a later version demands otherwise, once for all kinds that it is about', () => {
    const later = structuredClone(landing)
    for (const kind of later.kinds) if (kind.mesh?.triangles === 12_000) kind.mesh.triangles = 10_000
    later.maps.largestPixels = 2048
    later.materials.flags.push({ name: 'glossy', meaning: 'Shines.', means: null })
    later.materials.flags = later.materials.flags.filter(({ name }) => name !== 'passes')
    const changes = rulebookDifference(landing, later)
    expect(changes).toContainEqual({
      topic: 'mesh',
      kinds: landing.kinds.filter(({ mesh }) => mesh?.triangles === 12_000).map(({ id }) => id),
      before: 'At most 12,000 triangles.',
      after: 'At most 10,000 triangles.',
    })
    expect(changes.map(({ before, after }) => [before, after])).toEqual(
      expect.arrayContaining([
        [expect.stringContaining('4 to 1,024 pixels'), expect.stringContaining('4 to 2,048 pixels')],
        [null, 'The flag glossy: shines.'],
        ['The flag passes: rays and clicks go through.', null],
      ]),
    )
    expect(changes).toHaveLength(4)
    expect(rulebookDifference(landing, later, { kind: 'finish' })).toHaveLength(3)
    expect(rulebookDifference(landing, later, { words: 'FLAG shines' })).toHaveLength(1)
  })

  it('does not mistake kinds that stand in another order, or a kind that is new', () => {
    const turned = structuredClone(landing)
    turned.kinds.reverse()
    expect(rulebookDifference(landing, turned)).toEqual([])
    const wider = structuredClone(landing)
    wider.kinds.push({ ...wider.kinds[0], id: 'boulder', title: 'Boulder' })
    expect(
      rulebookDifference(landing, wider).every(({ kinds, before }) => kinds?.join() === 'boulder' && before === null),
    ).toBe(true)
  })
})
