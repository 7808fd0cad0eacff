import { describe, expect, it } from 'vitest'
import { kindOf } from '../../game/load.ts'
import { setMaterialTag } from '../../game/material-tag.ts'
import { boxMesh } from '../../geometry/shapes/box-mesh.ts'
import { fitBox } from '../../geometry/shapes/box.ts'
import { fitCapsule } from '../../geometry/shapes/round.ts'
import type { PlacedShape } from '../../geometry/shapes/placed-shape.ts'
import { listSolids } from '../../item/annotations/solid/list.ts'
import { listUsedMaterials, listViewParts } from '../../item/parts.ts'
import { ball, documentOf, unitBox } from '../../test-support/meshes.ts'
import { tarnAndTiller } from '../../test-support/prepared-gate.ts'
import { massesOf, putSolid, surfaceOfPart } from './put-solid.ts'
import { solidGroups } from './solid-groups.ts'
import { aboutMiddle, editShape } from './solid-shape.ts'

const loose = kindOf(tarnAndTiller, 'loose')
const prop = kindOf(tarnAndTiller, 'prop')
const surfaces = tarnAndTiller.materials.surfaces
const boxOf = (width: number): PlacedShape => fitBox(boxMesh({ min: [0, 0, 0], max: [width, 1, 1] }).positions)

describe('what solids weigh', () => {
  const range = loose.solids?.massKilograms ?? { least: 0, most: 0 }
  const byVolume = { weighing: 'volume' as const, massKilograms: 0, surface: surfaces[0].name }
  const byHand = { weighing: 'hand' as const, massKilograms: 12, surface: surfaces[0].name }

  it('is shared by volume, within what the game takes', () => {
    const [small, large] = massesOf([boxOf(1), boxOf(3)], byHand, tarnAndTiller, loose) ?? []
    expect(large).toBeCloseTo(3 * small, 3)
    expect(small + large).toBeCloseTo(12, 3)
  })

  it('follows from the density of what it is made of', () => {
    const metres = tarnAndTiller.space.unit.metres
    const [heavy] = massesOf([boxOf(1)], byVolume, tarnAndTiller, loose) ?? []
    const wanted = metres ** 3 * (surfaces[0].density ?? 1000)
    expect(heavy).toBeCloseTo(Math.min(range.most, Math.max(range.least, wanted)), 1)
  })

  it('never leaves the range, however large or small a thing is', () => {
    const size = (side: number): PlacedShape => fitBox(boxMesh({ min: [0, 0, 0], max: [side, side, side] }).positions)
    expect(massesOf([size(1000)], byVolume, tarnAndTiller, loose)).toEqual([range.most])
    expect(massesOf([size(0.001)], byVolume, tarnAndTiller, loose)).toEqual([range.least])
  })

  it('is nothing for what stands fast, unless somebody says so', () => {
    expect(massesOf([boxOf(1)], { ...byHand, massKilograms: 0 }, tarnAndTiller, prop)).toBeNull()
    expect(massesOf([boxOf(1), boxOf(3)], byHand, tarnAndTiller, prop)).toEqual([6, 6])
  })
})

describe('a shape that is put under a part', () => {
  it('stands where it was fitted, under a name of its own, and goes where the part goes', () => {
    const document = documentOf({ post: unitBox() })
    const [part] = listViewParts(document)
    const facts = { shape: 'box' as const, surface: surfaces[0].name, layers: [] }
    const shape = { ...boxOf(2), translation: [0.5, 2, 0] as [number, number, number] }
    const names = [1, 2].map(() => putSolid(document, part, shape, facts, tarnAndTiller, null))
    expect(new Set(names).size).toBe(2)
    const solids = listSolids(document)
    expect(solids.map(({ node }) => node.getTranslation())).toEqual([
      [0.5, 2, 0],
      [0.5, 2, 0],
    ])
    expect(solids.map(({ node }) => node.getParentNode())).toEqual([part.node, part.node])
    expect(solids[0].extras.solid).toMatchObject({ shape: 'box', surface: surfaces[0].name, massKilograms: null })
  })

  it('is of what covers most of the part, else of what the item is made of', () => {
    const document = documentOf({ post: unitBox(), bare: unitBox() })
    const [post, bare] = listViewParts(document)
    expect(surfaceOfPart(post, document, tarnAndTiller)).toBeNull()
    const [material, other] = listUsedMaterials(document)
    setMaterialTag(document, material, { base: 'post', surface: surfaces[1].name, flags: [] }, tarnAndTiller)
    expect(surfaceOfPart(post, document, tarnAndTiller)).toBe(surfaces[1].name)
    expect(surfaceOfPart(bare, document, tarnAndTiller)).toBe(surfaces[1].name)
    setMaterialTag(document, other, { base: 'bare', surface: surfaces[0].name, flags: [] }, tarnAndTiller)
    expect(surfaceOfPart(bare, document, tarnAndTiller)).toBe(surfaces[0].name)
  })
})

describe('a shape that is changed by hand', () => {
  const moved = { moved: [1, 2, 3] as [number, number, number], turnedDegrees: [0, 0, 0] as [number, number, number] }

  it('is moved, and sized along its own axes', () => {
    const shape = editShape('box', boxOf(2), { ...moved, sized: [2, 1, 1] })
    expect(shape.translation).toEqual([2, 2.5, 3.5])
    expect(Math.max(...shape.mesh.positions)).toBeCloseTo(2)
  })

  it('stays round where it is round', () => {
    const sizesOf = (shape: 'ball' | 'cylinder', sized: [number, number, number]): number[] => {
      const { mesh } = editShape(shape, aboutMiddle(ball(1, 12)), { ...moved, sized })
      return [0, 1, 2].map((axis) => Math.max(...mesh.positions.filter((_, at) => at % 3 === axis)))
    }
    const [x, y, z] = sizesOf('ball', [2, 5, 7])
    expect([x, y, z].every((size) => Math.abs(size - 2) < 0.1)).toBe(true)
    const [across, up, along] = sizesOf('cylinder', [2, 3, 7])
    expect(across).toBeCloseTo(along, 1)
    expect(up).toBeCloseTo(3, 1)
  })

  it('keeps half balls at the ends of a capsule, whichever way it is drawn out', () => {
    const rod = fitCapsule(boxMesh({ min: [-0.1, -1, -0.1], max: [0.1, 1, 0.1] }).positions)
    const longer = editShape('capsule', rod, { ...moved, sized: [1, 2, 1] })
    const extent = (shape: PlacedShape, axis: number): number =>
      Math.max(...shape.mesh.positions.filter((_, at) => at % 3 === axis))
    expect(extent(longer, 0)).toBeCloseTo(extent(rod, 0), 4)
    expect(extent(longer, 1)).toBeCloseTo(extent(rod, 1) * 2, 4)
  })
})

describe('groups of parts that share a solid', () => {
  it('are parts that lie together, each in one group, and no more than there may be', () => {
    const rows = Object.fromEntries(
      Array.from({ length: 30 }, (_, number) => {
        const [x, z] = [(number % 10) * 1.1, Math.floor(number / 10) * 100]
        return [`box_${number}`, boxMesh({ min: [x, 0, z], max: [x + 1, 1, z + 1] })]
      }),
    )
    const document = documentOf(rows)
    const groups = solidGroups(document, listViewParts(document), 3)
    expect(groups.map((group) => group.length)).toEqual([10, 10, 10])
    for (const group of groups)
      expect(new Set(group.map(({ name }) => Math.floor(Number(name.slice(4)) / 10))).size).toBe(1)
    expect(solidGroups(document, [], 3)).toEqual([])
  })
})
