import type { Document, Material } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { addLook } from '../../item/looks.ts'
import { countTriangles, listUsedMaterials, listViewParts } from '../../item/parts.ts'
import { readPrimitive, writeAttribute } from '../../item/primitive-arrays.ts'
import { materialMap } from '../../item/source-maps.ts'
import { measureUvs } from '../../geometry/uv/uv-layout.ts'
import { kindOf } from '../../game/load.ts'
import { checkItem } from '../../rules/registry.ts'
import { ball, documentOf, unitBox } from '../../test-support/meshes.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { proposals, runStep } from '../../test-support/step-runs.ts'
import { addTexture } from '../../operations/maps/map-pixels.ts'
import { filled } from '../../operations/maps/plain-look.ts'
import { texturePixels } from '../../operations/maps/texture-pixels.ts'

const addColourMap = (document: Document, material: Material): Material =>
  material.setBaseColorTexture(addTexture(document, 'oak', 'colour', filled(4, [160, 60, 40, 255]), 'a test'))

describe('Unwrap', () => {
  it('gives a ball that shows a map islands that do not overlap and are hardly drawn out', async () => {
    const document = documentOf({ ball: ball(1, 16) })
    listViewParts(document)[0].mesh.listPrimitives()[0].setAttribute('TEXCOORD_0', null)
    expect(proposals('unwrap', document)).toEqual([])
    addColourMap(document, listUsedMaterials(document)[0])
    const [proposed] = proposals('unwrap', document)
    expect(proposed.reason).toBe('1 part has no UVs (ball): no texture can lie on it.')
    const { after, summary } = await runStep('unwrap', document, proposed.parameters)
    const arrays = readPrimitive(listViewParts(after)[0].mesh.listPrimitives()[0])
    const layout = measureUvs([
      { positions: arrays.positions, uvs: arrays.uvs as Float32Array, indices: arrays.indices },
    ])
    expect(layout.overlap).toBeLessThan(0.01)
    expect(layout.covered).toBeGreaterThan(0.35)
    expect([...layout.stretch].sort((a, b) => a - b)[Math.floor(layout.stretch.length / 2)]).toBeLessThan(1.5)
    expect(Math.max(...(arrays.uvs as Float32Array))).toBeLessThanOrEqual(1)
    expect(countTriangles(listViewParts(after))).toBe(countTriangles(listViewParts(document)))
    expect(summary.details[1]).toMatch(/8 pixels apart at 256 × 256: one pixel in the mipmap of 32/)
  })

  it('is proposed for what shows a map in any look, and not for a plain colour that a palette shows', () => {
    const document = documentOf({ ball: ball(1, 6), box: unitBox() })
    for (const { mesh } of listViewParts(document)) mesh.listPrimitives()[0].setAttribute('TEXCOORD_0', null)
    const [plain] = listUsedMaterials(document)
    expect(proposals('unwrap', document)).toEqual([])
    addLook(document, 'dusk', new Map([[plain, addColourMap(document, document.createMaterial('dusk'))]]))
    expect(proposals('unwrap', document).map(({ parameters }) => parameters['parts'])).toEqual([['ball']])
  })

  it('is proposed for what has no material: it is there to be painted', () => {
    const document = documentOf({ buoy: ball(1, 6) })
    listViewParts(document)[0].mesh.listPrimitives()[0].setAttribute('TEXCOORD_0', null).setMaterial(null)
    expect(proposals('unwrap', document)).toHaveLength(1)
  })

  it('lets islands stand closer where there are hundreds, so that they and not the room between fill the square', async () => {
    const pebbles = Object.fromEntries(
      Array.from({ length: 120 }, (_, number) => [`pebble_${number}`, ball(0.2, 3, [number, 0, 0])]),
    )
    const document = documentOf(pebbles)
    for (const { mesh } of listViewParts(document)) mesh.listPrimitives()[0].setAttribute('TEXCOORD_0', null)
    const { after, summary } = await runStep('unwrap', document, {
      parts: Object.keys(pebbles),
      sidePixels: 1024,
      smallestMipPixels: 32,
    })
    const layout = measureUvs(
      listViewParts(after).map(({ mesh }) => {
        const { positions, uvs, indices } = readPrimitive(mesh.listPrimitives()[0])
        return { positions, uvs: uvs as Float32Array, indices }
      }),
    )
    expect(layout.covered).toBeGreaterThan(0.28)
    expect(layout.overlap).toBeLessThan(0.01)
    const [, apart, mipmap] = /stand (\d+) pixels apart .* mipmap of (\d+)/.exec(summary.details[1]) ?? []
    expect(Number(apart)).toBeLessThan(32)
    expect(1024 / Number(mipmap)).toBeLessThanOrEqual(Number(apart))
  })
})

describe('Palette', () => {
  const plain = (): Document => {
    const document = documentOf({ rope: unitBox(), cleat: unitBox(), rudder: unitBox() })
    const materials = document.getRoot().listMaterials()
    listViewParts(document).forEach((part, index) => {
      const material = index === 0 ? materials[0] : document.createMaterial()
      material.setName(['Fender rope', 'Brass', 'Rudder'][index]).setBaseColorFactor(
        [
          [1, 0, 0, 1],
          [0, 1, 0, 1],
          [0, 0, 1, 1],
        ][index] as [number, number, number, number],
      )
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
    expect(colours).toEqual([
      [255, 0, 0],
      [0, 255, 0],
      [0, 0, 255],
    ])
  })
  it('keeps surface kinds apart where the game’s number of materials allows it', async () => {
    const { after } = await runStep('plain-colours', plain(), { bySurface: true })
    expect(listUsedMaterials(after).map((material) => material.getName())).toEqual(['Fender rope', 'Brass', 'Rudder'])
    expect(new Set(listUsedMaterials(after).map((material) => material.getBaseColorTexture())).size).toBe(1)
  })
  it('paints panes in a picture of their own, so that what is solid lies in one without a clear place', async () => {
    const document = plain()
    const [, pane] = listUsedMaterials(document)
    pane.setAlphaMode('BLEND').setBaseColorFactor([0, 1, 0, 0.25])
    const { after } = await runStep('plain-colours', document, { bySurface: false })
    const opacities = await Promise.all(
      listUsedMaterials(after).map(async (material) => {
        const { data } = await texturePixels(materialMap(material, 'colour') as never)
        return [material.getAlphaMode(), new Set(data.filter((_, at) => at % 4 === 3))]
      }),
    )
    expect(opacities).toEqual([
      ['OPAQUE', new Set([255])],
      ['BLEND', new Set([64])],
    ])
  })
  it('gives each material a texture of its own colour where the game lays textures itself', async () => {
    const ground = kindOf(tarnAndTiller, 'ground')
    const document = plain()
    const painted = listViewParts(document)[2].mesh.listPrimitives()[0]
    writeAttribute(document, painted, 'COLOR_0', new Float32Array(24 * 4).fill(0.5), 4)
    const [proposal] = proposals('plain-colours', document, { kind: ground })
    const { after } = await runStep('plain-colours', document, proposal.parameters, { kind: ground })
    const shown = listUsedMaterials(after)
    expect(shown.map((material) => material.getName())).toEqual(['Fender rope', 'Brass', 'Rudder'])
    const colours = shown.map((material) => {
      const texture = materialMap(material, 'colour')
      return texture ? texturePixels(texture) : Promise.reject(new Error('no colour map'))
    })
    const [red, green] = await Promise.all(colours)
    expect([...red.data.subarray(0, 3)]).toEqual([255, 0, 0])
    expect([...green.data.subarray(0, 3)]).toEqual([0, 255, 0])
    const { findings } = checkItem({ document: after, rulebook: tarnAndTiller, kind: ground })
    expect(findings.map(({ rule }) => rule)).not.toEqual(expect.arrayContaining(['map-missing', 'uvs-missing']))
    expect(findings.find(({ title }) => title === 'Colours of corners')?.where).toBe('Rudder')
  })

  it('gives what has no material one', async () => {
    const document = documentOf({ buoy: unitBox() })
    listViewParts(document)[0].mesh.listPrimitives()[0].setMaterial(null)
    expect(proposals('plain-colours', document)[0].reason).toMatch(/^buoy has no material/)
    const { after } = await runStep('plain-colours', document)
    expect(listUsedMaterials(after)[0].getBaseColorTexture()).not.toBeNull()
  })
})
