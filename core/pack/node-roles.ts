import type { Document } from '@gltf-transform/core'
import { groupInName } from '../game/group-names.ts'
import type { Rulebook } from '../game/schema.ts'
import { recogniseAnnotation } from '../item/annotations/index.ts'
import { setNodeExtras } from '../item/extras.ts'
import { listSceneNodes } from '../item/parts.ts'

/**
 * Tells what each node of a packed mesh is for, as the game does: by its name and by what it hangs under.
 * @example recogniseRoles(await openMesh(mesh, rulebook), rulebook)
 */
export function recogniseRoles(document: Document, rulebook: Rulebook): void {
  for (const node of listSceneNodes(document)) {
    const group = groupInName(rulebook, node.getName())
    if (group) setNodeExtras(node, { role: 'part', group })
    const extras = group ? null : recogniseAnnotation(node, rulebook)
    if (!extras) continue
    // What packing wrote there is read now, and will be written again.
    if (extras.solid) node.setExtras({})
    setNodeExtras(node, extras)
  }
}
