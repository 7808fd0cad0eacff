import type { Document, Material, Node } from '@gltf-transform/core'
import { mergedTriangles } from '../../item/measure.ts'
import { countPrimitiveTriangles, itemScene, listSceneNodes, listViewParts } from '../../item/parts.ts'
import { dropUnusedAccessors, writeAttribute, writeIndices } from '../../item/primitive-arrays.ts'

/** A surface of an item: what it is part of, and what it shows. */
export interface ItemSurface {
  part: string
  material: Material | null
}

/** All triangles that are drawn close by, in the scene, with the surface that each is of. */
export interface ItemTriangles {
  /** 3 numbers a corner. */
  positions: Float32Array
  indices: Uint32Array
  /** For each triangle the number of its surface. */
  surfaceOfTriangle: Uint32Array
  surfaces: ItemSurface[]
}

/**
 * Gathers an item's triangles, wound as they are seen.
 *
 * @example const { positions, indices } = gatherTriangles(document)
 */
export function gatherTriangles(document: Document): ItemTriangles {
  const parts = listViewParts(document)
  const { positions, indices } = mergedTriangles(parts)
  const shown = parts.flatMap(({ name, mesh }) => mesh.listPrimitives().map((primitive) => ({ name, primitive })))
  const surfaceOfTriangle = new Uint32Array(indices.length / 3)
  let first = 0
  for (const [surface, { primitive }] of shown.entries()) {
    const count = countPrimitiveTriangles(primitive)
    surfaceOfTriangle.fill(surface, first, first + count)
    first += count
  }
  return {
    positions,
    indices,
    surfaceOfTriangle,
    surfaces: shown.map(({ name, primitive }) => ({ part: name, material: primitive.getMaterial() })),
  }
}

/** A tray to be made: its name, the one finish of all its half-blocks, and its triangles in the scene. */
export interface Tray {
  name: string
  material: Material
  positions: Float32Array
  indices: Uint32Array
}

/**
 * Puts trays in the place of all that is drawn: a part each, without normals and UVs, which half-blocks do not have.
 *
 * @example putTrays(document, [{ name: 'seat', material, positions, indices }])
 */
export function putTrays(document: Document, trays: readonly Tray[]): void {
  const scene = itemScene(document)
  for (const { node, mesh } of listViewParts(document)) {
    node.setMesh(null).setSkin(null)
    if (mesh.listParents().every(({ propertyType }) => propertyType === 'Root')) mesh.dispose()
  }
  for (const { name, material, positions, indices } of trays) {
    const primitive = document.createPrimitive().setMaterial(material)
    writeAttribute(document, primitive, 'POSITION', positions, 3)
    writeIndices(document, primitive, indices, positions.length / 3)
    scene.addChild(document.createNode(name).setMesh(document.createMesh(name).addPrimitive(primitive)))
  }
  for (const node of listSceneNodes(document).toReversed()) if (isBare(node)) node.dispose()
  dropUnusedAccessors(document)
}

const isBare = (node: Node): boolean =>
  node.getMesh() === null &&
  node.listChildren().length === 0 &&
  node.listExtensions().length === 0 &&
  Object.keys(node.getExtras()).length === 0

/**
 * The triangles of one surface, with the corners that they use.
 * @example const { positions, indices } = trianglesOfSurfaces(gatherTriangles(document), (surface) => surface === 0)
 */
export function trianglesOfSurfaces(
  { positions, indices, surfaceOfTriangle }: Pick<ItemTriangles, 'positions' | 'indices' | 'surfaceOfTriangle'>,
  isWanted: (surface: number) => boolean,
): Pick<Tray, 'positions' | 'indices'> {
  const number = new Map<number, number>()
  const own: number[] = []
  surfaceOfTriangle.forEach((surface, triangle) => {
    if (!isWanted(surface)) return
    for (let corner = triangle * 3; corner < triangle * 3 + 3; corner++) {
      const place = indices[corner]
      const known = number.get(place) ?? number.size
      number.set(place, known)
      own.push(known)
    }
  })
  const places = new Float32Array(number.size * 3)
  for (const [place, at] of number) places.set(positions.subarray(place * 3, place * 3 + 3), at * 3)
  return { positions: places, indices: Uint32Array.from(own) }
}
