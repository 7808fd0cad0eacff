import { gatherSurfaces } from '../../operations/meshes/gather-surfaces.ts'
import { joinable } from '../../operations/meshes/joinable.ts'
import type { Document, mat4, Node, Primitive, Skin } from '@gltf-transform/core'
import { z } from 'zod'
import { multiplyMatrices } from '../../maths/axes.ts'
import { invertMatrix } from '../../maths/matrices.ts'
import { ownMesh } from '../../item/own-mesh.ts'
import { listViewParts, movingReasons, type Part } from '../../item/parts.ts'
import { dropUnusedAccessors } from '../../item/primitive-arrays.ts'
import { transformPrimitive } from '../../item/transform-primitive.ts'
import { namesInItem } from '../item-names.ts'
import { defineStep, gonePart } from '../step.ts'
import { plural } from '../../support/wording.ts'

const parameters = z.object({ parts: namesInItem })

/** Makes one part of several. */
export const joinParts = defineStep<z.infer<typeof parameters>>({
  id: 'join-parts',
  version: 2,
  stage: 'mesh',
  title: 'Join parts',
  purpose: 'Makes one part of several that stand still or move together; materials stay as groups, bones are merged.',
  parameters,
  fields: () => [{ type: 'parts', key: 'parts', label: 'Join' }],
  defaults: ({ document }) => ({ parts: joinable(document).map((part) => part.name) }),
  propose: () => [],
  async run({ document, parameters: { parts: names } }) {
    const chosen = listViewParts(document).filter((part) => names.includes(part.name))
    if (chosen.length === 0 && names.length > 0) return gonePart(names[0])
    const details: string[] = []
    let joined = 0
    for (const group of groupsThatMoveTogether(document, chosen)) {
      if (group.length < 2) {
        if (chosen.length > 1) details.push(`${group[0].name} moves on its own and was left.`)
        continue
      }
      joinTogether(document, group)
      joined += group.length - 1
      details.push(
        `${group[0].name} took in ${group
          .slice(1)
          .map((part) => part.name)
          .slice(0, 8)
          .join(', ')}${group.length > 9 ? ` and ${group.length - 9} more` : ''}.`,
      )
    }
    dropUnusedAccessors(document)
    if (details.length === 0) details.push('There is only one part, so there is nothing to join.')
    return { headline: joined > 0 ? `−${plural(joined, 'part')}` : 'as it was', details, changed: joined > 0 }
  },
})

/**
 * Still parts in one group, parts held by bones in another, and a group for each node that moves with what hangs on it.
 */
function groupsThatMoveTogether(document: Document, parts: readonly Part[]): Part[][] {
  const moving = movingReasons(document)
  const groups = new Map<Node | string, Part[]>()
  for (const part of parts) {
    let mover: Node | null = part.node
    while (mover && moving.get(mover) !== 'moves' && moving.get(mover) !== 'is a bone') mover = mover.getParentNode()
    const key = part.node.getSkin() ? 'bones' : (mover ?? 'still')
    groups.set(key, [...(groups.get(key) ?? []), part])
  }
  return [...groups.values()]
}

/** Brings every surface into the first part's space and hangs what hung on the others on the first. */
export function joinTogether(document: Document, [first, ...others]: readonly Part[]): void {
  const mesh = ownMesh(first.node) ?? first.mesh
  const skin = first.node.getSkin()
  const toFirst = skin ? null : invertMatrix(first.node.getWorldMatrix())
  for (const part of others) {
    const own = ownMesh(part.node) ?? part.mesh
    const matrix = toFirst ? (multiplyMatrices(toFirst, part.node.getWorldMatrix()) as mat4) : null
    const partSkin = part.node.getSkin()
    const bones = skin && partSkin && partSkin !== skin ? mergeBones(document, skin, partSkin) : null
    for (const primitive of own.listPrimitives()) {
      const copy = withOwnArrays(primitive)
      if (matrix) transformPrimitive(document, copy, matrix)
      if (bones) renumberBones(copy, bones)
      mesh.addPrimitive(copy)
    }
    for (const child of part.node.listChildren()) {
      if (matrix) child.setMatrix(multiplyMatrices(matrix, child.getMatrix()) as mat4)
      first.node.addChild(child)
    }
    part.node.dispose()
  }
  const joined = first.node.getMesh()
  if (joined) gatherSurfaces(document, joined)
}

function withOwnArrays(primitive: Primitive): Primitive {
  const copy = primitive.clone()
  for (const semantic of copy.listSemantics()) {
    const accessor = copy.getAttribute(semantic)
    const array = accessor?.getArray()
    if (accessor && array) copy.setAttribute(semantic, accessor.clone().setArray(array.slice()))
  }
  const indices = copy.getIndices()
  if (indices) copy.setIndices(indices.clone().setArray(indices.getArray()?.slice() ?? null))
  return copy
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
