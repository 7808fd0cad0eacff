import type { Document, mat4, Node, vec3, vec4 } from '@gltf-transform/core'
import { z } from 'zod'
import { listPlaces } from '../../item/annotations/places.ts'
import { getNodeExtras } from '../../item/extras.ts'
import { ownMesh } from '../../item/own-mesh.ts'
import {
  itemScene,
  listAllParts,
  listMovingNodes,
  listSceneNodes,
  movingReasons,
  type MovingReason,
} from '../../item/parts.ts'
import { dropUnusedAccessors } from '../../item/primitive-arrays.ts'
import { transformPrimitive } from '../../item/transform-primitive.ts'
import { identityMatrix, isIdentity, multiplyMatrices } from '../../maths/axes.ts'
import { decomposeMatrix, invertMatrix } from '../../maths/matrices.ts'
import { hasOwnTransform } from '../../maths/transforms.ts'
import { freeCarriers } from '../../operations/meshes/free-carriers.ts'
import { defineStep } from '../step.ts'
import { plural } from '../../support/wording.ts'

const parameters = z.object({})

/** Puts turns, moves and scales of still parts into their vertices. */
export const bakeTransforms = defineStep<z.infer<typeof parameters>>({
  id: 'bake-transforms',
  version: 5,
  stage: 'fit',
  title: 'Bake transforms',
  purpose: 'Puts turns, moves and scales into the vertices of every part that does not move.',
  parameters,
  fields: () => [],
  defaults: () => ({}),
  propose({ document }) {
    const moving = listMovingNodes(document)
    const still = listSceneNodes(document).filter((node) => !moving.has(node) && hasOwnTransform(node))
    if (still.length === 0) return []
    return [
      {
        parameters: {},
        reason:
          `${namesOf(still)} ${still.length === 1 ? 'has' : 'have'} a transform of ` +
          `${still.length === 1 ? 'its' : 'their'} own that does not move.`,
      },
    ]
  },
  async run({ document, progress }) {
    const moving = movingReasons(document)
    const freed = freeCarriers(document, moving)
    const parts = listAllParts(document).filter((part) => !moving.has(part.node) && !part.node.getSkin())
    const scene = itemScene(document)
    const baking = new Set(parts.map((part) => part.node))
    // Taken all at once: uneven scales and turns on the way down add up to slants, which no node can hold.
    const worlds = new Map(parts.map((part) => [part.node, part.node.getWorldMatrix()]))
    const places = listPlaces(document)
      .filter(({ node }) => !moving.has(node))
      .map(({ node }) => ({ node, world: node.getWorldMatrix() }))
    let baked = 0
    for (const [index, { node, name, extras }] of parts.entries()) {
      await progress(index / parts.length, name)
      const world = worlds.get(node) ?? node.getWorldMatrix()
      const parent = node.getParentNode()
      if (!isIdentity(world)) {
        for (const primitive of ownMesh(node)?.listPrimitives() ?? []) transformPrimitive(document, primitive, world)
        node.setTranslation([0, 0, 0]).setRotation([0, 0, 0, 1]).setScale([1, 1, 1])
      } else if (!parent) continue
      baked++
      // A solid, a level or a shadow mesh belongs to its part wherever that goes.
      if (extras.role !== 'part' && parent && baking.has(parent)) continue
      parent?.removeChild(node)
      scene.addChild(node)
    }
    const freedOfNodes = standByBonesAlone(document, moving)
    for (const { node, world } of places) keepInPlace(document, node, world)
    let emptied = 0
    for (const node of listSceneNodes(document).toReversed()) {
      if (
        !node.getMesh() &&
        getNodeExtras(node).role === 'part' &&
        node.listChildren().length === 0 &&
        !moving.has(node) &&
        !node.getCamera() &&
        !node.getExtension('KHR_lights_punctual')
      ) {
        node.dispose()
        emptied++
      }
    }
    dropUnusedAccessors(document)
    const details = [baked > 0 ? `${plural(baked, 'part')} baked.` : 'No still part had a transform of its own.']
    if (emptied > 0) details.push(`${plural(emptied, 'node')} that held nothing any more went.`)
    if (freed.length > 0)
      details.push(`What ${namesOf(freed)} did was handed down to what moves on ${freed.length === 1 ? 'it' : 'them'}.`)
    for (const reason of ['moves', 'is a bone', 'carries what moves', 'hangs on what moves'] as const) {
      const left = listSceneNodes(document).filter(
        (node) => moving.get(node) === reason && (hasOwnTransform(node) || node.getMesh() !== null),
      )
      if (left.length > 0)
        details.push(`Left alone: ${namesOf(left)}; ${left.length === 1 ? reason : severalOf[reason]}.`)
    }
    if (freedOfNodes.length > 0)
      details.push(
        `${namesOf(freedOfNodes)} ${freedOfNodes.length === 1 ? 'stands' : 'stand'} where bones hold ` +
          `${freedOfNodes.length === 1 ? 'it' : 'them'}; what the node said besides went.`,
      )
    const skinned = listAllParts(document).filter(({ node }) => node.getSkin() && hasOwnTransform(node))
    if (skinned.length > 0)
      details.push(
        `Left alone: ${namesOf(skinned.map((part) => part.node))}; bones hold ${skinned.length === 1 ? 'it' : 'them'}.`,
      )
    return {
      headline: `${plural(baked, 'part')}`,
      details,
      changed: baked + emptied + freed.length + freedOfNodes.length > 0,
    }
  },
})

/**
 * Takes the transform off nodes whose mesh bones hold: it says nothing (glTF 2.0 specification, section 3.7.3.3), but
 * games that read it anyway would skip it, or use it twice. One that others hang on keeps its own.
 */
function standByBonesAlone(document: Document, moving: ReadonlyMap<Node, MovingReason>): Node[] {
  const nodes = listAllParts(document)
    .map(({ node }) => node)
    .filter((node) => node.getSkin() && !moving.has(node) && node.listChildren().length === 0 && hasOwnTransform(node))
  for (const node of nodes) node.setTranslation([0, 0, 0]).setRotation([0, 0, 0, 1]).setScale([1, 1, 1])
  return nodes
}

/** Hangs a place on the part that it hung on, or else in the scene, where it stood; a place has no size. */
function keepInPlace(document: Document, node: Node, world: mat4): void {
  let holder = node.getParentNode()
  while (holder && !holder.getMesh()) holder = holder.getParentNode()
  const { translation, rotation } = decomposeMatrix(
    holder ? multiplyMatrices(invertMatrix(holder.getWorldMatrix()) ?? identityMatrix(), world) : world,
  )
  if (holder) holder.addChild(node)
  else {
    node.getParentNode()?.removeChild(node)
    itemScene(document).addChild(node)
  }
  node
    .setTranslation(translation as vec3)
    .setRotation(rotation as vec4)
    .setScale([1, 1, 1])
}

const severalOf: Record<MovingReason, string> = {
  moves: 'they move',
  'is a bone': 'they are bones',
  'carries what moves': 'they carry what moves',
  'hangs on what moves': 'they hang on what moves',
}

const namesOf = (nodes: readonly Node[]): string =>
  nodes.length <= 4
    ? nodes.map((node) => node.getName()).join(', ')
    : `${nodes
        .slice(0, 3)
        .map((node) => node.getName())
        .join(', ')} and ${nodes.length - 3} more`
