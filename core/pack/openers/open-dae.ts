import { weld } from '@gltf-transform/functions'
import type { Document } from '@gltf-transform/core'
import { z } from 'zod'
import { readItem } from '../../intake/read-item.ts'
import { getNodeExtras } from '../../item/extras.ts'
import { listSceneNodes } from '../../item/parts.ts'
import type { PackedMesh } from './open-mesh.ts'

const besideSchema = z.object({ said: z.record(z.string(), z.record(z.string(), z.unknown())).optional() })

/**
 * A COLLADA file of a pack, with what the entry holds for its nodes.
 * @example const document = await openDae({ path, bytes, files, beside })
 */
export async function openDae({ path, bytes, files, beside }: PackedMesh): Promise<Document> {
  const { said = {} } = besideSchema.parse(beside ?? {})
  const others = [...files].flatMap(([each, content]) => (each === path ? [] : [{ path: each, bytes: content }]))
  const { document } = await readItem(path, [...others, { path, bytes }], {})
  for (const node of listSceneNodes(document)) {
    // An item's root often has the name of its only part: each keeps the name that the file gives it.
    const name = getNodeExtras(node).writtenName ?? node.getName()
    const isRoot = node.getParentNode() === null
    node.setName(name).setExtras(!isRoot && Object.hasOwn(said, name) ? said[name] : {})
  }
  for (const material of document.getRoot().listMaterials()) material.setExtras({})
  // Every corner of a file is its own; the game holds those that are alike once.
  await document.transform(weld())
  return document
}
