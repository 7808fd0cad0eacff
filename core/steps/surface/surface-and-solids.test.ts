import { writtenNames } from '../../test-support/written-names.ts'
import { setMaterialMap } from '../../item/source-maps.ts'
import type { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import {
  getMaterialExtras,
  getNodeExtras,
  getTextureExtras,
  setTextureExtras,
  type TextureRole,
} from '../../item/extras.ts'
import { partBounds } from '../../item/measure.ts'
import { countMeshCorners, countTriangles, listSceneNodes, listUsedMaterials, listViewParts } from '../../item/parts.ts'
import { listSolids } from '../../item/annotations/solid/list.ts'
import { boxMesh } from '../../geometry/shapes/box-mesh.ts'
import { kindOf } from '../../game/load.ts'
import { isGameName } from '../../game/names.ts'
import { readDdsHeader } from '../../pictures/codecs/dds.ts'
import { encodePng } from '../../pictures/image-codecs.ts'
import type { Pixels } from '../../pictures/pixels.ts'
import { ball, documentOf, unitBox } from '../../test-support/meshes.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { proposals, runStep } from '../../test-support/step-runs.ts'
import { textureFacts, textureMemory, texturePixels } from '../../operations/maps/texture-pixels.ts'
import { sizeOf } from '../../test-support/pictures.ts'

/** A picture of stripes, half of it see-through on demand. */
function stripes(width: number, height: number, seeThrough = false): Pixels {
  const data = new Uint8Array(width * height * 4)
  for (let pixel = 0; pixel < width * height; pixel++) {
    const on = pixel % 4 < 2
    data.set([on ? 200 : 40, 90, 60, seeThrough && on ? 0 : 255], pixel * 4)
  }
  return { width, height, data }
}

/** A box whose material shows textures in the given roles. */
function textured(
  pictures: Partial<Record<TextureRole, Pixels>>,
  names: Partial<Record<TextureRole, string>> = {},
): Document {
  const document = documentOf({ box: unitBox() })
  const [material] = document.getRoot().listMaterials()
  for (const [role, picture] of Object.entries(pictures) as [TextureRole, Pixels][]) {
    const texture = document
      .createTexture(names[role] ?? `${role} map`)
      .setMimeType('image/png')
      .setImage(encodePng(picture, true) as Uint8Array<ArrayBuffer>)
    setTextureExtras(texture, { role })
    if (role === 'colour') material.setBaseColorTexture(texture)
    if (role === 'normal') material.setNormalTexture(texture)
    if (role === 'packed:mixed') setMaterialMap(document, material, role, texture)
  }
  return document
}

describe('Clean names', () => {
  it('cleans parts, materials, textures and clips, and keeps them apart', async () => {
    const document = documentOf({ 'Arch stone.001': unitBox(), arch_stone: unitBox(), Ändé: unitBox() })
    document.createAnimation('Sway Loop.002')
    const { after } = await runStep('clean-names', document)
    expect(listViewParts(after).map((part) => part.name)).toEqual(['arch_stone', 'arch_stone_2', 'ande'])
    expect(after.getRoot().listAnimations()[0].getName()).toBe('sway_loop')
    for (const material of after.getRoot().listMaterials())
      expect(isGameName(tarnAndTiller, material.getName())).toBe(true)
  })

  it('leaves room for the endings of what was made of a part', async () => {
    const document = documentOf({ ['a shape that somebody gave a very long name']: ball(2, 40) })
    const { after: levelled } = await runStep('levels-and-shadow', document)
    const { after } = await runStep('clean-names', levelled)
    const names = listSceneNodes(after).map((node) => node.getName())
    expect(names.length).toBeGreaterThan(2)
    expect(names.filter((name) => !isGameName(tarnAndTiller, name))).toEqual([])
    expect(names[1].startsWith(names[0])).toBe(true)
  })

  it('gives textures the ending of their role, whatever they were called', async () => {
    const document = textured(
      { colour: stripes(4, 4), normal: stripes(4, 4), 'packed:mixed': stripes(4, 4) },
      { colour: 'Hull Diffuse 4K', normal: 'hull_NormalGL', 'packed:mixed': 'hull_ORM' },
    )
    const { after } = await runStep('clean-names', document)
    expect(
      after
        .getRoot()
        .listTextures()
        .map((texture) => texture.getName()),
    ).toEqual(['hull_col', 'hull_nrm', 'hull_mix'])
  })

  it('keeps a tag that is already there', async () => {
    const document = documentOf({ box: unitBox() })
    document.getRoot().listMaterials()[0].setName('Gate Stone@stone.both')
    const { after } = await runStep('clean-names', document)
    expect(writtenNames(after)).toEqual(['gate_stone@stone.both'])
  })

  it('renames levels, shadow and solids after their part', async () => {
    const { after: levels } = await runStep('levels-and-shadow', documentOf({ 'Big Ball': ball(1, 40) }))
    const { after: solids } = await runStep('add-solid', levels, { part: 'Big Ball', shape: 'hull' })
    const { after } = await runStep('clean-names', solids)
    expect(
      listSceneNodes(after)
        .map((node) => node.getName())
        .sort(),
    ).toEqual(['big_ball', 'big_ball_l1', 'big_ball_l2', 'big_ball_shadow', 'solid_hull_01'])
  })

  it('is not proposed when all names are good', async () => {
    const { after } = await runStep('clean-names', documentOf({ 'A B': unitBox() }))
    expect(proposals('clean-names', after)).toEqual([])
  })
})

describe('Tag materials', () => {
  it('reads the surface from the material’s name and keeps how it is drawn', async () => {
    const document = documentOf({ plank: unitBox(), pane: unitBox() })
    const [wood, glass] = document.getRoot().listMaterials()
    wood.setName('deck_plank')
    glass.setName('window_glass').setAlphaMode('BLEND').setDoubleSided(true)
    const { after } = await runStep('tag-materials', document)
    expect(writtenNames(after)).toEqual(['deck_plank@timber', 'window_glass@glass.veil.both'])
    expect(listUsedMaterials(after)[1].getDoubleSided()).toBe(true)
  })

  it('sets flags, opacity mode and shading model as chosen', async () => {
    const document = textured({ colour: stripes(4, 4) })
    document.getRoot().listMaterials()[0].setName('reed')
    const { after, summary } = await runStep('tag-materials', document, {
      tags: [{ material: 'reed', surface: 'leaf', flags: ['cut', 'both'] }],
    })
    const [material] = listUsedMaterials(after)
    expect(writtenNames(after)).toEqual(['reed@leaf.cut.both'])
    expect(material.getAlphaMode()).toBe('MASK')
    expect(getMaterialExtras(material).shadingModel).toBe('plain')
    expect(summary.headline).toBe('1 of 1')
  })

  it('says which material it has no tag for', async () => {
    const { summary } = await runStep('tag-materials', documentOf({ box: unitBox() }), { tags: [] })
    expect(summary).toMatchObject({ headline: '0 of 1', details: ['box_material has no tag in this step.'] })
  })
})

describe('Size maps', () => {
  it('brings a picture to the nearest powers of two and leaves good ones as they are', async () => {
    const document = textured({ colour: stripes(150, 110), normal: stripes(64, 32) })
    const { after, summary } = await runStep('size-maps', document)
    expect(after.getRoot().listTextures().map(sizeOf)).toEqual([
      [128, 128],
      [64, 32],
    ])
    expect(summary).toMatchObject({
      headline: '1 map',
      details: [
        expect.stringMatching(/^colour map: 150 × 110 became 128 × 128/),
        expect.stringMatching(/^normal map: 64 × 32/),
      ],
    })
    const untouched = after.getRoot().listTextures()[1].getImage()
    expect(untouched).toEqual(document.getRoot().listTextures()[1].getImage())
  })

  it('keeps to the longest side that was chosen and to the widest aspect', async () => {
    const { after } = await runStep('size-maps', textured({ colour: stripes(1000, 20) }), { largestPixels: 256 })
    expect(sizeOf(after.getRoot().listTextures()[0])).toEqual([64, 16])
  })

  it('keeps opacity', async () => {
    const { after } = await runStep('size-maps', textured({ colour: stripes(20, 20, true) }))
    const { data } = await texturePixels(after.getRoot().listTextures()[0])
    expect(Math.min(...data.filter((_, at) => at % 4 === 3))).toBeLessThan(200)
  })
})

describe('Compress maps', () => {
  it('gives each role its codec, all mipmaps, and says what was lost', async () => {
    const { after, summary } = await runStep(
      'compress-maps',
      textured({ colour: stripes(32, 32), normal: stripes(16, 16), 'packed:mixed': stripes(8, 8) }),
    )
    const headers = after
      .getRoot()
      .listTextures()
      .map((texture) => readDdsHeader(texture.getImage() ?? new Uint8Array()))
    expect(headers.map(({ codec, mipmaps, srgb }) => ({ codec, mipmaps, srgb }))).toEqual([
      { codec: 'bc7', mipmaps: 6, srgb: true },
      { codec: 'bc5', mipmaps: 5, srgb: false },
      { codec: 'bc7', mipmaps: 4, srgb: false },
    ])
    expect(summary.details[0]).toMatch(/colour map: BC7, 6 levels, .* (dB|nothing lost)/)
    expect(summary.details[1]).toMatch(/° off on average/)
    expect(getTextureExtras(after.getRoot().listTextures()[0]).quality?.codec).toBe('bc7')
  })

  it('does not lose opacity to BC1: a see-through map takes the better codec', async () => {
    const opaque = await runStep('compress-maps', textured({ colour: stripes(16, 16) }), { colour: 'bc1' })
    expect(textureFacts(opaque.after.getRoot().listTextures()[0]).codec).toBe('bc1')
    const clear = await runStep('compress-maps', textured({ colour: stripes(16, 16, true) }), { colour: 'bc1' })
    expect(textureFacts(clear.after.getRoot().listTextures()[0]).codec).toBe('bc7')
    expect(clear.summary.details[0]).toMatch(/\(it is blended\)/)
  })

  it('leaves what is compressed already, byte for byte', async () => {
    const once = await runStep('compress-maps', textured({ colour: stripes(16, 16) }))
    const twice = await runStep('compress-maps', once.after)
    expect(twice.summary.changed).toBe(false)
    expect(twice.after.getRoot().listTextures()[0].getImage()).toEqual(
      once.after.getRoot().listTextures()[0].getImage(),
    )
    expect(proposals('compress-maps', once.after)).toEqual([])
  })

  it('counts memory as the card holds it', () => {
    expect(
      textureMemory({ format: 'png', codec: null, srgb: null, width: 1024, height: 1024, mipmaps: 1, bytes: 5 }),
    ).toBe(Math.round(1024 * 1024 * 4 * (4 / 3)))
    expect(
      textureMemory({ format: 'dds', codec: 'bc7', srgb: true, width: 4, height: 4, mipmaps: 1, bytes: 164 }),
    ).toBe(16)
  })
})

describe('Add a solid', () => {
  it.each([
    ['box', 12, 8],
    ['hull', 60, 32],
    ['mesh', 200, 102],
  ])('makes a %s of at most %d triangles', async (shape, triangles, points) => {
    const { after, summary } = await runStep('add-solid', documentOf({ ball: ball(2, 30) }), {
      shape,
      triangles: 200,
      points: 32,
      surface: 'stone',
    })
    const [solid] = listSolids(after)
    expect(solid.name).toBe(`solid_${shape}_01`)
    expect(solid.node.getParentNode()?.getName()).toBe('ball')
    expect(countTriangles([solid])).toBeLessThanOrEqual(triangles)
    expect(countMeshCorners(solid.mesh)).toBeLessThanOrEqual(points)
    expect(getNodeExtras(solid.node).solid).toMatchObject({
      shape,
      surface: 'stone',
      layers: ['ground', 'walls'],
      massKilograms: null,
    })
    expect(summary.details[0]).toMatch(/was put under ball/)
  })

  it('fits a box to the part exactly', async () => {
    const { after } = await runStep('add-solid', documentOf({ pier: boxMesh({ min: [1, 0, 2], max: [3, 7, 5] }) }), {
      shape: 'box',
    })
    expect(partBounds(listSolids(after)[0])).toEqual({ min: [1, 0, 2], max: [3, 7, 5] })
  })

  it('numbers solids through', async () => {
    const { after } = await runStep('add-solid', documentOf({ a: unitBox(), b: unitBox() }), {
      part: 'a',
      shape: 'box',
    })
    const { after: both } = await runStep('add-solid', after, { part: 'b', shape: 'box' })
    expect(listSolids(both).map((solid) => solid.name)).toEqual(['solid_box_01', 'solid_box_02'])
  })

  it('refuses a shape that the kind does not take, and a hull of a sheet, with the way out', async () => {
    const loose = kindOf(tarnAndTiller, 'loose')
    await expect(
      runStep('add-solid', documentOf({ a: unitBox() }), { shape: 'mesh' }, { kind: loose }),
    ).rejects.toThrow(/things that move collide only as convex shapes.*It takes box, ball, capsule, hull/)
    const sheet = {
      positions: Float32Array.from([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0]),
      indices: Uint32Array.from([0, 1, 2, 0, 2, 3]),
    }
    await expect(runStep('add-solid', documentOf({ sheet }), { shape: 'hull' })).rejects.toThrow(
      /flat and has no hull.*Use a box/,
    )
  })

  it('proposes a box for what is boxy, a hull for what is round, a mesh for what is hollow', async () => {
    const hollow = [
      boxMesh({ min: [0, 0, 0], max: [1, 9, 1] }),
      boxMesh({ min: [6, 0, 0], max: [7, 9, 1] }),
      boxMesh({ min: [1, 8, 0], max: [6, 9, 1] }),
    ]
    const frame = {
      positions: Float32Array.from(hollow.flatMap((box) => [...box.positions])),
      indices: Uint32Array.from(hollow.flatMap((box, index) => [...box.indices].map((corner) => corner + index * 8))),
    }
    const document = documentOf({
      frame,
      block: boxMesh({ min: [20, 0, 0], max: [24, 4, 4] }),
      ball: ball(3, 50, [40, 3, 0]),
    })
    const shapes = Object.fromEntries(
      proposals('add-solid', document).map((proposal) => [proposal.parameters['part'], proposal.parameters['shape']]),
    )
    expect(shapes).toEqual({ frame: 'mesh', block: 'box', ball: 'hull' })
  })

  it('proposes nothing under the count above which a solid is needed', () => {
    expect(proposals('add-solid', documentOf({ box: unitBox() }))).toEqual([])
  })

  it('never proposes a mesh for a thing that moves freely', () => {
    const loose = kindOf(tarnAndTiller, 'loose')
    for (const proposal of proposals('add-solid', documentOf({ ball: ball(3, 20) }), { kind: loose }))
      expect(proposal.parameters['shape']).not.toBe('mesh')
  })
})
