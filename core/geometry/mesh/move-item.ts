import type { Accessor, Document, Node, vec3 } from '@gltf-transform/core'
import { itemScene, listMovingNodes } from '../../item/parts.ts'
import { ownMesh } from '../../item/own-mesh.ts'
import { accessorToFloats, writeAttribute } from '../../item/primitive-arrays.ts'

/**
 * Moves a whole item. Still parts without a transform of their own are moved in their vertices, so that they stay
 * without one; all else by its node, with the keys that move it.
 * @param offset in scene units
 *
 * @example moveItem(document, [0, -bounds.min[1], 0])
 */
export function moveItem(document: Document, offset: vec3): void {
  const moving = listMovingNodes(document)
  const keys = new Map<Accessor, Accessor>()
  for (const node of itemScene(document).listChildren()) {
    if (!moving.has(node) && !node.getSkin() && isUnmoved(node)) moveVertices(document, node, offset)
    else {
      node.setTranslation(node.getTranslation().map((value, axis) => value + offset[axis]) as vec3)
      moveKeys(document, node, offset, keys)
    }
  }
}

const isUnmoved = (node: Node): boolean => node.getMatrix().every((value, index) => value === (index % 5 === 0 ? 1 : 0))

/** The node stays at the origin; what hangs on it is moved by its own node. */
function moveVertices(document: Document, node: Node, offset: vec3): void {
  const mesh = ownMesh(node)
  for (const primitive of mesh?.listPrimitives() ?? []) {
    const position = primitive.getAttribute('POSITION')
    if (position)
      writeAttribute(
        document,
        primitive,
        'POSITION',
        accessorToFloats(position).map((value, at) => value + offset[at % 3]),
        3,
      )
  }
  for (const child of node.listChildren()) {
    if (isUnmoved(child)) moveVertices(document, child, offset)
    else child.setTranslation(child.getTranslation().map((value, axis) => value + offset[axis]) as vec3)
  }
}

/** Keys that put a node in place; the in- and out-slopes of cubic keys are speeds and stay. */
function moveKeys(document: Document, node: Node, offset: vec3, done: Map<Accessor, Accessor>): void {
  for (const channel of document
    .getRoot()
    .listAnimations()
    .flatMap((animation) => animation.listChannels())) {
    const sampler = channel.getSampler()
    const output = sampler?.getOutput()
    if (channel.getTargetNode() !== node || channel.getTargetPath() !== 'translation' || !sampler || !output) continue
    const cubic = sampler.getInterpolation() === 'CUBICSPLINE'
    const moved =
      done.get(output) ??
      output
        .clone()
        .setArray(
          accessorToFloats(output).map((value, at) =>
            cubic && Math.floor(at / 3) % 3 !== 1 ? value : value + offset[at % 3],
          ) as Float32Array<ArrayBuffer>,
        )
    done.set(output, moved)
    sampler.setOutput(moved)
  }
}
