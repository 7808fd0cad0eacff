import { KHRMaterialsVariants } from '@gltf-transform/extensions'
import type { Document, Material } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { setTextureExtras } from '../document/extras.ts'
import { documentFromGlb, documentToGlb } from '../document/io.ts'
import { addLook, listLooks, materialsInLook, partsWithoutLook } from '../document/looks.ts'
import { roleFromName, subjectOfName } from '../document/map-roles.ts'
import { boundsSize, partBounds } from '../document/measure.ts'
import { countTriangles, listUsedMaterials, listViewParts } from '../document/parts.ts'
import { readPrimitive } from '../document/primitive-arrays.ts'
import { listMaterialMaps, materialMap, setMaterialMap } from '../document/source-maps.ts'
import { measureUvs } from '../geometry/uv-layout.ts'
import { kindOf } from '../rulebook/load.ts'
import { ball, documentOf, unitBox } from '../test-support/meshes.ts'
import { leaf, painted, pictureOf, wavyNormals } from '../test-support/pictures.ts'
import { tarnAndTiller } from '../test-support/prepared-gate.ts'
import { sheet } from '../test-support/shapes.ts'
import { proposals, runStep } from '../test-support/step-runs.ts'
import { encodePng } from '../texture/image-codecs.ts'
import type { Pixels } from '../texture/pixels.ts'
import { liftFor, holdsTo } from './lay-decal.ts'
import { addTexture } from './map-pixels.ts'
import { pickedFaces } from './face-picks.ts'
import { listShownMaps, texelsPerUnit } from './shown-maps.ts'
import { texturePixels } from './texture-pixels.ts'

const grey = (value: number, side = 16): Pixels => pictureOf(side, side, () => [value, value, value])
const sign = kindOf(tarnAndTiller, 'sign')
const gear = kindOf(tarnAndTiller, 'gear')

/** One box whose material has maps in the given roles. */
function boxWith(maps: Parameters<typeof setMaterialMap>[2] extends infer R ? Partial<Record<R & string, Pixels>> : never, name = 'planks'): { document: Document; material: Material } {
  const document = documentOf({ box: unitBox() })
  const [material] = document.getRoot().listMaterials()
  material.setName(name)
  for (const [role, pixels] of Object.entries(maps)) setMaterialMap(document, material, role as 'colour', addTexture(document, `${name}_${role}`, role as 'colour', pixels as Pixels, 'test'))
  return { document, material }
}

describe('what pictures are for, by their names as people write them', () => {
  const written: [string, string | null][] = [
    ['Planks_Albedo_512', 'colour'], ['planks diffuse 2K', 'colour'], ['hull_BaseColor', 'colour'], ['gate stone_n', 'normal'], ['Stone_NormalGL_4k', 'normal'], ['planks_nrm (1)', 'normal'],
    ['Planks_Gloss', 'gloss'], ['planksRoughness', 'roughness'], ['rope_AO copy', 'occlusion'], ['Planks_height (1)', 'height'], ['lamp_emissive', 'glow'], ['leaf-mask', 'opacity'], ['metal_door_normal', 'normal'],
    ['nails_metal', 'metalness'], ['stove_ORM', 'mixed'], ['oilskin_yellow', null], ['timetable_board', null],
  ]
  it.each(written)('%s is %s', (name, role) => expect(roleFromName(name)).toBe(role))
  it('leaves role, size and copy out of what they show', () => {
    expect(['Planks_Albedo_512', 'Planks_height (1)', 'planks_nrm'].map(subjectOfName)).toEqual(['planks', 'planks', 'planks'])
  })
})

describe('maps that no game reads', () => {
  it('stay with their material through copies, names and files', async () => {
    const { document, material } = boxWith({ colour: painted(8, 8), gloss: grey(200), height: grey(90) })
    materialMap(material, 'gloss')?.setName('renamed')
    const back = await documentFromGlb(await documentToGlb(document))
    const [read] = back.getRoot().listMaterials()
    expect(listMaterialMaps(read).map(({ role, texture }) => [role, texture.getName()])).toEqual([['colour', 'planks_colour'], ['gloss', 'renamed'], ['height', 'planks_height']])
    materialMap(read, 'height')?.dispose()
    expect(materialMap(read, 'height')).toBeNull()
  })
})

describe('Read roles', () => {
  it('puts a picture where its name says, and where it is told to', async () => {
    const { document } = boxWith({ colour: painted(8, 8) })
    document.getRoot().listTextures()[0].setName('planks_ao')
    const [proposed] = proposals('read-roles', document)
    expect(proposed.parameters).toEqual({ roles: [{ texture: 'planks_ao', role: 'occlusion' }] })
    const { after } = await runStep('read-roles', document, proposed.parameters)
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
      expect(summary.details[0]).toMatch(new RegExp(`green points ${up ? 'up' : 'down'} \\(\\d+ % of its slopes agree\\)`))
      const green = (await texturePixels(after.getRoot().listTextures().find((texture) => texture.getName() === 'planks_normal') as never)).data
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
    const mixed = await texturePixels(materialMap(material, 'mixed') as never)
    expect([mixed.width, mixed.height]).toEqual([32, 32])
    expect([...mixed.data.slice(0, 4)]).toEqual([180, 55, Math.round(listUsedMaterials(document)[0].getMetallicFactor() * 255), 0])
    expect(summary.headline).toBe('2 → 1')
    // What was packed is not carried on.
    expect(listMaterialMaps(material).map(({ role }) => role)).toEqual(['colour', 'mixed'])
    expect(after.getRoot().listTextures().length).toBe(2)
  })
  it('takes opacity of its own into the colour map', async () => {
    const { document } = boxWith({ colour: painted(16, 16), opacity: pictureOf(16, 16, (x) => (x < 8 ? [0, 0, 0] : [255, 255, 255])) })
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
    await expect(runStep('pack-channels', document, { cards: [{ material: 'planks', output: 'mixed', red: punch, green: punch, blue: punch, alpha: punch }] })).rejects.toThrow(/there is no map “roughness” at this place/)
  })
})

describe('Cut out', () => {
  const board = pictureOf(32, 32, (x, y) => (x > 4 && x < 27 && y > 6 && y < 25 ? [220, 210, 180] : [12, 200, 60]))
  it('finds the key of a sign by its rim, cuts it and sets the flag to match', async () => {
    const { document } = boxWith({ colour: board }, 'board')
    const [proposed] = proposals('cut-mask', document, { kind: sign })
    expect(proposed.parameters).toMatchObject({ key: '#0cc83c', drawn: 'cut' })
    const { after, summary } = await runStep('cut-mask', document, proposed.parameters, { kind: sign })
    const [material] = listUsedMaterials(after)
    expect(material.getAlphaMode()).toBe('MASK')
    expect(summary.headline).toBe('61 % clear')
    const tagged = await runStep('tag-materials', after, proposals('tag-materials', after)[0].parameters)
    expect(listUsedMaterials(tagged.after)[0].getName()).toBe('board@timber.cut')
  })
  it('is not proposed for other kinds, nor where the rim has many colours', () => {
    expect(proposals('cut-mask', boxWith({ colour: board }).document)).toEqual([])
    expect(proposals('cut-mask', boxWith({ colour: painted(64, 64) }).document, { kind: sign })).toEqual([])
  })
  it('keeps the coverage of what is cut through compression, in one bit', async () => {
    const { document, material } = boxWith({ colour: leaf(64) })
    material.setAlphaMode('MASK')
    const { summary } = await runStep('compress-maps', document, { colour: 'bc1' })
    expect(summary.details[0]).toMatch(/BC1, cut with its coverage kept, 7 levels/)
  })
})

describe('Unwrap', () => {
  it('gives a ball islands that do not overlap and are hardly drawn out', async () => {
    const document = documentOf({ ball: ball(1, 16) })
    listViewParts(document)[0].mesh.listPrimitives()[0].setAttribute('TEXCOORD_0', null)
    const [proposed] = proposals('unwrap', document)
    expect(proposed.reason).toBe('1 part has no UVs (ball): no texture can lie on it.')
    const { after, summary } = await runStep('unwrap', document, proposed.parameters)
    const arrays = readPrimitive(listViewParts(after)[0].mesh.listPrimitives()[0])
    const layout = measureUvs([{ positions: arrays.positions, uvs: arrays.uvs as Float32Array, indices: arrays.indices }])
    expect(layout.overlap).toBeLessThan(0.01)
    expect(layout.covered).toBeGreaterThan(0.35)
    expect([...layout.stretch].sort((a, b) => a - b)[Math.floor(layout.stretch.length / 2)]).toBeLessThan(1.5)
    expect(Math.max(...(arrays.uvs as Float32Array))).toBeLessThanOrEqual(1)
    expect(countTriangles(listViewParts(after))).toBe(countTriangles(listViewParts(document)))
    expect(summary.details[1]).toMatch(/8 pixels apart at 256 × 256: one pixel in the mipmap of 32/)
  })
})

describe('Palette', () => {
  const plain = (): Document => {
    const document = documentOf({ rope: unitBox(), cleat: unitBox(), rudder: unitBox() })
    const materials = document.getRoot().listMaterials()
    listViewParts(document).forEach((part, index) => {
      const material = index === 0 ? materials[0] : document.createMaterial()
      material.setName(['Fender rope', 'Brass', 'Rudder'][index]).setBaseColorFactor([[1, 0, 0, 1], [0, 1, 0, 1], [0, 0, 1, 1]][index] as [number, number, number, number])
      part.mesh.listPrimitives()[0].setMaterial(material)
    })
    return document
  }
  it('puts each colour into a cell that survives the mipmaps, and shows it where it was', async () => {
    const { after } = await runStep('plain-colours', plain(), { bySurface: false })
    expect(listUsedMaterials(after).map((material) => material.getName())).toEqual(['palette'])
    const picture = await texturePixels(materialMap(listUsedMaterials(after)[0], 'colour') as never)
    const colours = listViewParts(after).map((part) => {
      const uvs = readPrimitive(part.mesh.listPrimitives()[0]).uvs as Float32Array
      const at = (Math.floor(uvs[1] * picture.height) * picture.width + Math.floor(uvs[0] * picture.width)) * 4
      return [...picture.data.slice(at, at + 3)]
    })
    expect(colours).toEqual([[255, 0, 0], [0, 255, 0], [0, 0, 255]])
  })
  it('keeps surface kinds apart where the game’s number of materials allows it', async () => {
    const { after } = await runStep('plain-colours', plain(), { bySurface: true })
    expect(listUsedMaterials(after).map((material) => material.getName())).toEqual(['Fender rope', 'Brass', 'Rudder'])
    expect(new Set(listUsedMaterials(after).map((material) => material.getBaseColorTexture())).size).toBe(1)
  })
  it('gives what has no material one', async () => {
    const document = documentOf({ buoy: unitBox() })
    listViewParts(document)[0].mesh.listPrimitives()[0].setMaterial(null)
    expect(proposals('plain-colours', document)[0].reason).toMatch(/^buoy has no material/)
    const { after } = await runStep('plain-colours', document)
    expect(listUsedMaterials(after)[0].getBaseColorTexture()).not.toBeNull()
  })
})

describe('Bake into one set', () => {
  /** Two sheets, one with a picture laid on twice across, one plain red and of metal. */
  function twoSheets(): Document {
    const document = documentOf({ board: sheet(4, 4), rail: sheet(4, 4) })
    const [first] = document.getRoot().listMaterials()
    const second = document.createMaterial('Rail').setBaseColorFactor([1, 0, 0, 1]).setMetallicFactor(1).setRoughnessFactor(0.5)
    first.setName('Board').setMetallicFactor(0).setRoughnessFactor(1).setBaseColorTexture(addTexture(document, 'halves', 'colour', pictureOf(32, 32, (x) => (x < 16 ? [250, 250, 250] : [0, 90, 0])), 'test'))
    listViewParts(document).forEach((part, index) => {
      const [primitive] = part.mesh.listPrimitives()
      const { positions } = readPrimitive(primitive)
      const uvs = document.createAccessor().setType('VEC2').setArray(Float32Array.from({ length: (positions.length / 3) * 2 }, (_, at) => positions[Math.floor(at / 2) * 3 + (at % 2)] * 2)).setBuffer(document.getRoot().listBuffers()[0])
      primitive.setAttribute('TEXCOORD_0', uvs).setMaterial(index === 0 ? first : second)
      part.node.setTranslation([index * 5, 0, 0])
    })
    return document
  }
  it('shows on every place of the surface what it showed before', async () => {
    const before = twoSheets()
    const { after, summary } = await runStep('bake-maps', before, { materials: ['Board', 'Rail'], name: 'one', sidePixels: 256, supersampling: 2 })
    expect(summary.headline).toBe('2 → 1')
    expect(listUsedMaterials(after).map((material) => material.getName())).toEqual(['one'])
    const colour = await texturePixels(materialMap(listUsedMaterials(after)[0], 'colour') as never)
    const mixed = await texturePixels(materialMap(listUsedMaterials(after)[0], 'mixed') as never)
    let right = 0
    let looked = 0
    for (const [number, part] of listViewParts(after).entries()) {
      const { positions, uvs, indices } = readPrimitive(part.mesh.listPrimitives()[0])
      for (let at = 0; at < indices.length; at += 3) {
        // The middle of each triangle, well away from the edge between the picture's halves.
        const middle = (array: Float32Array, size: number, axis: number): number => [0, 1, 2].reduce((sum, corner) => sum + array[indices[at + corner] * size + axis], 0) / 3
        const oldU = (middle(positions, 3, 0) * 2) % 1
        if (Math.abs(((oldU + 1) % 0.5) - 0.25) > 0.12) continue
        const pixel = (Math.floor(middle(uvs as Float32Array, 2, 1) * 256) * 256 + Math.floor(middle(uvs as Float32Array, 2, 0) * 256)) * 4
        const wanted = number === 1 ? [255, 0, 0] : ((oldU + 1) % 1) < 0.5 ? [250, 250, 250] : [0, 90, 0]
        looked++
        if (wanted.every((value, channel) => Math.abs(value - colour.data[pixel + channel]) < 12) && Math.abs(mixed.data[pixel + 2] - number * 255) < 12) right++
      }
    }
    expect(looked).toBeGreaterThan(10)
    expect(right).toBe(looked)
  })
  it('bakes a normal map so that it points as before, on islands that lie otherwise', async () => {
    const document = twoSheets()
    const [first] = listUsedMaterials(document)
    // Everywhere leaning to the picture's right.
    first.setNormalTexture(addTexture(document, 'lean', 'normal', pictureOf(8, 8, () => [218, 128, 218]), 'test'))
    const { after } = await runStep('bake-maps', document, { materials: ['Board', 'Rail'], name: 'one', sidePixels: 128, supersampling: 1 })
    const normal = await texturePixels(materialMap(listUsedMaterials(after)[0], 'normal') as never)
    const { positions, uvs, indices } = readPrimitive(listViewParts(after)[0].mesh.listPrimitives()[0])
    const [a, b, c] = [indices[0], indices[1], indices[2]]
    const texture = uvs as Float32Array
    const u = (texture[a * 2] + texture[b * 2] + texture[c * 2]) / 3
    const v = (texture[a * 2 + 1] + texture[b * 2 + 1] + texture[c * 2 + 1]) / 3
    const at = (Math.floor(v * 128) * 128 + Math.floor(u * 128)) * 4
    const [x, y] = [normal.data[at] / 127.5 - 1, normal.data[at + 1] / 127.5 - 1]
    // The new picture's right and up on the surface, from the triangle itself.
    const [du1, dv1, du2, dv2] = [texture[b * 2] - texture[a * 2], texture[b * 2 + 1] - texture[a * 2 + 1], texture[c * 2] - texture[a * 2], texture[c * 2 + 1] - texture[a * 2 + 1]]
    const area = du1 * dv2 - du2 * dv1
    const edge = (corner: number, axis: number): number => positions[corner * 3 + axis] - positions[a * 3 + axis]
    const right = [0, 1].map((axis) => (edge(b, axis) * dv2 - edge(c, axis) * dv1) / area)
    const up = [0, 1].map((axis) => -(edge(c, axis) * du1 - edge(b, axis) * du2) / area)
    const length = (vector: number[]): number => Math.hypot(vector[0], vector[1])
    const inSpace = [0, 1].map((axis) => (x * right[axis]) / length(right) + (y * up[axis]) / length(up))
    expect(inSpace[0]).toBeCloseTo(0.71, 1)
    expect(Math.abs(inSpace[1])).toBeLessThan(0.08)
  })
})

describe('Bake occlusion', () => {
  it('is dark where a floor meets a wall and light away from it', async () => {
    const document = documentOf({ floor: sheet(8, 8), wall: sheet(8, 8) })
    const [floor, wall] = listViewParts(document)
    wall.node.setTranslation([0, 0, 0]).setRotation([0, -Math.SQRT1_2, 0, Math.SQRT1_2])
    wall.mesh.listPrimitives()[0].setMaterial(document.createMaterial('wall'))
    const [primitive] = floor.mesh.listPrimitives()
    const { positions } = readPrimitive(primitive)
    const size = boundsSize(partBounds(floor))
    primitive.setAttribute('TEXCOORD_0', document.createAccessor().setType('VEC2').setArray(Float32Array.from({ length: (positions.length / 3) * 2 }, (_, at) => positions[Math.floor(at / 2) * 3 + (at % 2)] / size[at % 2])).setBuffer(document.getRoot().listBuffers()[0]))
    const material = primitive.getMaterial()?.getName() ?? ''
    const { after } = await runStep('bake-occlusion', document, { material, sidePixels: 32, rays: 32, reach: size[0] / 2 })
    const picture = await texturePixels(materialMap(listUsedMaterials(after)[0], 'occlusion') as never)
    const column = (x: number): number => [...Array(32).keys()].reduce((sum, y) => sum + picture.data[(y * 32 + x) * 4], 0) / 32
    expect(column(0)).toBeLessThan(column(28) - 60)
    expect(column(28)).toBeGreaterThan(245)
  })
})

describe('Recolour', () => {
  function twoModels(): Document {
    const document = documentOf({ lying: unitBox(), worn: unitBox() })
    const [material] = document.getRoot().listMaterials()
    material.setName('oilskin').setBaseColorTexture(addTexture(document, 'oilskin', 'colour', pictureOf(8, 8, () => [220, 180, 30]), 'test'))
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
    expect(listShownMaps(after).length).toBe(3)
  })
  it('keeps looks through a file, as the standard has them', async () => {
    const { after } = await runStep('recolour-looks', twoModels())
    const back = await documentFromGlb(await documentToGlb(after))
    expect(listLooks(back)).toEqual(['plain', 'blue', 'red'])
    expect(back.getRoot().listExtensionsUsed().map((extension) => extension.extensionName)).toContain(KHRMaterialsVariants.EXTENSION_NAME)
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

describe('Lay a decal', () => {
  const marks = encodePng(pictureOf(16, 8, (x, y) => (x > 3 && x < 12 && y > 1 && y < 6 ? [250, 250, 250, 255] : [0, 0, 0, 0])), true)
  const pick = { part: 'wall', point: [0.5, 0.5, 0], growth: 'surface', angleDegrees: 20 }
  const images = [{ path: 'marks.png', bytes: marks }]
  it('copies only what the picture covers, lifts it outward, and makes its material', async () => {
    const document = documentOf({ wall: sheet(20, 20) })
    const before = countTriangles(listViewParts(document))
    const size = boundsSize(partBounds(listViewParts(document)[0]))
    const { after, summary } = await runStep('lay-decal', document, { faces: [pick], picture: 'marks.png', name: 'draught', width: size[0] / 4, lift: 0.01 }, { images })
    const decal = listViewParts(after).find((part) => part.name === 'wall_draught')
    if (!decal) throw new Error('no decal')
    const bounds = partBounds(decal)
    expect(boundsSize(bounds)[0]).toBeCloseTo((size[0] / 4) * 0.5, 3)
    expect(Math.abs(Math.abs(bounds.min[2]) - 0.01)).toBeLessThan(1e-5)
    expect(countTriangles([decal])).toBeLessThan(before / 10)
    const material = decal.mesh.listPrimitives()[0].getMaterial()
    expect(material?.getAlphaMode()).toBe('MASK')
    expect(summary.details[1]).toMatch(/Lifted by 0\.01 spans, which the game’s depth tells apart as far as [\d.]+ spans/)
  })
  it('keeps bones and weights of the corners it was cut from', async () => {
    const document = documentOf({ wall: sheet(6, 6) })
    const [primitive] = listViewParts(document)[0].mesh.listPrimitives()
    const count = primitive.getAttribute('POSITION')?.getCount() ?? 0
    const accessor = (type: 'VEC4', array: Uint8Array<ArrayBuffer> | Float32Array<ArrayBuffer>) => document.createAccessor().setType(type).setArray(array).setBuffer(document.getRoot().listBuffers()[0])
    primitive.setAttribute('JOINTS_0', accessor('VEC4', Uint8Array.from({ length: count * 4 }, (_, at) => (at % 4 === 0 ? Math.floor(at / 4) % 3 : 0))))
    primitive.setAttribute('WEIGHTS_0', accessor('VEC4', Float32Array.from({ length: count * 4 }, (_, at) => (at % 4 === 0 ? 1 : 0))))
    const { after } = await runStep('lay-decal', document, { faces: [pick], picture: 'marks.png', name: 'draught', width: 0.8 }, { images })
    const made = listViewParts(after).find((part) => part.name === 'wall_draught')?.mesh.listPrimitives()[0]
    const corners = made?.getAttribute('POSITION')?.getCount()
    expect(made?.getAttribute('JOINTS_0')?.getCount()).toBe(corners)
    expect(made?.getAttribute('JOINTS_0')?.getArray()).toBeInstanceOf(Uint8Array)
    for (let corner = 0; corner < (corners ?? 0); corner++) expect(made?.getAttribute('WEIGHTS_0')?.getElement(corner, [])[0]).toBe(1)
  })
  it('says when it lies beside the faces, when none are picked, and which picture is missing', async () => {
    const document = documentOf({ wall: sheet(4, 4) })
    expect((await runStep('lay-decal', document, { faces: [pick], picture: 'marks.png', name: 'd', width: 0.1, right: 50 }, { images })).summary).toMatchObject({ headline: 'beside it', changed: false })
    expect((await runStep('lay-decal', document, { picture: 'marks.png' }, { images })).summary.headline).toBe('no faces')
    await expect(runStep('lay-decal', document, { faces: [pick], picture: 'none.png' }, { images })).rejects.toThrow(/there is no such picture at this place/)
  })
  it('its lift and the distance it holds to are each other’s inverse', () => {
    const depth = { near: 0.2, bits: 24 }
    expect(holdsTo(depth, liftFor(depth, 100))).toBeCloseTo(100)
    expect(liftFor(depth, 100)).toBeCloseTo(0.0119, 4)
  })
})

describe('sizes by what one sees', () => {
  it('tells texels a unit, and takes first from what lies finest', async () => {
    const document = documentOf({ large: unitBox(), small: unitBox() })
    const [large, small] = listViewParts(document)
    small.node.setScale([0.25, 0.25, 0.25])
    for (const [part, name] of [[large, 'large'], [small, 'small']] as const) {
      const texture = document.createTexture(name).setMimeType('image/png').setImage(encodePng(painted(256, 256), false) as Uint8Array<ArrayBuffer>)
      setTextureExtras(texture, { role: 'colour' })
      const [primitive] = part.mesh.listPrimitives()
      const corners = primitive.getAttribute('POSITION')?.getCount() ?? 0
      primitive.setMaterial(document.createMaterial(name).setBaseColorTexture(texture))
      primitive.setAttribute('TEXCOORD_0', document.createAccessor().setType('VEC2').setArray(Float32Array.from({ length: corners * 2 }, (_, at) => [0, 0, 1, 0, 1, 1, 0, 1][at % 8])).setBuffer(document.getRoot().listBuffers()[0]))
    }
    const [a, b] = listShownMaps(document).map(({ texture }) => texelsPerUnit(document, texture, 256, 256) ?? 0)
    expect(b / a).toBeCloseTo(4)
    const tight = { ...kindOf(tarnAndTiller, 'prop'), textureMemoryBytes: 120_000 }
    const { after } = await runStep('size-maps', document, {}, { kind: tight })
    expect(after.getRoot().listTextures().map((texture) => texture.getSize())).toEqual([[256, 256], [128, 128]])
  })
})

describe('Pad islands and Merge materials', () => {
  it('pads only what has room between its islands', async () => {
    const document = documentOf({ ball: ball(1, 12) })
    const { after: unwrapped } = await runStep('unwrap', document, { parts: ['ball'] })
    const [material] = listUsedMaterials(unwrapped)
    material.setBaseColorTexture(addTexture(unwrapped, 'skin', 'colour', pictureOf(64, 64, () => [255, 0, 255]), 'test'))
    expect(proposals('pad-islands', unwrapped)[0].reason).toMatch(/room between UV islands/)
    expect((await runStep('pad-islands', unwrapped)).summary.headline).toBe('1 map')
  })
  it('makes one of materials with equal content, and leaves those of other surface kinds', async () => {
    const document = documentOf({ a: unitBox(), b: unitBox(), c: unitBox() })
    listViewParts(document).forEach((part, index) => part.mesh.listPrimitives()[0].setMaterial(document.createMaterial(['one@timber', 'two@timber', 'three@iron'][index])))
    const { after } = await runStep('merge-materials', document)
    expect(listUsedMaterials(after).map((material) => material.getName())).toEqual(['one@timber', 'three@iron'])
  })
})

it('picks reach a whole surface when asked', () => {
  const document = documentOf({ wall: sheet(3, 3) })
  expect(pickedFaces(document, [{ part: 'wall', point: [0, 0, 0], growth: 'surface', angleDegrees: 0 }]).count).toBe(18)
})
