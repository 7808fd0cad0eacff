import type { Document, Material } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { addLook } from '../../item/looks.ts'
import { listUsedMaterials, listViewParts } from '../../item/parts.ts'
import { writeAttribute } from '../../item/primitive-arrays.ts'
import { setMaterialMap } from '../../item/source-maps.ts'
import { documentOf, unitBox } from '../../test-support/meshes.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { sheet } from '../../test-support/shapes.ts'
import { averageColour } from './average-colour.ts'
import { addTexture, hexColour, materialByBase, materialOptions, srgbBytes } from './map-pixels.ts'
import { materialsToJoin } from './materials-to-join.ts'
import { cellCentre, filled, paintCells, plainLook } from './plain-look.ts'
import { listShownMaps, surfacesShowing, texelsPerUnit } from './shown-maps.ts'
import { texturePixels } from './texture-pixels.ts'

const materialOf = (document: Document): Material => listUsedMaterials(document)[0]

/** A sheet of four units whose UVs lie once over a picture. */
function withPicture(pixels = filled(8, [255, 0, 0, 255])): Document {
  const document = documentOf({ board: sheet(2, 2) })
  const [primitive] = listViewParts(document)[0].mesh.listPrimitives()
  const places = primitive.getAttribute('POSITION')
  const uvs = Float32Array.from({ length: (places?.getCount() ?? 0) * 2 }, (_, at) => {
    const [x = 0, y = 0]: number[] = places?.getElement(at >> 1, []) ?? []
    return at % 2 === 0 ? x / 2 : y / 2
  })
  writeAttribute(document, primitive, 'TEXCOORD_0', uvs, 2)
  setMaterialMap(
    document,
    materialOf(document),
    'colour',
    addTexture(document, 'board_col', 'colour', pixels, 'painted'),
  )
  return document
}

describe('colours as people and files write them', () => {
  it('are bytes of sRGB, white and black at the ends, clamped beyond', () => {
    expect(srgbBytes([0, 1, 0.21404])).toEqual([0, 255, 127])
    expect(srgbBytes([-3, 7, 0])).toEqual([0, 255, 0])
    expect(hexColour([160, 60, 40, 255])).toBe('#a03c28')
    expect(hexColour([0, 7.6, 255])).toBe('#0008ff')
  })
})

describe('pixels of a texture', () => {
  it('are a copy of those that were given, and forget what was measured of others', async () => {
    const document = documentOf({ crate: unitBox() })
    const pixels = filled(2, [1, 2, 3, 4])
    const texture = addTexture(document, 'crate_col', 'colour', pixels, 'painted')
    pixels.data.fill(9)
    expect([...(await texturePixels(texture)).data.subarray(0, 4)]).toEqual([1, 2, 3, 4])
    expect(texture.getURI()).toBe('crate_col.png')
  })

  it('are written into by nobody else', async () => {
    const texture = addTexture(documentOf({ crate: unitBox() }), 'a', 'colour', filled(2, [1, 2, 3, 4]), 'painted')
    const first = await texturePixels(texture)
    first.data.fill(0)
    expect([...(await texturePixels(texture)).data.subarray(0, 4)]).toEqual([1, 2, 3, 4])
  })
})

describe('the one colour of a material', () => {
  it('is its own where it shows no picture', async () => {
    const document = documentOf({ crate: unitBox() })
    materialOf(document).setBaseColorFactor([0.25, 0.5, 1, 1])
    expect(await averageColour(document, materialOf(document))).toEqual([0.25, 0.5, 1])
  })

  it('is that of its picture, times its own', async () => {
    const document = withPicture()
    materialOf(document).setBaseColorFactor([0.5, 1, 1, 1])
    const [red, green, blue] = await averageColour(document, materialOf(document))
    expect(red).toBeCloseTo(0.5, 2)
    expect([green, blue]).toEqual([0, 0])
  })

  it('counts no pixel that is cut out', async () => {
    const half = filled(8, [0, 255, 0, 255])
    for (let at = 0; at < half.data.length; at += 4) if ((at / 4) % 8 < 4) half.data.set([255, 0, 0, 0], at)
    const document = withPicture(half)
    materialOf(document).setAlphaMode('MASK')
    const [red, green] = await averageColour(document, materialOf(document))
    expect(green).toBeGreaterThan(0.9)
    expect(red).toBeLessThan(0.1)
  })

  it('is that of corners where they have colours', async () => {
    const document = documentOf({ crate: unitBox() })
    const [primitive] = listViewParts(document)[0].mesh.listPrimitives()
    const corners = primitive.getAttribute('POSITION')?.getCount() ?? 0
    writeAttribute(
      document,
      primitive,
      'COLOR_0',
      Float32Array.from({ length: corners * 3 }, (_, at) => [1, 0.5, 0][at % 3]),
      3,
    )
    const [red, green, blue] = await averageColour(document, materialOf(document))
    expect([red, green, blue].map((value) => Number(value.toFixed(3)))).toEqual([1, 0.5, 0])
  })

  it('of a material that nothing shows is its own', async () => {
    const document = documentOf({ crate: unitBox() })
    const unused = document.createMaterial('spare').setBaseColorFactor([0.1, 0.2, 0.3, 1])
    expect(await averageColour(document, unused)).toEqual([0.1, 0.2, 0.3])
  })
})

describe('a cell of a palette', () => {
  const look = (change: (material: Material) => unknown) => {
    const document = documentOf({ crate: unitBox() })
    change(materialOf(document))
    return plainLook(document, materialOf(document))
  }

  it('says colour, roughness and metalness in bytes', () => {
    expect(
      look((material) => material.setBaseColorFactor([1, 0, 0, 1]).setRoughnessFactor(0.5).setMetallicFactor(1)),
    ).toEqual({ colour: [255, 0, 0, 255], roughness: 128, metalness: 255, glow: 0 })
  })

  it('is clear only where the material is drawn so', () => {
    const faint = (material: Material): Material => material.setBaseColorFactor([1, 1, 1, 0.25])
    expect(look(faint).colour[3]).toBe(255)
    expect(look((material) => faint(material).setAlphaMode('BLEND')).colour[3]).toBe(64)
    expect(look((material) => faint(material).setAlphaMode('MASK').setAlphaCutoff(0.5)).colour[3]).toBe(0)
    expect(look((material) => faint(material).setAlphaMode('MASK').setAlphaCutoff(0.2)).colour[3]).toBe(255)
  })

  it('glows where the material does', () => {
    expect(look((material) => material.setEmissiveFactor([0.5, 0.5, 0.5])).glow).toBeGreaterThan(0)
  })

  it('has its middle where UVs point to', () => {
    const cells = [
      [255, 0, 0, 255],
      [0, 255, 0, 255],
      [0, 0, 255, 255],
    ]
    const { width, data } = paintCells(cells, 2, 8)
    for (const [number, colour] of cells.entries()) {
      const [u, v] = cellCentre(number, 2)
      const at = (Math.floor(v * width) * width + Math.floor(u * width)) * 4
      expect([...data.subarray(at, at + 4)]).toEqual(colour)
    }
  })
})

describe('materials by their names', () => {
  it('are found as they are drawn, and offered', () => {
    const document = documentOf({ crate: unitBox(), lid: unitBox() })
    const names = materialOptions(document, tarnAndTiller).map(({ value }) => value)
    expect(names).toHaveLength(2)
    expect(materialByBase(document, tarnAndTiller, names[1])).toBe(listUsedMaterials(document)[1])
    expect(materialByBase(document, tarnAndTiller, 'nobody')).toBeNull()
  })
})

describe('materials over the game’s number', () => {
  const most = tarnAndTiller.materials.largestCount
  const many = (count: number): Document =>
    documentOf(Object.fromEntries(Array.from({ length: count }, (_, at) => [`part_${at}`, unitBox()])))
  const picture = (document: Document): void => {
    for (const material of listUsedMaterials(document))
      material.setBaseColorTexture(
        addTexture(document, material.getName(), 'colour', filled(2, [9, 9, 9, 255]), 'painted'),
      )
  }
  const none = (): boolean => false

  it('are joined where they show pictures and are drawn alike', () => {
    const document = many(most + 3)
    picture(document)
    const [group, ...others] = materialsToJoin(document, tarnAndTiller, none)
    expect(group).toHaveLength(most + 3)
    expect(others).toEqual([])
  })

  it('are not joined where there are few enough, where a palette does, or where looks hang on them', () => {
    expect(materialsToJoin(many(most + 3), tarnAndTiller, none)).toEqual([])
    const few = many(most)
    picture(few)
    expect(materialsToJoin(few, tarnAndTiller, none)).toEqual([])
    const looks = many(most + 3)
    picture(looks)
    addLook(looks, 'dusk', new Map([[materialOf(looks), looks.createMaterial('dusk')]]))
    expect(materialsToJoin(looks, tarnAndTiller, none)).toEqual([])
  })

  it('that are drawn otherwise, or cannot be painted, stay apart', () => {
    const document = many(most + 3)
    picture(document)
    const [glass, sealed] = listUsedMaterials(document)
    glass.setAlphaMode('BLEND')
    const joined = materialsToJoin(document, tarnAndTiller, (material) => material === sealed).flat()
    expect(joined).not.toContain(glass)
    expect(joined).not.toContain(sealed)
    expect(joined).toHaveLength(most + 1)
  })
})

describe('maps that are shown', () => {
  it('are listed once, with their role and what shows them', () => {
    const shown = listShownMaps(withPicture(), tarnAndTiller)
    expect(shown.map(({ role, materials }) => [role.role, materials.length])).toEqual([['colour', 1]])
  })

  it('lie so finely on a surface', () => {
    const document = withPicture()
    const [{ texture }] = listShownMaps(document, tarnAndTiller)
    expect(surfacesShowing(document, texture)[0].area).toBeCloseTo(4)
    // Eight pixels over two units.
    expect(texelsPerUnit(document, texture, 8, 8)).toBeCloseTo(4)
    expect(texelsPerUnit(document, document.createTexture('unseen'), 8, 8)).toBeNull()
  })
})
