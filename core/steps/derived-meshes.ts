import type { Document, Mesh, Node } from '@gltf-transform/core'
import { setNodeExtras, type NodeExtras } from '../document/extras.ts'
import { countMeshTriangles, type Part } from '../document/parts.ts'
import { gatherCorners, readPrimitive, writeAttribute, writeIndices } from '../document/primitive-arrays.ts'
import { compactCorners, reduceTriangles, shareBudget, surfaceArea } from '../geometry/reduce.ts'
import { groupPositions } from '../geometry/position-groups.ts'
import { dropCollapsed } from '../geometry/weld.ts'
import type { TriangleSoup } from '../geometry/convex-hull.ts'

/** Puts a mesh made from a part below it, so that it goes where the part goes. */
export function addDerivedNode(document: Document, part: Part, name: string, mesh: Mesh, extras: NodeExtras): Node {
  const node = document.createNode(name).setMesh(mesh)
  setNodeExtras(node, extras)
  part.node.addChild(node)
  return node
}

/** A part's mesh with about `targetTriangles`, materials and attributes kept: a level of detail. */
export async function reducedCopy(document: Document, part: Part, name: string, targetTriangles: number): Promise<Mesh> {
  const mesh = document.createMesh(name)
  const primitives = part.mesh.listPrimitives()
  const arrays = primitives.map(readPrimitive)
  const shares = shareBudget(
    arrays.map(({ positions, indices }) => ({ triangles: indices.length / 3, area: surfaceArea(positions, indices) })),
    targetTriangles,
  )
  for (const [index, primitive] of primitives.entries()) {
    const source = arrays[index]
    const reduction = await reduceHarder(source, shares[index])
    const compact = compactCorners(reduction, source.positions.length / 3)
    const copy = document.createPrimitive().setMaterial(primitive.getMaterial())
    for (const semantic of primitive.listSemantics()) copy.setAttribute(semantic, primitive.getAttribute(semantic))
    gatherCorners(document, copy, compact.oldCorner)
    writeIndices(document, copy, compact.indices, compact.oldCorner.length)
    mesh.addPrimitive(copy)
  }
  return mesh
}

/** First with seams held; when they keep the count too high, without. */
async function reduceHarder(source: ReturnType<typeof readPrimitive>, targetTriangles: number): Promise<Uint32Array> {
  const asked = { ...source, targetTriangles, holdBorders: false }
  const held = await reduceTriangles({ ...asked, holdSeams: true })
  if (held.indices.length / 3 <= targetTriangles) return held.indices
  return (await reduceTriangles({ ...asked, holdSeams: false })).indices
}

/** Only the shape of a part, reduced: for a shadow mesh or a solid. Positions in the part's own space. */
export async function reducedShape(part: Part, targetTriangles: number): Promise<TriangleSoup> {
  const pieces = part.mesh.listPrimitives().map(readPrimitive)
  const positions = new Float32Array(pieces.reduce((sum, piece) => sum + piece.positions.length, 0))
  const indices = new Uint32Array(pieces.reduce((sum, piece) => sum + piece.indices.length, 0))
  let corner = 0
  let index = 0
  for (const piece of pieces) {
    positions.set(piece.positions, corner * 3)
    for (const value of piece.indices) indices[index++] = value + corner
    corner += piece.positions.length / 3
  }
  const { groupOfCorner, cornerOfGroup } = groupPositions(positions)
  const places = new Float32Array(cornerOfGroup.length * 3)
  cornerOfGroup.forEach((from, group) => places.set(positions.subarray(from * 3, from * 3 + 3), group * 3))
  const welded = indices.map((value) => groupOfCorner[value])
  const shape = { positions: places, indices: dropCollapsed(welded, Uint32Array.from(cornerOfGroup.keys())) }
  const reduction = await reduceTriangles({ ...shape, normals: null, uvs: null, targetTriangles, holdSeams: false, holdBorders: false })
  const compact = compactCorners(reduction.indices, cornerOfGroup.length)
  const kept = new Float32Array(compact.oldCorner.length * 3)
  compact.oldCorner.forEach((from, to) => kept.set(places.subarray(from * 3, from * 3 + 3), to * 3))
  return { positions: kept, indices: compact.indices }
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
