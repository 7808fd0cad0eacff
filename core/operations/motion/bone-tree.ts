import type { Document, Node } from '@gltf-transform/core'
import { cleanName } from '../../game/clean-name.ts'
import type { Rulebook } from '../../game/schema.ts'
import { itemScene } from '../../item/parts.ts'
import { stiffPartOf } from '../../item/stiff-part.ts'
import { fillTemplate } from '../../support/templates.ts'
import { listHeldParts } from './skin.ts'

/** How the bones of an item stand in its tree, where the game wants each on a part of its own. */
export interface BoneTree {
  bones: Node[]
  /** Bones that hang on no stiff part. */
  alone: Node[]
  /** Bones that share their part with one before them. */
  shared: Node[]
  /** Nodes held by bones that hang on something instead of standing beside the bones. */
  below: Node[]
}

/**
 * Looks at how bones and what they hold stand.
 * @example const tree = boneTree(document)
 */
export function boneTree(document: Document): BoneTree {
  const held = listHeldParts(document)
  const bones = [...new Set(held.flatMap(({ node }) => node.getSkin()?.listJoints() ?? []))]
  const carriers = new Map<Node, Node>()
  const tree: BoneTree = { bones, alone: [], shared: [], below: [] }
  for (const bone of bones) {
    const carrier = stiffPartOf(bone)
    if (!carrier) tree.alone.push(bone)
    else if (carriers.has(carrier)) tree.shared.push(bone)
    else carriers.set(carrier, bone)
  }
  tree.below = held
    .filter(({ node, extras }) => extras.role === 'part' && hangsOnMoving(node, bones))
    .map(({ node }) => node)
  return tree
}

function hangsOnMoving(node: Node, bones: readonly Node[]): boolean {
  const carriers = new Set(bones.map((bone) => stiffPartOf(bone)))
  for (let above = node.getParentNode(); above; above = above.getParentNode())
    if (bones.includes(above) || carriers.has(above)) return true
  return false
}

/**
 * Puts what bones hold beside them, and gives the bone of each part the name that the game's rulebook makes of it.
 * @returns what was done, a sentence each
 *
 * @example const done = arrangeBoneTree(document, rulebook)
 */
export function arrangeBoneTree(document: Document, rulebook: Rulebook): string[] {
  const { below, bones } = boneTree(document)
  for (const node of below) itemScene(document).addChild(node)
  const renamed = wronglyNamed(bones, rulebook)
  for (const { bone, name } of renamed) bone.setName(name)
  return [
    ...below.map((node) => `${node.getName()} stands beside its bones.`),
    ...renamed.map(({ bone, from }) => `${from || 'A bone without a name'} is named ${bone.getName()}.`),
  ]
}

/**
 * Bones that follow a part and are not named after it as the game wants; those of the game's own skeletons keep theirs.
 *
 * @example for (const { bone, name } of wronglyNamed(bones, rulebook)) bone.setName(name)
 */
export const wronglyNamed = (
  bones: readonly Node[],
  rulebook: Rulebook,
): { bone: Node; from: string; name: string }[] => {
  const inStock = new Set(rulebook.stock.skeletons.flatMap((skeleton) => skeleton.bones.map(({ name }) => name)))
  return bones.flatMap((bone) => {
    const carrier = stiffPartOf(bone)
    if (!carrier || inStock.has(bone.getName())) return []
    const name = fillTemplate(rulebook.points.bone, { part: cleanName(rulebook, carrier.getName(), 'part') })
    return name === bone.getName() ? [] : [{ bone, from: bone.getName(), name }]
  })
}
