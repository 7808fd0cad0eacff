import type { Document } from '@gltf-transform/core'
import { setRootExtras } from '../item/extras.ts'
import { createDocument } from '../item/io.ts'
import { mergedTriangles } from '../item/measure.ts'
import { itemScene, listViewParts } from '../item/parts.ts'
import { writeAttribute, writeIndices } from '../item/primitive-arrays.ts'
import { boxMesh } from '../geometry/shapes/box-mesh.ts'
import type { TriangleSoup } from '../geometry/shapes/convex-hull.ts'

/** A ball of quads cut in two, closed and outward. */
export function ball(radius: number, rings: number, centre: readonly number[] = [0, 0, 0]): TriangleSoup {
  const sides = rings * 2
  const [cx, cy, cz] = centre
  const positions: number[] = [cx, cy + radius, cz]
  const indices: number[] = []
  for (let ring = 1; ring < rings; ring++) {
    for (let side = 0; side < sides; side++) {
      const polar = (ring / rings) * Math.PI
      const angle = (side / sides) * Math.PI * 2
      positions.push(
        cx + Math.sin(polar) * Math.cos(angle) * radius,
        cy + Math.cos(polar) * radius,
        cz + Math.sin(polar) * Math.sin(angle) * radius,
      )
    }
  }
  positions.push(cx, cy - radius, cz)
  const corner = (ring: number, side: number): number =>
    ring === 0 ? 0 : ring === rings ? 1 + (rings - 1) * sides : 1 + (ring - 1) * sides + (side % sides)
  for (let ring = 0; ring < rings; ring++) {
    for (let side = 0; side < sides; side++) {
      const [a, b, c, d] = [
        corner(ring, side),
        corner(ring, side + 1),
        corner(ring + 1, side + 1),
        corner(ring + 1, side),
      ]
      if (ring > 0) indices.push(a, b, c)
      if (ring < rings - 1) indices.push(a, c, d)
    }
  }
  return { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) }
}

export const unitBox = (): TriangleSoup => boxMesh({ min: [0, 0, 0], max: [1, 1, 1] })

/** Every triangle turned over. */
export const turnedOver = ({ positions, indices }: TriangleSoup): TriangleSoup => ({
  positions,
  indices: indices.map((_, index) => indices[index - (index % 3) + [0, 2, 1][index % 3]]),
})

/** An item document with named parts, in game units and axes. */
export function documentOf(parts: Record<string, TriangleSoup>): Document {
  const document = createDocument('test')
  for (const [name, soup] of Object.entries(parts)) {
    const primitive = document.createPrimitive().setMaterial(document.createMaterial(`${name}_material`))
    writeAttribute(document, primitive, 'POSITION', soup.positions, 3)
    writeIndices(document, primitive, soup.indices, soup.positions.length / 3)
    itemScene(document).addChild(document.createNode(name).setMesh(document.createMesh(name).addPrimitive(primitive)))
  }
  setRootExtras(document.getRoot(), {
    units: { metresPerUnit: 0.5, from: 'declared' },
    axes: { up: '+y', forward: '+z', from: 'declared' },
  })
  return document
}

/** Places of all triangle corners of an item in the scene, one after another. */
export function mergedSoup(document: Document): number[] {
  const { positions, indices } = mergedTriangles(listViewParts(document))
  return [...indices].flatMap((corner) => [...positions.subarray(corner * 3, corner * 3 + 3)])
}
