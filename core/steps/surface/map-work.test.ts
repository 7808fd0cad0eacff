import { KHRMaterialsVariants } from '@gltf-transform/extensions'
import type { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { setMaterialExtras, setTextureExtras } from '../../item/extras.ts'
import { documentFromGlb, documentToGlb } from '../../item/io.ts'
import { addLook, listLooks, materialsInLook, partsWithoutLook } from '../../item/looks.ts'
import { roleFromName, subjectOfName } from '../../item/map-roles.ts'
import { listUsedMaterials, listViewParts } from '../../item/parts.ts'
import { listMaterialMaps, materialMap } from '../../item/source-maps.ts'
import { kindOf } from '../../game/load.ts'
import { documentOf, unitBox } from '../../test-support/meshes.ts'
import { painted, pictureOf, wavyNormals } from '../../test-support/pictures.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { proposals, runStep } from '../../test-support/step-runs.ts'
import { encodePng } from '../../pictures/image-codecs.ts'
import { addTexture } from '../../operations/maps/map-pixels.ts'
import { listShownMaps, texelsPerUnit } from '../../operations/maps/shown-maps.ts'
import { sizeOf } from '../../test-support/pictures.ts'
import { texturePixels } from '../../operations/maps/texture-pixels.ts'
import { grey, gear, boxWith } from '../../test-support/mapped-boxes.ts'

describe('what pictures are for, by their names as people write them', () => {
  const written: [string, string | null][] = [
    ['Planks_Albedo_512', 'colour'],
    ['planks diffuse 2K', 'colour'],
    ['hull_BaseColor', 'colour'],
    ['gate stone_n', 'normal'],
    ['Stone_NormalGL_4k', 'normal'],
    ['planks_nrm (1)', 'normal'],
    ['Planks_Gloss', 'gloss'],
    ['planksRoughness', 'roughness'],
    ['rope_AO copy', 'occlusion'],
    ['Planks_height (1)', 'height'],
    ['lamp_emissive', 'glow'],
    ['leaf-mask', 'opacity'],
    ['metal_door_normal', 'normal'],
    ['nails_metal', 'metalness'],
    ['stove_ORM', 'orm'],
    ['oilskin_yellow', null],
    ['timetable_board', null],
  ]
  it.each(written)('%s is %s', (name, role) => expect(roleFromName(name)).toBe(role))
  it('leaves role, size and copy out of what they show', () => {
    expect(['Planks_Albedo_512', 'Planks_height (1)', 'planks_nrm'].map((stem) => subjectOfName(stem))).toEqual([
      'planks',
      'planks',
      'planks',
    ])
  })
})

describe('maps that no game reads', () => {
  it('stay with their material through copies, names and files', async () => {
    const { document, material } = boxWith({ colour: painted(8, 8), gloss: grey(200), height: grey(90) })
    materialMap(material, 'gloss')?.setName('renamed')
    const back = await documentFromGlb(await documentToGlb(document))
    const [read] = back.getRoot().listMaterials()
    expect(listMaterialMaps(read).map(({ role, texture }) => [role, texture.getName()])).toEqual([
      ['colour', 'planks_colour'],
      ['gloss', 'renamed'],
      ['height', 'planks_height'],
    ])
    materialMap(read, 'height')?.dispose()
    expect(materialMap(read, 'height')).toBeNull()
  })
})

describe('Read roles', () => {
  it('believes the slot of a file before a picture’s name, and puts it where it is told to', async () => {
    const { document } = boxWith({ colour: painted(8, 8) })
    document.getRoot().listTextures()[0].setName('planks_ao')
    expect(proposals('read-roles', document)).toEqual([])
    const { after } = await runStep('read-roles', document, { roles: [{ texture: 'planks_ao', role: 'occlusion' }] })
    expect(listMaterialMaps(after.getRoot().listMaterials()[0]).map(({ role }) => role)).toEqual(['occlusion'])
    const { after: unused } = await runStep('read-roles', document, { roles: [{ texture: 'planks_ao', role: 'none' }] })
    expect(listMaterialMaps(unused.getRoot().listMaterials()[0])).toEqual([])
  })
})

describe('Turn normal maps', () => {
  it('turns those whose green points down for a game that reads up, and says how sure it is', async () => {
    const wanted = wavyNormals(64, true).data
    for (const up of [true, false]) {
      const { document } = boxWith({ colour: painted(8, 8), normal: wavyNormals(64, up) })
      const { after, summary } = await runStep('turn-normal-maps', document)
      expect(summary.headline).toBe(up ? 'fits' : '1 turned')
      expect(summary.details[0]).toMatch(
        new RegExp(`green points ${up ? 'up' : 'down'} \\(\\d+ % of its slopes agree\\)`),
      )
      const green = (
        await texturePixels(
          after
            .getRoot()
            .listTextures()
            .find((texture) => texture.getName() === 'planks_normal') as never,
        )
      ).data
      green.forEach((value, at) => expect(Math.abs(value - wanted[at])).toBeLessThanOrEqual(1))
    }
  })
})

describe('Pack channels', () => {
  it('proposes the card of the game’s layout: gloss turned round, constants where nothing was painted', async () => {
    const { document } = boxWith({ colour: painted(8, 8), occlusion: grey(180, 32), gloss: grey(200) })
    const [proposed] = proposals('pack-channels', document)
    const { after, summary } = await runStep('pack-channels', document, proposed.parameters)
    const [material] = listUsedMaterials(after)
    const mixed = await texturePixels(materialMap(material, 'packed:mixed') as never)
    expect([mixed.width, mixed.height]).toEqual([32, 32])
    expect([...mixed.data.slice(0, 4)]).toEqual([
      180,
      55,
      Math.round(listUsedMaterials(document)[0].getMetallicFactor() * 255),
      0,
    ])
    expect(summary.headline).toBe('2 → 1')
    // What was packed is not carried on; with a mixed map the game wants a normal map too: a flat one.
    expect(listMaterialMaps(material).map(({ role }) => role)).toEqual(['colour', 'normal', 'packed:mixed'])
    expect(after.getRoot().listTextures().length).toBe(3)
  })
  it('takes opacity of its own into the colour map', async () => {
    const { document } = boxWith({
      colour: painted(16, 16),
      opacity: pictureOf(16, 16, (x) => (x < 8 ? [0, 0, 0] : [255, 255, 255])),
    })
    // Gloss and metal that no map says are not the source's word here.
    for (const material of listUsedMaterials(document))
      setMaterialExtras(material, { references: [], shineIsGuessed: true })
    const cards = (proposals('pack-channels', document)[0].parameters as { cards: { output: string }[] }).cards
    expect(cards.map(({ output }) => output)).toEqual(['colour'])
    const { after } = await runStep('pack-channels', document, { cards })
    const { data } = await texturePixels(materialMap(listUsedMaterials(after)[0], 'colour') as never)
    expect([data[3], data[15 * 4 + 3]]).toEqual([0, 255])
    expect(data.filter((_, at) => at % 4 === 0)).toEqual(painted(16, 16).data.filter((_, at) => at % 4 === 0))
  })
  it('says in a sentence which map is not there', async () => {
    const { document } = boxWith({ colour: painted(8, 8) })
    const punch = { from: 'roughness', channel: 'red', inverted: false, scale: 1, value: 0 }
    await expect(
      runStep('pack-channels', document, {
        cards: [{ material: 'planks', output: 'mixed', red: punch, green: punch, blue: punch, alpha: punch }],
      }),
    ).rejects.toThrow(/there is no map “roughness” at this place/)
  })
})

describe('Recolour', () => {
  function twoModels(): Document {
    const document = documentOf({ lying: unitBox(), worn: unitBox() })
    const [material] = document.getRoot().listMaterials()
    material.setName('oilskin').setBaseColorTexture(
      addTexture(
        document,
        'oilskin',
        'colour',
        pictureOf(8, 8, () => [220, 180, 30]),
        'test',
      ),
    )
    for (const part of listViewParts(document)) part.mesh.listPrimitives()[0].setMaterial(material)
    return document
  }
  it('gives every model of the item the new looks, in maps and materials of their own', async () => {
    const { after, summary } = await runStep('recolour-looks', twoModels())
    expect(summary.headline).toBe('3 looks')
    expect(listLooks(after)).toEqual(['plain', 'blue', 'red'])
    for (const look of ['blue', 'red']) expect(partsWithoutLook(after, look)).toEqual([])
    const blue = [...materialsInLook(after, 'blue').values()][0].getBaseColorTexture()
    const { data } = await texturePixels(blue as never)
    expect(data[2]).toBeGreaterThan(data[0])
    expect(listShownMaps(after, tarnAndTiller).length).toBe(3)
  })
  it('keeps looks through a file, as the standard has them', async () => {
    const { after } = await runStep('recolour-looks', twoModels())
    const back = await documentFromGlb(await documentToGlb(after))
    expect(listLooks(back)).toEqual(['plain', 'blue', 'red'])
    expect(
      back
        .getRoot()
        .listExtensionsUsed()
        .map((extension) => extension.extensionName),
    ).toContain(KHRMaterialsVariants.EXTENSION_NAME)
  })
  it('a look that forgets a model is noticed', () => {
    const document = twoModels()
    const [material] = listUsedMaterials(document)
    addLook(document, 'odd', new Map([[material, document.createMaterial('other')]]))
    const [, worn] = listViewParts(document)
    worn.mesh.listPrimitives()[0].setExtension('KHR_materials_variants', null)
    expect(partsWithoutLook(document, 'odd').map((part) => part.name)).toEqual(['worn'])
  })
  it('does not take a name that is there', async () => {
    const { after } = await runStep('recolour-looks', twoModels())
    expect((await runStep('recolour-looks', after)).summary.details[0]).toMatch(/There is a look “blue” already/)
  })
})

describe('Show another material', () => {
  it('is proposed where one model still shows the old one, and makes both the same', async () => {
    const document = documentOf({ lying: unitBox(), worn: unitBox() })
    const [lying, worn] = listViewParts(document)
    lying.node.setExtras({ gentle_crate: { model: 'lying' } })
    worn.node.setExtras({ gentle_crate: { model: 'worn' } })
    lying.mesh.listPrimitives()[0].setMaterial(document.createMaterial('new'))
    worn.mesh.listPrimitives()[0].setMaterial(document.createMaterial('old'))
    const [proposed] = proposals('share-material', document, { kind: gear })
    expect(proposed.parameters).toEqual({ from: 'old', to: 'new' })
    const { after } = await runStep('share-material', document, proposed.parameters, { kind: gear })
    expect(listUsedMaterials(after).map((material) => material.getName())).toEqual(['new'])
    expect(proposals('share-material', after, { kind: gear })).toEqual([])
  })
})

describe('sizes by what one sees', () => {
  it('tells texels a unit, and takes first from what lies finest', async () => {
    const document = documentOf({ large: unitBox(), small: unitBox() })
    const [large, small] = listViewParts(document)
    small.node.setScale([0.25, 0.25, 0.25])
    for (const [part, name] of [
      [large, 'large'],
      [small, 'small'],
    ] as const) {
      const texture = document
        .createTexture(name)
        .setMimeType('image/png')
        .setImage(encodePng(painted(256, 256), false) as Uint8Array<ArrayBuffer>)
      setTextureExtras(texture, { role: 'colour' })
      const [primitive] = part.mesh.listPrimitives()
      const corners = primitive.getAttribute('POSITION')?.getCount() ?? 0
      primitive.setMaterial(document.createMaterial(name).setBaseColorTexture(texture))
      primitive.setAttribute(
        'TEXCOORD_0',
        document
          .createAccessor()
          .setType('VEC2')
          .setArray(Float32Array.from({ length: corners * 2 }, (_, at) => [0, 0, 1, 0, 1, 1, 0, 1][at % 8]))
          .setBuffer(document.getRoot().listBuffers()[0]),
      )
    }
    const [a, b] = listShownMaps(document, tarnAndTiller).map(
      ({ texture }) => texelsPerUnit(document, texture, 256, 256) ?? 0,
    )
    expect(b / a).toBeCloseTo(4)
    const tight = { ...kindOf(tarnAndTiller, 'prop'), textureMemoryBytes: 120_000 }
    const { after } = await runStep('size-maps', document, {}, { kind: tight })
    expect(after.getRoot().listTextures().map(sizeOf)).toEqual([
      [256, 256],
      [128, 128],
    ])
  })
})
