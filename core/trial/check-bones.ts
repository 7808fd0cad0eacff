import type { Kind } from '../game/schema.ts'
import type { TrialLog } from './log.ts'
import type { LoadedNode } from './loaders/mesh/loaded-mesh.ts'
import type { LoadedPrimitive } from './loaders/mesh/read-primitive.ts'

/**
 * Bones of a mesh file: how many, how many a corner, and how they stand in the tree.
 * @example checkBones('gate.glb', nodes, kind, log)
 */
export function checkBones(file: string, nodes: readonly LoadedNode[], kind: Kind, log: TrialLog): void {
  const held = nodes.filter(({ bones }) => bones.length > 0)
  if (!kind.bones) {
    for (const { name } of held)
      log.complain('mesh.bones', file, `${name} is held by bones; a ${kind.id} has none and stands still.`)
    return
  }
  if (held.length === 0) log.complain('mesh.stiff', file, `Nothing is held by bones; this ${kind.id} stays stiff.`)
  for (const node of held) {
    if (node.bones.length > kind.bones.most)
      log.refuse('mesh.bones', file, `${node.name} is held by ${node.bones.length} bones; ${kind.bones.most} are read.`)
    const most = Math.max(0, ...node.primitives.map(mostInfluences))
    if (most > kind.bones.influences)
      log.complain(
        'mesh.influences',
        file,
        `A corner of ${node.name} follows ${most} bones; ${kind.bones.influences} are read.`,
      )
  }
  if (kind.bones.rigidPartPerBone) checkTree(file, held, log)
}

/** Each bone goes where the part goes that it hangs on; what bones hold hangs on none of them. */
function checkTree(file: string, held: readonly LoadedNode[], log: TrialLog): void {
  const bones = new Set(held.flatMap(({ skeleton }) => skeleton.map(({ bone }) => bone)))
  const followed = new Set<LoadedNode>()
  for (const bone of bones) {
    const part = bone.parent
    if (!part || part.primitives.length === 0 || part.bones.length > 0)
      log.complain('bone.alone', file, `The bone ${bone.name} hangs on no part and stays where it is.`)
    else if (followed.has(part))
      log.complain('bone.shared', file, `${part.name} has a bone already; ${bone.name} is not read.`)
    else followed.add(part)
  }
  for (const node of held)
    for (let above = node.parent; above; above = above.parent)
      if (bones.has(above) || followed.has(above)) {
        log.complain('bone.below', file, `${node.name} hangs on ${above.name}, which moves it already.`)
        break
      }
}

/** Most bones that a corner follows. */
function mostInfluences({ influences }: LoadedPrimitive): number {
  let most = 0
  for (let corner = 0; corner < (influences[0]?.weights.length ?? 0) / 4; corner++) {
    let count = 0
    for (const { weights } of influences)
      for (let at = corner * 4; at < corner * 4 + 4; at++) if (weights[at] > 0) count++
    most = Math.max(most, count)
  }
  return most
}
