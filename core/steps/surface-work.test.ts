import type { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { boundsSize, partBounds } from '../document/measure.ts'
import { countTriangles, listUsedMaterials, listViewParts } from '../document/parts.ts'
import { readPrimitive } from '../document/primitive-arrays.ts'
import { materialMap } from '../document/source-maps.ts'
import { measureUvs } from '../geometry/uv-layout.ts'
import { ball, documentOf, unitBox } from '../test-support/meshes.ts'
import { pictureOf } from '../test-support/pictures.ts'
import { sheet } from '../test-support/shapes.ts'
import { proposals, runStep } from '../test-support/step-runs.ts'
import { encodePng } from '../texture/image-codecs.ts'
import { liftFor, holdsTo } from './lay-decal.ts'
import { addTexture } from './map-pixels.ts'
import { pickedFaces } from './face-picks.ts'
import { texturePixels } from './texture-pixels.ts'

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
