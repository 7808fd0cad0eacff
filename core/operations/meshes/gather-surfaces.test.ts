import { describe, expect, it } from 'vitest'
import type { Document, Material, Primitive } from '@gltf-transform/core'
import type { TriangleSoup } from '../../geometry/shapes/convex-hull.ts'
import { boxMesh } from '../../geometry/shapes/box-mesh.ts'
import { addLook, materialInLook } from '../../item/looks.ts'
import { countTriangles, listViewParts } from '../../item/parts.ts'
import { POLYGON_ATTRIBUTE, polygonAttribute, readOutlines } from '../../item/polygons.ts'
import { writeAttribute } from '../../item/primitive-arrays.ts'
import { documentOf } from '../../test-support/meshes.ts'
import { gatherSurfaces } from './gather-surfaces.ts'

const boxAt = (number: number): TriangleSoup => boxMesh({ min: [number * 2, 0, 0], max: [number * 2 + 1, 1, 1] })
/** Two squares side by side, with corners of their own. */
const squaresAt = (number: number): TriangleSoup => ({
  positions: Float32Array.from(
    [0, 1].flatMap((at) => [at, number, 0, at + 1, number, 0, at + 1, number, 1, at, number, 1]),
  ),
  indices: Uint32Array.of(0, 1, 2, 0, 2, 3, 4, 5, 6, 4, 6, 7),
})

/** One part of so many things in a row, a surface each, all of one material. */
function rowOf(
  count: number,
  thing: (number: number) => TriangleSoup = boxAt,
): { document: Document; surfaces: Primitive[]; material: Material } {
  const document = documentOf(
    Object.fromEntries(Array.from({ length: count }, (_, number) => [`box_${number}`, thing(number)])),
  )
  const [first, ...others] = listViewParts(document)
  const material = first.mesh.listPrimitives()[0].getMaterial()
  if (!material) throw new Error('a box without material')
  for (const { mesh, node } of others) {
    for (const primitive of mesh.listPrimitives()) first.mesh.addPrimitive(primitive.setMaterial(material))
    node.dispose()
    mesh.dispose()
  }
  return { document, surfaces: first.mesh.listPrimitives(), material }
}

describe('Surfaces of one material', () => {
  it('become one, with all their triangles', () => {
    const { document } = rowOf(3)
    const [{ mesh }] = listViewParts(document)
    gatherSurfaces(document, mesh)
    expect(mesh.listPrimitives()).toHaveLength(1)
    expect(countTriangles(listViewParts(document))).toBe(36)
  })

  it('stay apart where a look shows them otherwise', () => {
    const { document, surfaces, material } = rowOf(3)
    const dusk = document.createMaterial('dusk')
    const other = document.createMaterial('other')
    surfaces[2].setMaterial(other)
    addLook(document, 'dusk', new Map([[other, dusk]]))
    surfaces[2].setMaterial(material)
    const [{ mesh }] = listViewParts(document)
    gatherSurfaces(document, mesh)
    expect(mesh.listPrimitives().map((each) => materialInLook(each, 'dusk')?.getName())).toEqual([
      material.getName(),
      'dusk',
    ])
  })

  it('stay apart where one carries what another does not', () => {
    const { document, surfaces } = rowOf(2)
    const corners = surfaces[1].getAttribute('POSITION')?.getCount() ?? 0
    writeAttribute(document, surfaces[1], 'COLOR_0', new Float32Array(corners * 4).fill(1), 4)
    const [{ mesh }] = listViewParts(document)
    gatherSurfaces(document, mesh)
    expect(mesh.listPrimitives()).toHaveLength(2)
  })

  it('keep their polygons apart, each with its own corners', () => {
    const { document, surfaces } = rowOf(2, squaresAt)
    for (const surface of surfaces) writeAttribute(document, surface, POLYGON_ATTRIBUTE, polygonAttribute([4, 4], 8), 3)
    const [{ mesh }] = listViewParts(document)
    gatherSurfaces(document, mesh)
    const outlines = readOutlines(mesh.listPrimitives()[0])
    expect([...(outlines?.starts ?? [])]).toEqual([0, 4, 8, 12, 16])
    expect(outlines?.loose).toHaveLength(0)
  })
})
