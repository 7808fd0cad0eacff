import type { Document, mat4, Material, Node } from '@gltf-transform/core'
import { itemScene, listSceneNodes, listViewParts } from '../../item/parts.ts'
import { dropUnusedAccessors, readPrimitive, writeAttribute, writeIndices } from '../../item/primitive-arrays.ts'
import { determinantOf, transformedPoints } from '../../maths/matrices.ts'

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
  const found = listViewParts(document).flatMap(({ name, node, mesh }) =>
    mesh.listPrimitives().map((primitive) => ({ name, primitive, matrix: node.getWorldMatrix() as mat4 })),
  )
  const arrays = found.map(({ primitive }) => readPrimitive(primitive))
  const positions = new Float32Array(arrays.reduce((sum, each) => sum + each.positions.length, 0))
  const indices = new Uint32Array(arrays.reduce((sum, each) => sum + each.indices.length, 0))
  const surfaceOfTriangle = new Uint32Array(indices.length / 3)
  let [corner, at] = [0, 0]
  for (const [surface, each] of arrays.entries()) {
    const { matrix } = found[surface]
    positions.set(transformedPoints(each.positions, matrix), corner * 3)
    const turned = determinantOf(matrix) < 0
    each.indices.forEach((index, place) => {
      const step = turned ? [0, 1, -1][place % 3] : 0
      indices[at + place + step] = index + corner
    })
    surfaceOfTriangle.fill(surface, at / 3, (at + each.indices.length) / 3)
    corner += each.positions.length / 3
    at += each.indices.length
  }
  return {
    positions,
    indices,
    surfaceOfTriangle,
    surfaces: found.map(({ name, primitive }) => ({ part: name, material: primitive.getMaterial() })),
  }
}

/** A tray to be made: its name, the one finish of all its half-blocks, and its triangles in the scene. */
export interface Tray {
  name: string
  material: Material
  positions: Float32Array
  indices: Uint32Array
}

/** Puts trays in the place of all that is drawn: a part each, without normals and UVs, which half-blocks do not have. */
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
  for (const node of listSceneNodes(document).reverse()) if (isBare(node)) node.dispose()
  dropUnusedAccessors(document)
}

const isBare = (node: Node): boolean =>
  node.getMesh() === null &&
  node.listChildren().length === 0 &&
  node.listExtensions().length === 0 &&
  Object.keys(node.getExtras()).length === 0

/** The triangles of one surface, with the corners that they use. */
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
