import type { Document, Node } from '@gltf-transform/core'
import { SLOTS, type Bendable } from '../../maths/bend.ts'
import { listAllParts, listViewParts } from '../../item/parts.ts'
import { restBones, restMatrices } from './bend-poses.ts'
import { stiffPartOf } from '../../item/stiff-part.ts'
import { listHeldParts, readHeldMesh } from './skin.ts'

/**
 * All that bends of an item, for the yard; null where nothing does.
 * @example const bendable = itemBendable(document)
 */
export function itemBendable(document: Document): Bendable | null {
  const parts = listHeldParts(document).flatMap((part) => {
    const held = readHeldMesh(part)
    return held ? [{ name: part.name, held }] : []
  })
  const bones = heldBones(document)
  if (bones.length === 0) return null
  const numberOf = new Map(bones.map((bone, number) => [bone, number]))
  return {
    bones: restBones(bones),
    held: parts.map(({ name, held }) => ({
      part: name,
      bones: held.bones.map((bone) => numberOf.get(bone) ?? 0),
      rest: Float32Array.from(restMatrices(held).flat()),
      surfaces: held.firstCorner.slice(0, -1).map((first, surface) => ({
        boneOf: held.table.boneOf.slice(first * SLOTS, held.firstCorner[surface + 1] * SLOTS),
        weightOf: held.table.weightOf.slice(first * SLOTS, held.firstCorner[surface + 1] * SLOTS),
      })),
    })),
    carried: [...listViewParts(document), ...listAllParts(document).filter(({ extras }) => extras.role === 'solid')]
      .filter(({ node }) => !node.getSkin())
      .flatMap(({ name, node }) => {
        const bone = carrierOf(node, bones)
        return bone === undefined ? [] : [{ part: name, bone }]
      }),
  }
}

/**
 * Every bone that holds something, in the order of `itemBendable`.
 * @example const names = heldBones(document).map((bone) => bone.getName())
 */
export const heldBones = (document: Document): Node[] => [
  ...new Set(listHeldParts(document).flatMap(({ node }) => node.getSkin()?.listJoints() ?? [])),
]

/** The bone that goes where a stiff part goes: one that hangs on it or on what it hangs on, or that it hangs on. */
function carrierOf(node: Node, bones: readonly Node[]): number | undefined {
  const follower = new Map(bones.map((bone, number) => [stiffPartOf(bone), number]))
  for (let each: Node | null = node; each; each = each.getParentNode()) {
    const own = bones.indexOf(each)
    if (own >= 0) return own
    const following = follower.get(each)
    if (following !== undefined) return following
  }
  return undefined
}
