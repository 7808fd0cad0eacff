import type { mat4, Node, Primitive } from '@gltf-transform/core'
import { transformMesh } from '@gltf-transform/functions'
import { z } from 'zod'
import { multiplyMatrices } from '../document/axes.ts'
import { ownMesh } from '../document/own-mesh.ts'
import { itemScene, listAllParts, listMovingNodes, listSceneNodes, movingReasons, type MovingReason } from '../document/parts.ts'
import { dropUnusedAccessors } from '../document/primitive-arrays.ts'
import { hasOwnTransform } from '../document/transforms.ts'
import { freeCarriers } from './free-carriers.ts'
import { defineStep, plural } from './step.ts'

const parameters = z.object({})

/** Puts turns, moves and scales of still parts into their vertices. */
export const bakeTransforms = defineStep<z.infer<typeof parameters>>({
  id: 'bake-transforms',
  version: 2,
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
    return [{ parameters: {}, reason: `${namesOf(still)} ${still.length === 1 ? 'has' : 'have'} a transform of ${still.length === 1 ? 'its' : 'their'} own that does not move.` }]
  },
  async run({ document, progress }) {
    const moving = movingReasons(document)
    const freed = freeCarriers(document, moving)
    const parts = listAllParts(document).filter((part) => !moving.has(part.node) && !part.node.getSkin())
    const scene = itemScene(document)
    let baked = 0
    for (const [index, part] of parts.entries()) {
      await progress(index / parts.length, part.name)
      if (isIdentity(part.node.getWorldMatrix()) && !part.node.getParentNode()) continue
      bakePart(part.node)
      baked++
      part.node.getParentNode()?.removeChild(part.node)
      scene.addChild(part.node)
    }
    for (const node of listSceneNodes(document).reverse()) {
      if (!node.getMesh() && node.listChildren().length === 0 && !moving.has(node) && !node.getCamera() && !node.getExtension('KHR_lights_punctual')) node.dispose()
    }
    dropUnusedAccessors(document)
    const details = [baked > 0 ? `${plural(baked, 'part')} baked.` : 'No still part had a transform of its own.']
    if (freed.length > 0) details.push(`What ${namesOf(freed)} did was handed down to what moves on ${freed.length === 1 ? 'it' : 'them'}.`)
    for (const reason of ['moves', 'is a bone', 'carries what moves', 'hangs on what moves'] as const) {
      const left = listSceneNodes(document).filter((node) => moving.get(node) === reason && (hasOwnTransform(node) || node.getMesh() !== null))
      if (left.length > 0) details.push(`Left alone: ${namesOf(left)}; ${left.length === 1 ? reason : severalOf[reason]}.`)
    }
    const skinned = listAllParts(document).filter((part) => part.node.getSkin())
    if (skinned.length > 0) details.push(`Left alone: ${namesOf(skinned.map((part) => part.node))}; bones hold ${skinned.length === 1 ? 'it' : 'them'}.`)
    return { headline: `${plural(baked, 'part')}`, details, changed: baked > 0 || freed.length > 0 }
  },
})

const severalOf: Record<MovingReason, string> = { moves: 'they move', 'is a bone': 'they are bones', 'carries what moves': 'they carry what moves', 'hangs on what moves': 'they hang on what moves' }

function bakePart(node: Node): void {
  const world = node.getWorldMatrix()
  const mesh = ownMesh(node)
  if (!mesh) return
  for (const primitive of mesh.listPrimitives()) detachAccessors(primitive)
  // Children keep their place: what the parent loses, they gain. The library reverses the winding of mirrored parts.
  for (const child of node.listChildren()) child.setMatrix(multiplyMatrices(world, child.getMatrix()) as mat4)
  transformMesh(mesh, world)
  node.setTranslation([0, 0, 0]).setRotation([0, 0, 0, 1]).setScale([1, 1, 1])
}

/** The library writes in place; kept states must not change, so it gets arrays of its own. */
function detachAccessors(primitive: Primitive): void {
  for (const semantic of primitive.listSemantics()) {
    const accessor = primitive.getAttribute(semantic)
    const array = accessor?.getArray()
    if (accessor && array) primitive.setAttribute(semantic, accessor.clone().setArray(array.slice()))
  }
}

const namesOf = (nodes: readonly Node[]): string =>
  nodes.length <= 4 ? nodes.map((node) => node.getName()).join(', ') : `${nodes.slice(0, 3).map((node) => node.getName()).join(', ')} and ${nodes.length - 3} more`

const isIdentity = (matrix: mat4): boolean => matrix.every((value, index) => Math.abs(value - (index % 5 === 0 ? 1 : 0)) < 1e-9)
