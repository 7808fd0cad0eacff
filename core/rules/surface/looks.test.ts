import type { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { setNodeExtras, setTextureExtras } from '../../item/extras.ts'
import { addLook } from '../../item/looks.ts'
import { listUsedMaterials, listViewParts } from '../../item/parts.ts'
import { kindOf } from '../../game/load.ts'
import { addTexture } from '../../operations/maps/map-pixels.ts'
import { documentOf, unitBox } from '../../test-support/meshes.ts'
import { leaf, painted } from '../../test-support/pictures.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { runStep } from '../../test-support/step-runs.ts'
import { setMaterialMap } from '../../item/source-maps.ts'
import { lookRules } from './looks.ts'

const gear = kindOf(tarnAndTiller, 'gear')
const found = (document: Document, kind = kindOf(tarnAndTiller, 'prop')) =>
  lookRules
    .check({ document, rulebook: tarnAndTiller, kind, itemName: 'item', slot: null })
    .map(({ rule, where, message }) => ({ rule, where, message }))

/** One box with a colour map, tagged, compressed. */
async function packed(tag: string, cut: boolean): Promise<Document> {
  const document = documentOf({ box: unitBox() })
  const [material] = document.getRoot().listMaterials()
  material
    .setName(tag)
    .setBaseColorTexture(addTexture(document, 'skin', 'colour', cut ? leaf(32) : painted(32, 32), 'test'))
  return (await runStep('compress-maps', document)).after
}

describe('flag and picture', () => {
  it('agree in silence', async () => {
    expect(found(await packed('a@timber', false))).toEqual([])
    expect(found(await packed('a@leaf.cut', true))).toEqual([])
  })
  it('are told where they differ, in words for each way', async () => {
    expect(found(await packed('a@leaf', true))[0].message).toBe(
      'a@leaf has clear places, which the game draws solid without the flag “cut”',
    )
    expect(found(await packed('a@leaf.cut', false))[0].message).toMatch(/is cut, but no place of its picture is clear/)
    expect(found(await packed('a@leaf.veil', true))[0].message).toMatch(/cutting is cheaper and sorts right/)
  })
})

describe('maps of two things', () => {
  it('a new colour map over an older body’s normals is told; maps of one thing are not', () => {
    const document = documentOf({ box: unitBox() })
    const [material] = document.getRoot().listMaterials()
    const normal = addTexture(document, 'n', 'normal', painted(4, 4), 'test')
    material
      .setName('coat')
      .setBaseColorTexture(addTexture(document, 'c', 'colour', painted(4, 4), 'test'))
      .setNormalTexture(normal)
    const name = (written: string): void =>
      setTextureExtras(material.getBaseColorTexture() as never, { role: 'colour', written })
    setTextureExtras(normal, { role: 'normal', written: 'maps/hull_2019_n.tga' })
    name('C:\\mods\\hull_Albedo_2k.png')
    expect(found(document)).toEqual([])
    // What the game calls a role is no other thing.
    const packed = addTexture(document, 'hull_albedo_mixed', 'packed:mixed', painted(4, 4), 'packed channels')
    setMaterialMap(document, material, 'packed:mixed', packed)
    expect(found(document)).toEqual([])
    name('C:\\mods\\ferry_new_albedo.png')
    expect(found(document)).toMatchObject([
      { rule: 'older-map-under', message: expect.stringMatching(/colours of “ferry.*” over the relief of “hull”/) },
    ])
  })
})

describe('looks of several models', () => {
  it('names the part that a look leaves out, and models that differ', () => {
    const document = documentOf({ lying: unitBox(), worn: unitBox() })
    const [lying, worn] = listViewParts(document)
    const shared = document.createMaterial('oilskin')
    for (const [part, model] of [
      [lying, 'lying'],
      [worn, 'worn'],
    ] as const) {
      setNodeExtras(part.node, { role: 'part', model })
      part.mesh.listPrimitives()[0].setMaterial(shared)
    }
    addLook(document, 'red', new Map([[shared, document.createMaterial('oilskin_red')]]))
    expect(found(document, gear)).toEqual([])
    worn.mesh.listPrimitives()[0].setExtension('KHR_materials_variants', null)
    expect(found(document, gear)).toMatchObject([{ rule: 'look-part-missing', where: 'worn' }])
    worn.mesh.listPrimitives()[0].setMaterial(document.createMaterial('old'))
    expect(found(document, gear).map(({ rule }) => rule)).toContain('models-unlike')
    expect(listUsedMaterials(document).length).toBe(2)
  })
})
