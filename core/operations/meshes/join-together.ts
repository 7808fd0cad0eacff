import type { Document, mat4, Node, Primitive, Skin } from '@gltf-transform/core'
import { ownMesh } from '../../item/own-mesh.ts'
import type { Part } from '../../item/parts.ts'
import { transformPrimitive } from '../../item/transform-primitive.ts'
import { multiplyMatrices } from '../../maths/axes.ts'
import { invertMatrix } from '../../maths/matrices.ts'
import { hangUnder } from '../motion/hang.ts'
import { gatherSurfaces } from './gather-surfaces.ts'

/**
 * Makes one part of several: every surface is brought into the first part's space, and what hung on the others hangs on
 * the first. Parts held by bones keep them; the rest must stand still, or move with the first.
 *
 * @example joinTogether(document, listViewParts(document))
 */
export function joinTogether(document: Document, [first, ...others]: readonly Part[]): void {
  standApart(document, first.node, new Set(others.map(({ node }) => node)))
  const mesh = ownMesh(first.node) ?? first.mesh
  const skin = first.node.getSkin()
  const toFirst = skin ? null : invertMatrix(first.node.getWorldMatrix())
  for (const part of others) {
    const own = ownMesh(part.node) ?? part.mesh
    const matrix = toFirst ? (multiplyMatrices(toFirst, part.node.getWorldMatrix()) as mat4) : null
    const partSkin = part.node.getSkin()
    const bones = skin && partSkin && partSkin !== skin ? mergeBones(document, skin, partSkin) : null
    for (const primitive of own.listPrimitives()) {
      if (matrix) transformPrimitive(document, primitive, matrix)
      if (bones) renumberBones(primitive, bones)
      mesh.addPrimitive(primitive)
    }
    for (const child of part.node.listChildren()) {
      if (matrix) child.setMatrix(multiplyMatrices(matrix, child.getMatrix()) as mat4)
      first.node.addChild(child)
    }
    part.node.dispose()
    own.dispose()
  }
  const joined = first.node.getMesh()
  if (joined) gatherSurfaces(document, joined)
}

/** Takes a node out from under those that are about to go, to what they hang on. */
function standApart(document: Document, node: Node, going: ReadonlySet<Node>): void {
  let outermost: Node | null = null
  for (let above = node.getParentNode(); above; above = above.getParentNode()) if (going.has(above)) outermost = above
  if (outermost) hangUnder(node, outermost.getParentNode() ?? document)
}

/** Adds another skin's bones to the first; tells the number that each of its bones has there. */
function mergeBones(document: Document, skin: Skin, other: Skin): number[] {
  const matrices = (each: Skin): number[] =>
    Array.from(
      each.getInverseBindMatrices()?.getArray() ??
        each.listJoints().flatMap(() => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]),
    )
  const merged = matrices(skin)
  const added = matrices(other)
  const numbers = other.listJoints().map((joint, number) => {
    const bind = added.slice(number * 16, number * 16 + 16)
    const known = skin
      .listJoints()
      .findIndex(
        (each, at) => each === joint && bind.every((value, index) => Math.abs(value - merged[at * 16 + index]) < 1e-5),
      )
    if (known >= 0) return known
    skin.addJoint(joint)
    merged.push(...bind)
    return merged.length / 16 - 1
  })
  const accessor = document
    .createAccessor('binds')
    .setType('MAT4')
    .setArray(Float32Array.from(merged))
    .setBuffer(document.getRoot().listBuffers()[0] ?? document.createBuffer())
  skin.setInverseBindMatrices(accessor)
  return numbers
}

function renumberBones(primitive: Primitive, numbers: readonly number[]): void {
  for (const semantic of primitive.listSemantics().filter((each) => each.startsWith('JOINTS'))) {
    const accessor = primitive.getAttribute(semantic)
    const array = accessor?.getArray()
    if (accessor && array)
      primitive.setAttribute(
        semantic,
        accessor.clone().setArray(Uint16Array.from(Array.from<number>(array), (bone) => numbers[bone] ?? 0)),
      )
  }
}
