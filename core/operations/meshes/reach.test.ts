import type { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import { partsBounds } from '../../item/measure.ts'
import { countMeshTriangles, listViewParts, type Part } from '../../item/parts.ts'
import { ball, documentOf } from '../../test-support/meshes.ts'
import { together } from '../../test-support/shapes.ts'
import { reducedCopy } from './derived-meshes.ts'
import { readMesh } from './mesh-arrays.ts'
import { furthestTriangles } from './reach.ts'

/** A pot with a twig of one triangle that stands out of it to so far along x. */
const potted = (to: number): Document =>
  documentOf({
    pot: together(ball(1, 12), {
      positions: Float32Array.of(1, 0, 0, 1, 0.1, 0, to, 0, 0),
      indices: Uint32Array.of(0, 1, 2),
    }),
    lid: ball(0.5, 8, [0, 1.4, 0]),
  })
const cornersOf = ({ mesh }: Part, triangle: number): number[][] => {
  const { positions, indices } = readMesh(mesh)
  return [...indices.subarray(triangle * 3, triangle * 3 + 3)].map((corner) => [
    ...positions.subarray(corner * 3, corner * 3 + 3),
  ])
}

describe('how far made meshes reach', () => {
  it('tells the triangle that is missing where they fall short, of the part that it is of', () => {
    const parts = listViewParts(potted(3))
    const found = furthestTriangles(parts, listViewParts(potted(1.2)), 0.1)
    expect([...found.keys()].map(({ name }) => name)).toEqual(['pot'])
    const [[part, triangles]] = found
    expect(triangles).toHaveLength(1)
    expect(Math.max(...cornersOf(part, triangles[0]).map(([x]) => x))).toBeCloseTo(3, 5)
  })

  it('is enough where it differs by no more than allowed', () => {
    expect(furthestTriangles(listViewParts(potted(3)), listViewParts(potted(2.95)), 0.1).size).toBe(0)
    expect(furthestTriangles(listViewParts(potted(3)), listViewParts(potted(3)), 0).size).toBe(0)
  })

  it('is looked at where the parts stand, not in their own space', () => {
    const [first, made] = [potted(3), potted(1.2)].map((document) => {
      const parts = listViewParts(document)
      for (const { node } of parts) node.setRotation([0, 0, Math.SQRT1_2, Math.SQRT1_2])
      return parts
    })
    const [[part, triangles]] = furthestTriangles(first, made, 0.1)
    expect(part.name).toBe('pot')
    expect(Math.max(...cornersOf(part, triangles[0]).map(([x]) => x))).toBeCloseTo(3, 5)
  })

  it('is that of the first where the triangle is kept in a reduced copy', async () => {
    const document = potted(3)
    const [part] = listViewParts(document)
    const twig = countMeshTriangles(part.mesh) - 1
    const bare = await reducedCopy(document, part, 'bare', 30)
    const kept = await reducedCopy(document, part, 'kept', 30, [twig, twig])
    expect(countMeshTriangles(kept)).toBeLessThanOrEqual(countMeshTriangles(bare) + 1)
    part.node.setMesh(kept)
    expect(partsBounds([{ ...part, mesh: kept }]).max[0]).toBeCloseTo(3, 5)
  })
})
