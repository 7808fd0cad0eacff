import { announcesItem } from '../trial/sorted-nodes.ts'
import { isEntryPath } from './templates.ts'
import { createDocument } from '../item/io.ts'
import { isUnlit } from '../item/material-meaning.ts'
import {
  flagFor,
  flagsFor,
  hasFlag,
  materialTag,
  readWrittenName,
  setMaterialTag,
  writtenName,
} from './material-tag.ts'
import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { guessSurface } from '../steps/surface/tag-materials.ts'
import { fittingSize } from '../steps/surface/size-maps.ts'
import { cleanName, cleanTextureName, uniqueName } from './clean-name.ts'
import { builtInRulebooks, kindOf, parseRulebook, rulebookById, rulebookJsonSchema } from './load.ts'
import { isGameName } from './names.ts'
import { shadingModelFor } from './shading.ts'

const rulebook = rulebookById('tarn-and-tiller')

describe('rulebooks', () => {
  it('ship whole: every kind of Tarn & Tiller, with its limits', () => {
    expect(builtInRulebooks().map((each) => each.id)).toContain('tarn-and-tiller')
    expect(rulebook.kinds.map((kind) => kind.id)).toEqual([
      'prop',
      'loose',
      'mover',
      'bender',
      'fitting',
      'gear',
      'sign',
      'course',
      'ground',
      'finish',
      'addition',
      'patch',
    ])
    expect(kindOf(rulebook, 'prop').mesh).toMatchObject({
      triangles: 12_000,
      withSolids: 15_000,
      cornersPerPart: 65_535,
    })
    expect(rulebook.space).toMatchObject({
      up: '+y',
      forward: '+z',
      unit: { name: 'span', metres: 0.5 },
      figure: { height: 3.4, width: 0.9 },
    })
    expect(rulebook.files.archive.largestBytes).toBe(64 * 1024 * 1024)
  })
  it('are described by the published JSON Schema', () => {
    const published = JSON.parse(readFileSync(new URL('../../docs/rulebook.schema.json', import.meta.url), 'utf8'))
    expect(published).toEqual(JSON.parse(JSON.stringify(rulebookJsonSchema())))
  })
  it('are refused with the place that is wrong', () => {
    expect(() => parseRulebook('{', 'mine.json')).toThrow(/mine\.json: it is not JSON/)
    const wrong = structuredClone(rulebook) as unknown as { space: { unit: { metres: number } } }
    wrong.space.unit.metres = -1
    expect(() => parseRulebook(JSON.stringify(wrong), 'mine.json')).toThrow(/at space\.unit\.metres/)
    expect(() => rulebookById('chess')).toThrow(/Known ones: tarn-and-tiller/)
    expect(() => kindOf(rulebook, 'spaceship')).toThrow(/Its kinds are: prop/)
  })
})

describe('names', () => {
  it.each([
    ['Arch stone.001', 'arch_stone'],
    ['LeftLeaf', 'left_leaf'],
    ['größe 2', 'gro_e_2'],
    ['3rd pier', 'part_3rd_pier'],
    ['con', 'part_con'],
    ['', 'part'],
    ['___', 'part'],
  ])('“%s” becomes %s', (from, to) => {
    expect(cleanName(rulebook, from, 'part')).toBe(to)
  })
  it.each([
    ['Gate Stone Albedo 2K', '_col', 'gate_stone_col'],
    ['gate stone_n', '_nrm', 'gate_stone_nrm'],
    ['Timber leaf.v2', '_col', 'timber_leaf_col'],
    ['albedo', '_col', 'albedo_col'],
  ])('the texture “%s” becomes %s', (from, ending, to) => {
    expect(cleanTextureName(rulebook, from, ending, 'map')).toBe(to)
  })
  it.each([
    ['[a-z][a-z0-9-]*', 'LeftLeaf', 'left-leaf', 'left-leaf-2'],
    ['[a-z0-9]+', 'Arch stone.001', 'archstone', 'archstone2'],
    ['[A-Z][A-Z0-9_]*', '3rd pier', 'PART_3RD_PIER', 'PART_3RD_PIER_2'],
    ['[A-Z][A-Za-z0-9]*', 'pier foot', 'PierFoot', 'PierFoot2'],
  ])('are joined as a game with the pattern %s takes them', (pattern, from, to, second) => {
    const other = { ...rulebook, names: { ...rulebook.names, pattern } }
    expect(cleanName(other, from, 'part')).toBe(to)
    expect(uniqueName(other, to, new Set([to]))).toBe(second)
  })
  it('are always ones the game accepts, whatever they were, and different from each other', () => {
    fc.assert(
      fc.property(fc.array(fc.string({ maxLength: 80, unit: 'grapheme' }), { maxLength: 30 }), (names) => {
        const taken = new Set<string>()
        for (const name of names) {
          const clean = uniqueName(rulebook, cleanName(rulebook, name, 'part'), taken)
          expect(isGameName(rulebook, clean)).toBe(true)
          expect(taken.has(clean)).toBe(false)
          taken.add(clean)
        }
      }),
    )
  })
  it.each(builtInRulebooks().map((each) => [each.title, each] as const))(
    'keep the ending that says what a map is for, however many maps are called alike: %s',
    (_title, game) => {
      const long = 'metal aluminium anodised and brushed to a shine'
      for (const { ending } of game.maps.roles)
        for (const name of ['wood.001', 'wood.002', 'Wood', `${long} 1`, `${long} 2`, long]) {
          const taken = new Set(['wood', long].map((each) => cleanTextureName(game, each, ending, 'map')))
          const clean = uniqueName(game, cleanTextureName(game, name, ending, 'map'), taken, ending)
          expect(clean.endsWith(ending)).toBe(true)
          expect(taken.has(clean)).toBe(false)
          expect(isGameName(game, clean)).toBe(true)
        }
    },
  )
})

describe('material tags', () => {
  it('are taken apart and put together again', () => {
    const tag = readWrittenName(rulebook, 'sail@cloth.both.veil')
    expect(tag).toEqual({ base: 'sail', surface: 'cloth', flags: ['both', 'veil'] })
    expect(writtenName(rulebook, tag)).toBe('sail@cloth.both.veil')
    expect(readWrittenName(rulebook, 'plain')).toEqual({ base: 'plain', surface: null, flags: [] })
  })
  it('stand nowhere in a name where the rulebook says so', () => {
    const plain = { ...rulebook, materials: { ...rulebook.materials, naming: { form: 'plain' as const } } }
    expect(writtenName(plain, { base: 'sail', surface: 'cloth', flags: ['both'] })).toBe('sail')
    expect(readWrittenName(plain, 'sail@cloth')).toEqual({ base: 'sail@cloth', surface: null, flags: [] })
  })
  it('are told by what they mean, not by their names', () => {
    expect(hasFlag(['both'], 'two-sided', rulebook)).toBe(true)
    expect(hasFlag(['bothx', 'cut'], 'two-sided', rulebook)).toBe(false)
    expect(flagsFor(rulebook, ['throws-no-shadow', 'blended'])).toEqual(['veil', 'noshadow'])
    const renamed = structuredClone(rulebook)
    for (const flag of renamed.materials.flags) flag.name = `x_${flag.name}`
    expect(flagFor(renamed, 'cut-out')).toBe('x_cut')
    expect(flagFor({ ...renamed, materials: { ...renamed.materials, flags: [] } }, 'cut-out')).toBeNull()
  })
  it('set how a material is drawn, and outlive its name', () => {
    const document = createDocument('sail')
    const material = document.createMaterial('Sail cloth')
    setMaterialTag(document, material, { base: 'sail', surface: 'cloth', flags: ['both', 'veil', 'flat'] }, rulebook)
    expect([material.getDoubleSided(), material.getAlphaMode(), isUnlit(material)]).toEqual([true, 'BLEND', true])
    expect(materialTag(material.setName('main_sail'), rulebook)).toEqual({
      base: 'main_sail',
      surface: 'cloth',
      flags: ['both', 'veil', 'flat'],
    })
  })
  it.each([
    ['gate_stone', 'stone'],
    ['leaf_timber', 'timber'],
    ['arm_iron', 'iron'],
    ['hinge', 'iron'],
    ['window_pane', 'glass'],
    ['ivy_leaf', 'leaf'],
    ['MooringLine02', 'rope'],
    ['cords', 'rope'],
    ['cordo_kitcar', 'timber'],
    ['outline', 'timber'],
    ['oldbronzework', 'iron'],
    ['zzz', 'timber'],
  ])('%s is probably %s', (name, surface) => {
    expect(guessSurface(name, rulebook)).toBe(surface)
  })
  it('lead to a shading model that fits the maps', () => {
    expect(shadingModelFor(rulebook, ['colour'], [])).toBe('plain')
    expect(shadingModelFor(rulebook, ['colour', 'normal', 'mixed'], [])).toBe('mixed')
    expect(shadingModelFor(rulebook, ['colour'], ['flat'])).toBe('flat')
  })
})

describe('sizes of maps', () => {
  it('are always ones the game takes', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 9000 }), fc.integer({ min: 1, max: 9000 }), (width, height) => {
        const fitted = fittingSize(width, height, 1024, rulebook)
        for (const side of [fitted.width, fitted.height]) {
          expect(Math.log2(side) % 1).toBe(0)
          expect(side).toBeGreaterThanOrEqual(4)
          expect(side).toBeLessThanOrEqual(1024)
        }
        expect(Math.max(fitted.width, fitted.height) / Math.min(fitted.width, fitted.height)).toBeLessThanOrEqual(4)
      }),
    )
  })
})

describe('paths of a pack', () => {
  const named = (entry: string): typeof rulebook => ({
    ...rulebook,
    files: { ...rulebook.files, paths: { ...rulebook.files.paths, entry, look: '{category}/{item}.{look}.json' } },
  })
  it.each([
    ['items/{category}/{item}/entry.json', 'items/props/gate/entry.json', true],
    ['items/{category}/{item}/entry.json', 'somewhere/else/entry.json', true],
    ['items/{category}/{item}/entry.json', 'items/props/gate/entry2json', false],
    ['{category}/{item}.thing.json', 'props/gate.thing.json', true],
    ['{category}/{item}.thing.json', 'props/gate.obj', false],
    ['{category}/{item}.json', 'props/gate.json', true],
    ['{category}/{item}.json', 'props/gate.plain.json', false],
    ['{item}.json', 'manifest.json', false],
  ])('with %s, %s is an entry: %s', (template, path, is) => {
    expect(isEntryPath(path, named(template))).toBe(is)
    expect(announcesItem(path, named(template))).toBe(is)
  })
})
