import type { Document, Material } from '@gltf-transform/core'
import { z } from 'zod'
import type { HalfBlockRules } from '../../game/schema-half-blocks.ts'
import { groupPositions } from '../../geometry/mesh/position-groups.ts'
import { cornersOfHalfBlock, decimalsFor, joinHalfBlocks, onGrid } from '../../geometry/mesh/half-blocks.ts'
import { createDocument } from '../../item/io.ts'
import { itemScene } from '../../item/parts.ts'
import { writeAttribute, writeIndices } from '../../item/primitive-arrays.ts'
import { longestSide } from '../../operations/meshes/half-blocks.ts'
import type { PackedMesh } from './open-mesh.ts'
import { readPartList } from './part-list-file.ts'

const entrySchema = z.object({ item: z.string().default('item') })

/** Corners that lie so near, as a share of the item's longest side, were one before they were written. */
const NEAR_SHARE = 2e-6

/**
 * A list of half-blocks with each pair that was a triangle put together again: a part for each tray.
 * @example const document = await openPartList({ path, bytes, files, beside }, rules)
 */
export async function openPartList({ bytes, beside }: PackedMesh, rules: HalfBlockRules): Promise<Document> {
  const trays = readPartList(bytes, rules)
  const corners = trays.flatMap(({ blocks }) => blocks.flatMap((block) => cornersOfHalfBlock(block).flat()))
  const longest = longestSide(corners)
  const near = Math.max(longest * NEAR_SHARE, 1e-7)
  const document = createDocument('pack')
  const root = document.createNode(entrySchema.parse(beside).item)
  itemScene(document).addChild(root)
  const materials = new Map<string, Material>()
  const finish = (name: string): Material => {
    const material = materials.get(name) ?? document.createMaterial(name)
    materials.set(name, material)
    return material
  }
  for (const { tray, finish: shown, blocks } of trays) {
    const joined = Float32Array.from(onGrid(joinHalfBlocks(blocks, near * 4), decimalsFor(longest)))
    const { groupOfCorner, cornerOfGroup } = groupPositions(joined, near)
    const positions = new Float32Array(cornerOfGroup.length * 3)
    cornerOfGroup.forEach((corner, group) => positions.set(joined.subarray(corner * 3, corner * 3 + 3), group * 3))
    const primitive = document.createPrimitive().setMaterial(shown === null ? null : finish(shown))
    writeAttribute(document, primitive, 'POSITION', positions, 3)
    writeIndices(document, primitive, groupOfCorner, positions.length / 3)
    root.addChild(document.createNode(tray).setMesh(document.createMesh(tray).addPrimitive(primitive)))
  }
  return document
}
