import { describe, expect, it } from 'vitest'
import { boundsSize, partBounds } from '../../item/measure.ts'
import { countTriangles, listUsedMaterials, listViewParts } from '../../item/parts.ts'
import { readPrimitive } from '../../item/primitive-arrays.ts'
import { materialMap } from '../../item/source-maps.ts'
import { ball, documentOf, unitBox } from '../../test-support/meshes.ts'
import { pictureOf } from '../../test-support/pictures.ts'
import { sheet } from '../../test-support/shapes.ts'
import { proposals, runStep } from '../../test-support/step-runs.ts'
import { encodePng } from '../../pictures/image-codecs.ts'
import { liftFor, holdsTo } from './lay-decal.ts'
import { addTexture } from '../../operations/maps/map-pixels.ts'
import { pickedFaces } from '../../operations/meshes/face-picks.ts'
import { texturePixels } from '../../operations/maps/texture-pixels.ts'

describe('Bake occlusion', () => {
  it('is dark where a floor meets a wall and light away from it', async () => {
    const document = documentOf({ floor: sheet(8, 8), wall: sheet(8, 8) })
    const [floor, wall] = listViewParts(document)
    wall.node.setTranslation([0, 0, 0]).setRotation([0, -Math.SQRT1_2, 0, Math.SQRT1_2])
    wall.mesh.listPrimitives()[0].setMaterial(document.createMaterial('wall'))
    const [primitive] = floor.mesh.listPrimitives()
    const { positions } = readPrimitive(primitive)
    const size = boundsSize(partBounds(floor))
    primitive.setAttribute(
      'TEXCOORD_0',
      document
        .createAccessor()
        .setType('VEC2')
        .setArray(
          Float32Array.from(
            { length: (positions.length / 3) * 2 },
            (_, at) => positions[Math.floor(at / 2) * 3 + (at % 2)] / size[at % 2],
          ),
        )
        .setBuffer(document.getRoot().listBuffers()[0]),
    )
    const material = primitive.getMaterial()?.getName() ?? ''
    const { after } = await runStep('bake-occlusion', document, {
      material,
      sidePixels: 32,
      rays: 32,
      reach: size[0] / 2,
    })
    const picture = await texturePixels(materialMap(listUsedMaterials(after)[0], 'occlusion') as never)
    const column = (x: number): number =>
      [...Array(32).keys()].reduce((sum, y) => sum + picture.data[(y * 32 + x) * 4], 0) / 32
    expect(column(0)).toBeLessThan(column(28) - 60)
    expect(column(28)).toBeGreaterThan(245)
  })
})

describe('Lay a decal', () => {
  const marks = encodePng(
    pictureOf(16, 8, (x, y) => (x > 3 && x < 12 && y > 1 && y < 6 ? [250, 250, 250, 255] : [0, 0, 0, 0])),
    true,
  )
  const pick = { part: 'wall', point: [0.5, 0.5, 0], growth: 'surface', angleDegrees: 20 }
  const images = [{ path: 'marks.png', bytes: marks }]
  it('copies only what the picture covers, lifts it outward, and makes its material', async () => {
    const document = documentOf({ wall: sheet(20, 20) })
    const before = countTriangles(listViewParts(document))
    const size = boundsSize(partBounds(listViewParts(document)[0]))
    const { after, summary } = await runStep(
      'lay-decal',
      document,
      { faces: [pick], picture: 'marks.png', name: 'draught', width: size[0] / 4, lift: 0.01 },
      { images },
    )
    const decal = listViewParts(after).find((part) => part.name === 'wall_draught')
    if (!decal) throw new Error('no decal')
    const bounds = partBounds(decal)
    expect(boundsSize(bounds)[0]).toBeCloseTo((size[0] / 4) * 0.5, 3)
    expect(Math.abs(Math.abs(bounds.min[2]) - 0.01)).toBeLessThan(1e-5)
    expect(countTriangles([decal])).toBeLessThan(before / 10)
    const material = decal.mesh.listPrimitives()[0].getMaterial()
    expect(material?.getAlphaMode()).toBe('MASK')
    expect(summary.details[1]).toMatch(
      /Lifted by 0\.01 spans, which the game’s depth tells apart as far as [\d.]+ spans/,
    )
  })
  it('keeps bones and weights of the corners it was cut from', async () => {
    const document = documentOf({ wall: sheet(6, 6) })
    const [primitive] = listViewParts(document)[0].mesh.listPrimitives()
    const count = primitive.getAttribute('POSITION')?.getCount() ?? 0
    const accessor = (type: 'VEC4', array: Uint8Array<ArrayBuffer> | Float32Array<ArrayBuffer>) =>
      document.createAccessor().setType(type).setArray(array).setBuffer(document.getRoot().listBuffers()[0])
    primitive.setAttribute(
      'JOINTS_0',
      accessor(
        'VEC4',
        Uint8Array.from({ length: count * 4 }, (_, at) => (at % 4 === 0 ? Math.floor(at / 4) % 3 : 0)),
      ),
    )
    primitive.setAttribute(
      'WEIGHTS_0',
      accessor(
        'VEC4',
        Float32Array.from({ length: count * 4 }, (_, at) => (at % 4 === 0 ? 1 : 0)),
      ),
    )
    const { after } = await runStep(
      'lay-decal',
      document,
      { faces: [pick], picture: 'marks.png', name: 'draught', width: 0.8 },
      { images },
    )
    const made = listViewParts(after)
      .find((part) => part.name === 'wall_draught')
      ?.mesh.listPrimitives()[0]
    const corners = made?.getAttribute('POSITION')?.getCount()
    expect(made?.getAttribute('JOINTS_0')?.getCount()).toBe(corners)
    expect(made?.getAttribute('JOINTS_0')?.getArray()).toBeInstanceOf(Uint8Array)
    for (let corner = 0; corner < (corners ?? 0); corner++)
      expect(made?.getAttribute('WEIGHTS_0')?.getElement(corner, [])[0]).toBe(1)
  })
  it('says when it lies beside the faces, when none are picked, and which picture is missing', async () => {
    const document = documentOf({ wall: sheet(4, 4) })
    expect(
      (
        await runStep(
          'lay-decal',
          document,
          { faces: [pick], picture: 'marks.png', name: 'd', width: 0.1, right: 50 },
          { images },
        )
      ).summary,
    ).toMatchObject({ headline: 'beside it', changed: false })
    expect((await runStep('lay-decal', document, { picture: 'marks.png' }, { images })).summary.headline).toBe(
      'no faces',
    )
    await expect(runStep('lay-decal', document, { faces: [pick], picture: 'none.png' }, { images })).rejects.toThrow(
      /there is no such picture at this place/,
    )
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
    material.setBaseColorTexture(
      addTexture(
        unwrapped,
        'skin',
        'colour',
        pictureOf(64, 64, () => [255, 0, 255]),
        'test',
      ),
    )
    expect(proposals('pad-islands', unwrapped)[0].reason).toMatch(/room between UV islands/)
    expect((await runStep('pad-islands', unwrapped)).summary.headline).toBe('1 map')
  })
  it('makes one of materials with equal content, and leaves those of other surface kinds', async () => {
    const document = documentOf({ a: unitBox(), b: unitBox(), c: unitBox() })
    listViewParts(document).forEach((part, index) =>
      part.mesh
        .listPrimitives()[0]
        .setMaterial(document.createMaterial(['one@timber', 'two@timber', 'three@iron'][index])),
    )
    const { after } = await runStep('merge-materials', document)
    expect(listUsedMaterials(after).map((material) => material.getName())).toEqual(['one@timber', 'three@iron'])
  })
})

it('picks reach a whole surface when asked', () => {
  const document = documentOf({ wall: sheet(3, 3) })
  expect(pickedFaces(document, [{ part: 'wall', point: [0, 0, 0], growth: 'surface', angleDegrees: 0 }]).count).toBe(18)
})
