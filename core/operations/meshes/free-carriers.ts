import { multiplyTurns } from '../../maths/turns.ts'
import type { Accessor, Document, mat4, Node } from '@gltf-transform/core'
import { multiplyMatrices } from '../../maths/axes.ts'
import { listSceneNodes, type MovingReason } from '../../item/parts.ts'
import { accessorToFloats } from '../../item/primitive-arrays.ts'
import { hasOwnTransform } from '../../maths/transforms.ts'

/**
 * Takes the transform off nodes that stand still but carry what moves, and hands it down to their children and the keys
 * of these, so that the item's root ends at the origin without a turn. Only moves, turns and even scales can be handed
 * down; nodes that also hold a mesh or a light are left.
 * @returns the nodes that are free of a transform now
 *
 * @example const freed = freeCarriers(document, movingReasons(document))
 */
export function freeCarriers(document: Document, reasons: ReadonlyMap<Node, MovingReason>): Node[] {
  const freed: Node[] = []
  for (const node of listSceneNodes(document)) {
    if (
      reasons.get(node) !== 'carries what moves' ||
      !hasOwnTransform(node) ||
      node.getMesh() ||
      node.getExtension('KHR_lights_punctual')
    )
      continue
    const [x, y, z] = node.getScale()
    if (x <= 0 || Math.abs(x - y) > 1e-6 * x || Math.abs(x - z) > 1e-6 * x) continue
    const matrix = node.getMatrix()
    for (const child of node.listChildren()) {
      handKeysDown(document, child, node)
      child.setMatrix(multiplyMatrices(matrix, child.getMatrix()) as mat4)
    }
    node.setTranslation([0, 0, 0]).setRotation([0, 0, 0, 1]).setScale([1, 1, 1])
    freed.push(node)
  }
  return freed
}

/**
 * Keys of a child, put under what its parent did. Slopes of cubic keys are speeds: they turn and scale but do not move.
 */
function handKeysDown(document: Document, child: Node, parent: Node): void {
  const matrix = parent.getMatrix()
  const rotation = parent.getRotation()
  const [scale] = parent.getScale()
  for (const channel of document
    .getRoot()
    .listAnimations()
    .flatMap((animation) => animation.listChannels())) {
    const sampler = channel.getSampler()
    const output = sampler?.getOutput()
    if (channel.getTargetNode() !== child || !sampler || !output) continue
    const cubic = sampler.getInterpolation() === 'CUBICSPLINE'
    const path = channel.getTargetPath()
    if (path === 'translation')
      sampler.setOutput(
        changed(output, 3, (values, key) => transformed(matrix, values, cubic && key % 3 !== 1 ? 0 : 1)),
      )
    if (path === 'rotation') sampler.setOutput(changed(output, 4, (values) => multiplyTurns(rotation, values)))
    if (path === 'scale') sampler.setOutput(changed(output, 3, (values) => values.map((value) => value * scale)))
  }
}

function changed(accessor: Accessor, size: number, change: (values: number[], key: number) => number[]): Accessor {
  const floats = accessorToFloats(accessor).slice()
  for (let key = 0; key < floats.length / size; key++)
    floats.set(change([...floats.subarray(key * size, key * size + size)], key), key * size)
  return accessor
    .clone()
    .setNormalized(false)
    .setArray(floats as Float32Array<ArrayBuffer>)
}

const transformed = (m: readonly number[], [x, y, z]: readonly number[], moved: number): number[] =>
  [0, 1, 2].map((axis) => m[axis] * x + m[4 + axis] * y + m[8 + axis] * z + m[12 + axis] * moved)

/** Product of two rotations: first `b`, then `a` (Hamilton's rule, x y z w). */
