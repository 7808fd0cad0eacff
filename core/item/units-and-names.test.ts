import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { getNodeExtras } from './extras.ts'
import { freeName, nameApart, namesApart } from './name-apart.ts'
import { listSceneNodes, itemScene } from './parts.ts'
import { likelyUnit, lengthUnits, metresOrLikely, unitName, unitOfMetres } from './units.ts'
import { keepMaterialName, renameNode, writtenMaterialName, writtenNodeName } from './written-name.ts'
import { documentOf, unitBox } from '../test-support/meshes.ts'

describe('units of a source', () => {
  it.each(lengthUnits.map(({ id, metres }) => [id, metres] as const))('%s is known by its length', (id, metres) => {
    expect(unitOfMetres(metres)?.id).toBe(id)
    expect(unitOfMetres(metres * (1 + 1e-9))?.id).toBe(id)
    expect(unitName(metres)).toBe(id)
  })

  it('that have no common name are told by their length', () => {
    expect(unitOfMetres(0.37)).toBeNull()
    expect(unitName(0.37)).toBe('0.37 m')
  })

  it.each([
    [1.9, 'm'],
    [190, 'cm'],
    [1900, 'mm'],
    [0.5, 'm'],
    [2600, 'mm'],
  ])('an extent of %s is likeliest in %s', (extent, unit) => {
    expect(likelyUnit(extent).id).toBe(unit)
  })

  it('make something between a hand and a house of any extent that can be one', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.1, max: 12_000, noNaN: true }), (extent) => {
        const metres = extent * likelyUnit(extent).metres
        expect(metres).toBeGreaterThanOrEqual(0.1)
        expect(metres).toBeLessThanOrEqual(12)
      }),
    )
  })

  it('that are customary for a format are believed unless they make a crumb or a hill of the thing', () => {
    const stl = { metresPerUnit: 0.001, from: 'customary' as const }
    for (const extent of [3, 58, 12_000]) expect(metresOrLikely(stl, extent)).toBe(0.001)
    // A machine part of 58 mm, drawn in metres.
    expect(metresOrLikely(stl, 0.058)).toBe(1)
    expect(metresOrLikely({ metresPerUnit: 1, from: 'customary' }, 180)).toBe(0.01)
    expect(metresOrLikely({ metresPerUnit: 0.001, from: 'declared' }, 0.058)).toBe(0.001)
  })

  it('are believed where the source declares them', () => {
    expect(metresOrLikely({ metresPerUnit: 0.0254, from: 'declared' }, 1900)).toBe(0.0254)
    expect(metresOrLikely({ metresPerUnit: null, from: 'unknown' }, 1900)).toBe(0.001)
  })
})

describe('names of nodes', () => {
  it('are told apart, each keeping what it was called', () => {
    const document = documentOf({ plank: unitBox() })
    for (const name of ['plank', 'plank', '', '  ']) itemScene(document).addChild(document.createNode(name))
    nameApart(document)
    const nodes = listSceneNodes(document)
    expect(nodes.map((node) => node.getName())).toEqual(['plank', 'plank (2)', 'plank (3)', 'part', 'part (2)'])
    expect(nodes.map(writtenNodeName)).toEqual(['plank', 'plank', 'plank', '', '  '])
    nameApart(document)
    expect(listSceneNodes(document).map((node) => node.getName())).toHaveLength(5)
    expect(getNodeExtras(nodes[0]).writtenName).toBeUndefined()
  })

  it('are each given once, and a number is not given to a name that has it already', () => {
    const free = namesApart()
    expect(['a (2)', 'a', 'a', 'a'].map(free)).toEqual(['a (2)', 'a', 'a (3)', 'a (4)'])
    expect(freeName('a', new Set(['a', 'a (2)']))).toBe('a (3)')
    fc.assert(
      fc.property(fc.array(fc.constantFrom('a', 'b', 'a (2)', 'b (3)'), { maxLength: 40 }), (names) => {
        const given = names.map(namesApart())
        expect(new Set(given).size).toBe(names.length)
      }),
    )
  })

  it('that are made the game’s remember the first that the source gave', () => {
    const document = documentOf({ 'Old Gate': unitBox() })
    const [node] = listSceneNodes(document)
    renameNode(node, 'old_gate')
    renameNode(node, 'gate')
    expect([node.getName(), writtenNodeName(node)]).toEqual(['gate', 'Old Gate'])
    const [material] = document.getRoot().listMaterials()
    const before = material.getName()
    keepMaterialName(material)
    material.setName('oak')
    keepMaterialName(material)
    expect(writtenMaterialName(material)).toBe(before)
  })
})
