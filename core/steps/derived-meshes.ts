import type { Document, Mesh, Node } from '@gltf-transform/core'
import { setNodeExtras, type NodeExtras } from '../document/extras.ts'
import { countMeshTriangles, listSolids, type Part } from '../document/parts.ts'
import { solidName } from '../rulebook/names.ts'
import type { Rulebook } from '../rulebook/schema.ts'
import { writeAttribute, writeIndices } from '../document/primitive-arrays.ts'
import { compactCorners, reduceTriangles } from '../geometry/reduce.ts'
import { placeMesh } from '../geometry/triangle-mesh.ts'
import { dropCollapsed } from '../geometry/weld.ts'
import type { TriangleSoup } from '../geometry/convex-hull.ts'
import { readMesh, writeMesh } from './mesh-arrays.ts'

/** Puts a mesh made from a part below it, so that it goes where the part goes. */
export function addDerivedNode(document: Document, part: Part, name: string, mesh: Mesh, extras: NodeExtras): Node {
  const node = document.createNode(name).setMesh(mesh)
  setNodeExtras(node, extras)
  part.node.addChild(node)
  return node
}

/** A part's mesh with at most `targetTriangles`, materials and attributes kept: a level of detail. */
export async function reducedCopy(document: Document, part: Part, name: string, targetTriangles: number): Promise<Mesh> {
  const mesh = document.createMesh(name)
  for (const primitive of part.mesh.listPrimitives()) mesh.addPrimitive(primitive.clone())
  const arrays = readMesh(mesh)
  const reduction = await reduceTriangles({ ...arrays, targetTriangles, holdSeams: true, holdBorders: false })
  if (reduction.indices !== arrays.indices) writeMesh(document, mesh, arrays, reduction)
  return mesh
}

/** Only the shape of a part, reduced: for a shadow mesh or a solid. Positions in the part's own space. */
export const reducedShape = (part: Part, targetTriangles: number): Promise<TriangleSoup> => reducedSoup(plainShape(part), targetTriangles)

/** A mesh of positions alone with at most so many triangles. */
export async function reducedSoup(shape: TriangleSoup, targetTriangles: number): Promise<TriangleSoup> {
  const reduction = await reduceTriangles({ ...shape, attributes: new Map(), targetTriangles, holdSeams: false, holdBorders: false })
  const compact = compactCorners(reduction.indices, shape.positions.length / 3)
  const kept = new Float32Array(compact.oldCorner.length * 3)
  compact.oldCorner.forEach((from, to) => kept.set(reduction.positions.subarray(from * 3, from * 3 + 3), to * 3))
  return { positions: kept, indices: compact.indices }
}

/** The shape of a part with one corner a place, triangles without extent left out. Positions in the part's own space. */
export function plainShape(part: Part): TriangleSoup {
  const { positions, indices } = readMesh(part.mesh)
  const { places, placeOfIndex } = placeMesh(positions, indices)
  return { positions: places, indices: dropCollapsed(placeOfIndex, Uint32Array.from({ length: places.length / 3 }, (_, place) => place)) }
}

/** A name for one more solid of an item, after the highest number there is: no two are ever called the same. */
export function nextSolidName(document: Document, rulebook: Rulebook, shape: string): string {
  const highest = listSolids(document).reduce((most, { name }) => Math.max(most, Number(/(\d+)\D*$/.exec(name)?.[1] ?? 0)), 0)
  return solidName(rulebook, shape, highest + 1)
}

/** A mesh with positions alone. */
export function soupMesh(document: Document, name: string, soup: TriangleSoup): Mesh {
  const primitive = document.createPrimitive()
  writeAttribute(document, primitive, 'POSITION', soup.positions, 3)
  writeIndices(document, primitive, soup.indices, soup.positions.length / 3)
  return document.createMesh(name).addPrimitive(primitive)
}

/** Shares a number of triangles among parts in proportion to what they have, at least one each. */
export function proportionalShares(parts: readonly Part[], total: number): number[] {
  const counts = parts.map((part) => countMeshTriangles(part.mesh))
  const all = counts.reduce((sum, count) => sum + count, 0) || 1
  return counts.map((count) => Math.max(1, Math.floor((count / all) * total)))
}
