import { writtenNames } from '../../test-support/written-names.ts'
import { describe, expect, it } from 'vitest'
import { picturesOf } from '../../crate/bring-in.ts'
import { getMaterialExtras } from '../../item/extras.ts'
import { listLooks, materialsInLook } from '../../item/looks.ts'
import { listUsedMaterials, listViewParts } from '../../item/parts.ts'
import { materialMap } from '../../item/source-maps.ts'
import { documentOf } from '../../test-support/meshes.ts'
import { painted, pictureOf } from '../../test-support/pictures.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { sheet } from '../../test-support/shapes.ts'
import { proposals, runStep } from '../../test-support/step-runs.ts'
import { encodePng } from '../../pictures/image-codecs.ts'
import { pickedFaces } from '../../operations/meshes/face-picks.ts'
import { addTexture } from '../../operations/maps/map-pixels.ts'
import { texturePixels } from '../../operations/maps/texture-pixels.ts'

const red = pictureOf(16, 16, () => [200, 30, 20])
const images = [{ path: 'work/wall_painted.png', bytes: encodePng(red, false) }]

function wall() {
  const document = documentOf({ wall: sheet(8, 8) })
  const [material] = document.getRoot().listMaterials()
  const clear = pictureOf(32, 32, (x) => [60, 90, 120, x < 16 ? 0 : 255])
  material.setName('wall').setBaseColorTexture(addTexture(document, 'wall_col', 'colour', clear, 'test'))
  return document
}

describe('Put in a picture', () => {
  it('puts a layout that was painted on back where it belongs, guessed by its name', async () => {
    const { after, summary } = await runStep('put-in-picture', wall(), {}, { images })
    const [material] = listUsedMaterials(after)
    const pixels = await texturePixels(material.getBaseColorTexture() as never)
    expect([...pixels.data.slice(0, 4)]).toEqual([200, 30, 20, 255])
    expect(after.getRoot().listTextures()).toHaveLength(1)
    expect(summary.details[0]).toMatch(/wall_painted\.png is the colour of wall in the look “plain” now/)
  })
  it('keeps the opacity of what stood there when it is asked to', async () => {
    const { after } = await runStep('put-in-picture', wall(), { keepOpacity: true }, { images })
    const { data } = await texturePixels(listUsedMaterials(after)[0].getBaseColorTexture() as never)
    expect([data[4 * 4 + 3], data[12 * 4 + 3]]).toEqual([0, 255])
    expect([...data.slice(0, 3)]).toEqual([200, 30, 20])
  })
  it('makes a look of its own, and the first stays as it was', async () => {
    const { after } = await runStep('put-in-picture', wall(), { look: 'Red Winter' }, { images })
    expect(listLooks(after)).toEqual(['plain', 'red_winter'])
    const [[own, shown]] = [...materialsInLook(after, 'red_winter')]
    expect((await texturePixels(own.getBaseColorTexture() as never)).data[0]).toBe(60)
    expect((await texturePixels(shown.getBaseColorTexture() as never)).data[0]).toBe(200)
    // A second picture in the same look changes that look's material, not the first's.
    const { after: twice } = await runStep('put-in-picture', after, { look: 'red_winter', role: 'normal' }, { images })
    const [[plain, wintry]] = [...materialsInLook(twice, 'red_winter')]
    expect([materialMap(plain, 'normal'), materialMap(wintry, 'normal') === null]).toEqual([null, false])
  })
  it('says which material is not there', async () => {
    expect((await runStep('put-in-picture', wall(), { material: 'roof' }, { images })).summary.doesNotApply).toMatch(
      /roof/,
    )
  })
})

describe('Pack channels from any picture', () => {
  const punch = (from: string, channel: string) => ({ from, channel, inverted: false, scale: 1, value: 1 })
  it('takes new colour under the opacity of another map, and a texture of the game’s own stock', async () => {
    const withStock = [...images, ...(await picturesOf([], { rulebook: tarnAndTiller, stock: null }, async () => null))]
    const card = {
      material: 'wall',
      output: 'colour',
      red: punch('picture:wall_painted.png', 'red'),
      green: punch('picture:rope_col.dds', 'green'),
      blue: punch('constant', 'red'),
      alpha: punch('colour', 'alpha'),
    }
    const { after } = await runStep('pack-channels', wall(), { cards: [card] }, { images: withStock })
    const made = await texturePixels(listUsedMaterials(after)[0].getBaseColorTexture() as never)
    // The largest that goes in is the game's own, 128 across.
    expect([made.width, made.height]).toEqual([128, 128])
    expect([made.data[0], made.data[2], made.data[32 * 4 + 3], made.data[96 * 4 + 3]]).toEqual([200, 255, 0, 255])
    expect(new Set(made.data.filter((_, at) => at % 4 === 1)).size).toBeGreaterThan(4)
  })
})

describe('Recolour by hues', () => {
  it('changes every range that is picked and nothing between', async () => {
    const document = wall()
    // Pure red, green and blue in three columns: hues of about 29°, 142° and 264°.
    const three = pictureOf(3, 3, (x) => [x === 0 ? 220 : 20, x === 1 ? 200 : 20, x === 2 ? 220 : 20])
    listUsedMaterials(document)[0].setBaseColorTexture(addTexture(document, 'three_col', 'colour', three, 'test'))
    const variant = {
      name: 'turned',
      hueDegrees: 0,
      saturation: -1,
      lightness: 0,
      colour: '#000000',
      mode: 'tint',
      strength: 0,
    }
    const { after } = await runStep('recolour-looks', document, {
      variants: [variant],
      hues: [
        { hueDegrees: 29, reachDegrees: 20 },
        { hueDegrees: 264, reachDegrees: 20 },
      ],
    })
    const [[, shown]] = [...materialsInLook(after, 'turned')]
    const { data } = await texturePixels(shown.getBaseColorTexture() as never)
    const spread = (pixel: number): number =>
      Math.max(data[pixel * 4], data[pixel * 4 + 1], data[pixel * 4 + 2]) -
      Math.min(data[pixel * 4], data[pixel * 4 + 1], data[pixel * 4 + 2])
    expect([spread(0) < 8, spread(1) > 150, spread(2) < 8]).toEqual([true, true, true])
  })
})

describe('Tag materials', () => {
  it('takes the shading model that was chosen, else the one that fits', async () => {
    const tag = { material: 'wall', surface: 'timber', flags: [] }
    expect(
      getMaterialExtras(listUsedMaterials((await runStep('tag-materials', wall(), { tags: [tag] })).after)[0])
        .shadingModel,
    ).toBe('plain')
    expect(
      getMaterialExtras(
        listUsedMaterials((await runStep('tag-materials', wall(), { tags: [{ ...tag, shading: 'flat' }] })).after)[0],
      ).shadingModel,
    ).toBe('flat')
  })
})

describe('the brush', () => {
  it('takes what its reach touches and nothing further off', () => {
    const document = wall()
    const at = { part: 'wall', point: [0.5, 0.5, 0], angleDegrees: 0 }
    const small = pickedFaces(document, [{ ...at, growth: 'round', radius: 0.01 }]).count
    const large = pickedFaces(document, [{ ...at, growth: 'round', radius: 1.5 }]).count
    const all = pickedFaces(document, [{ ...at, growth: 'round', radius: 50 }]).count
    expect(small).toBeGreaterThan(0)
    expect(large).toBeGreaterThan(small)
    expect(all).toBeGreaterThan(large)
    expect(pickedFaces(document, [{ ...at, point: [0.5, 0.5, 3], growth: 'round', radius: 1 }]).count).toBe(0)
  })
})

describe('a decal', () => {
  it('needs no step after it: its material is tagged, its texture has a size the game takes', async () => {
    const document = wall()
    listUsedMaterials(document)[0].setName('wall@stone')
    const marks = {
      path: 'marks.png',
      bytes: encodePng(
        pictureOf(20, 10, (x) => [250, 250, 250, x > 2 ? 255 : 0]),
        true,
      ),
    }
    const { after } = await runStep(
      'lay-decal',
      document,
      {
        faces: [{ part: 'wall', point: [0.5, 0.5, 0], growth: 'surface', angleDegrees: 20 }],
        picture: 'marks.png',
        name: 'Draught marks',
        width: 0.5,
      },
      { images: [marks] },
    )
    const material = listUsedMaterials(after).find((each) => each.getName().startsWith('draught'))
    expect(writtenNames(after)).toContain('draught_marks@stone.cut.noshadow')
    const { width, height } = await texturePixels(material?.getBaseColorTexture() as never)
    expect([width, height]).toEqual([16, 8])
    // Its tag stays when the others are given theirs.
    const { summary } = await runStep('tag-materials', after, { tags: [] })
    expect(summary.details).toContain('draught_marks is tagged already.')
    expect(proposals('tag-materials', after)).toEqual([])
    expect(listViewParts(after)).toHaveLength(2)
  })
  it('is one picture over several surfaces of a part', async () => {
    const document = wall()
    const [primitive] = listViewParts(document)[0].mesh.listPrimitives()
    const half = primitive.clone()
    const indices = primitive.getIndices()
    const all = Array.from(indices?.getArray() ?? [], Number)
    const buffer = document.getRoot().listBuffers()[0]
    const part = (list: number[]) =>
      document.createAccessor().setType('SCALAR').setArray(Uint32Array.from(list)).setBuffer(buffer)
    primitive.setIndices(part(all.slice(0, all.length / 2)))
    half.setIndices(part(all.slice(all.length / 2)))
    listViewParts(document)[0].mesh.addPrimitive(half)
    const marks = { path: 'marks.png', bytes: encodePng(painted(16, 16), false) }
    const pick = (y: number) => ({ part: 'wall', point: [4, y, 0], growth: 'surface' as const, angleDegrees: 20 })
    const { after } = await runStep(
      'lay-decal',
      document,
      { faces: [pick(1), pick(7)], picture: 'marks.png', name: 'sign', width: 4 },
      { images: [marks] },
    )
    const decal = listViewParts(after).find((each) => each.name === 'wall_sign')
    const uvs =
      decal?.mesh
        .listPrimitives()
        .flatMap((each) => Array.from(each.getAttribute('TEXCOORD_0')?.getArray() ?? [], Number)) ?? []
    const along = uvs.filter((_, at) => at % 2 === 1)
    // Both halves share one plane: the picture runs on from one to the other, top to bottom once.
    expect(decal?.mesh.listPrimitives()).toHaveLength(2)
    expect(Math.min(...along)).toBeCloseTo(0, 2)
    expect(Math.max(...along)).toBeCloseTo(1, 2)
  })
})
