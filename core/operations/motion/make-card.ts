import type { Document, Material } from '@gltf-transform/core'
import { noteGivenUp } from '../../item/given-up.ts'
import { descendants, itemScene, listViewParts } from '../../item/parts.ts'
import { writeAttribute, writeIndices } from '../../item/primitive-arrays.ts'
import type { Vector3 } from '../../maths/vectors.ts'

/**
 * Puts one upright card of two triangles, looking along +Z, in the place of everything that an item has. What that was
 * is told as given up.
 * @param size width and height in scene units, and the middle of its lower edge
 *
 * @example makeCard(document, material, { width: 2, height: 3, foot: [0, 0, 0] })
 */
export function makeCard(
  document: Document,
  material: Material,
  { width, height, foot: [x, y, z] }: { width: number; height: number; foot: Vector3 },
): void {
  const scene = itemScene(document)
  const parts = listViewParts(document)
  const name = parts.at(0)?.name ?? 'card'
  const count = parts.length
  for (const animation of document.getRoot().listAnimations()) animation.dispose()
  for (const root of scene.listChildren()) for (const node of [root, ...descendants(root)]) node.dispose()
  for (const skin of document.getRoot().listSkins()) skin.dispose()
  const primitive = document.createPrimitive().setMaterial(material)
  const [left, right] = [x - width / 2, x + width / 2]
  const corners = [left, y, z, right, y, z, right, y + height, z, left, y + height, z]
  writeAttribute(document, primitive, 'POSITION', Float32Array.from(corners), 3)
  writeAttribute(document, primitive, 'NORMAL', Float32Array.from([0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1]), 3)
  writeAttribute(document, primitive, 'TEXCOORD_0', Float32Array.from([0, 1, 1, 1, 1, 0, 0, 0]), 2)
  writeIndices(document, primitive, Uint32Array.from([0, 1, 2, 0, 2, 3]), 4)
  scene.addChild(document.createNode(name).setMesh(document.createMesh(name).addPrimitive(primitive)))
  noteGivenUp(document, {
    what: 'Its shape',
    where: name,
    message: `${count === 1 ? 'Its mesh' : `All ${count} parts`} became one flat card`,
    why: 'The game turns a flat card to who looks, and nothing else.',
  })
}
