import type { Accessor, Document, mat4, Node, vec3, vec4 } from '@gltf-transform/core'
import { multiplyMatrices } from '../../maths/axes.ts'
import { multiplyTurns } from '../../maths/turns.ts'
import { getNodeExtras, setNodeExtras } from '../../item/extras.ts'
import { isMirroring } from '../../item/measure.ts'
import { primitiveIndices, reversedWinding, writeIndices } from '../../item/primitive-arrays.ts'

/**
 * Rewrites a whole item in another space: each vertex, node, key and bind pose, so that nothing is left as a transform
 * on top and motion goes on meaning the same. For a turn R and a factor s: points become sR·p, directions R·d, node
 * rotations R·q·R⁻¹, translations sR·t. Where R mirrors, winding and the sign of tangents turn over and the axis of a
 * rotation, which is no direction but a sense of turning, is reversed.
 * @param turn column-major 4 × 4 that maps axes onto axes (a rotation in steps of 90°, or one with a mirror)
 *
 * @example changeBasis(document, axesTurn('+z', '-y', '+y', '+z'), 0.01)
 */
export function changeBasis(document: Document, turn: readonly number[], factor: number): void {
  const root = document.getRoot()
  const mirrors = isMirroring(turn)
  const turnRotation = (values: number[]): void => {
    turnValues(values, turn, mirrors ? -1 : 1)
  }
  const done = new Map<Accessor, Accessor>()
  const replaced = (accessor: Accessor, size: number, change: (values: number[]) => void): Accessor => {
    const known = done.get(accessor)
    if (known) return known
    const copy = accessor
      .clone()
      .setNormalized(false)
      .setArray(rewrite(accessor, size, change))
    done.set(accessor, copy)
    return copy
  }
  for (const mesh of root.listMeshes()) {
    for (const primitive of mesh.listPrimitives()) {
      for (const holder of [primitive, ...primitive.listTargets()]) {
        for (const semantic of holder.listSemantics()) {
          const accessor = holder.getAttribute(semantic)
          if (!accessor) continue
          if (semantic === 'POSITION')
            holder.setAttribute(
              semantic,
              replaced(accessor, 3, (values) => turnValues(values, turn, factor)),
            )
          else if (semantic === 'NORMAL' || semantic === 'TANGENT')
            holder.setAttribute(
              semantic,
              replaced(accessor, accessor.getElementSize(), (values) => turnDirection(values, turn, mirrors)),
            )
        }
      }
      if (mirrors)
        writeIndices(
          document,
          primitive,
          reversedWinding(primitiveIndices(primitive)),
          primitive.getAttribute('POSITION')?.getCount() ?? 0,
        )
    }
  }
  for (const node of [...root.listNodes()]) {
    const translation = [...node.getTranslation()]
    turnValues(translation, turn, factor)
    const rotation = [...node.getRotation()]
    turnRotation(rotation)
    node
      .setTranslation(translation as vec3)
      .setRotation(rotation as vec4)
      .setScale(permuteScale(node.getScale(), turn))
    if (node.getExtension('KHR_lights_punctual')) keepShining(document, node, turn)
  }
  for (const animation of root.listAnimations()) {
    for (const channel of animation.listChannels()) {
      const sampler = channel.getSampler()
      const output = sampler?.getOutput()
      const path = channel.getTargetPath()
      if (!sampler || !output || path === 'weights' || path === null) continue
      if (path === 'scale')
        sampler.setOutput(replaced(output, 3, (values) => values.splice(0, 3, ...permuteScale(values as vec3, turn))))
      else
        sampler.setOutput(
          replaced(output, output.getElementSize(), (values) =>
            path === 'translation' ? turnValues(values, turn, factor) : turnRotation(values),
          ),
        )
    }
  }
  for (const skin of root.listSkins()) {
    const matrices = skin.getInverseBindMatrices()
    if (matrices)
      skin.setInverseBindMatrices(
        replaced(matrices, 16, (values) => values.splice(0, 16, ...conjugate(values as mat4, turn, factor))),
      )
  }
}

function rewrite(accessor: Accessor, size: number, change: (values: number[]) => void): Float32Array<ArrayBuffer> {
  const count = accessor.getCount()
  const floats = new Float32Array(count * size)
  const values: number[] = []
  for (let index = 0; index < count; index++) {
    accessor.getElement(index, values)
    change(values)
    for (let axis = 0; axis < size; axis++) floats[index * size + axis] = values[axis]
  }
  return floats
}

/** Turns the first three values in place; a fourth (a quaternion's w, a tangent's sign) stays. */
function turnValues(values: number[], turn: readonly number[], factor: number): void {
  const [x, y, z] = values
  for (let axis = 0; axis < 3; axis++)
    // Nought is added so that a turned nought has no sign: turned back it would have another.
    values[axis] = (turn[axis] * x + turn[4 + axis] * y + turn[8 + axis] * z) * factor + 0
}

function turnDirection(values: number[], turn: readonly number[], mirrors: boolean): void {
  turnValues(values, turn, 1)
  if (mirrors && values.length === 4) values[3] = -values[3]
}

function permuteScale(scale: vec3, turn: readonly number[]): vec3 {
  return [0, 1, 2].map(
    (axis) =>
      Math.abs(turn[axis]) * scale[0] + Math.abs(turn[4 + axis]) * scale[1] + Math.abs(turn[8 + axis]) * scale[2],
  ) as vec3
}

function conjugate(matrix: readonly number[], turn: readonly number[], factor: number): number[] {
  const back = turn.map((_, index) => turn[(index % 4) * 4 + Math.floor(index / 4)])
  const turned = multiplyMatrices(multiplyMatrices(turn, matrix), back)
  for (const index of [12, 13, 14]) turned[index] *= factor
  return turned
}

/**
 * A light shines along its node's own −Z whatever the space is (KHR_lights_punctual): its node is turned so that this
 * axis leads where it did. Where the node holds more, or a clip turns it, the light moves onto a node of its own.
 */
function keepShining(document: Document, node: Node, turn: readonly number[]): void {
  const [x, y, z] = [-turn[8], -turn[9], -turn[10]]
  if (z === -1) return
  // The shortest turn from −Z to where the space takes it; straight back it is half a turn about Y.
  const rotation: vec4 = z === 1 ? [0, 1, 0, 0] : unitOf([y, -x, 0, 1 - z])
  const isTurned = node.listParents().some(({ propertyType }) => propertyType === 'AnimationChannel')
  if (node.getMesh() === null && node.listChildren().length === 0 && !isTurned) {
    node.setRotation(multiplyTurns(node.getRotation(), rotation))
    return
  }
  const own = document.createNode(`${node.getName()}_light`).setRotation(rotation)
  const extras = getNodeExtras(node)
  if (extras.role === 'light') {
    setNodeExtras(own, { role: 'light' })
    setNodeExtras(node, { ...extras, role: 'part' })
  }
  own.setExtension('KHR_lights_punctual', node.getExtension('KHR_lights_punctual'))
  node.setExtension('KHR_lights_punctual', null)
  node.addChild(own)
}

function unitOf(turn: vec4): vec4 {
  const length = Math.hypot(...turn) || 1
  return turn.map((value) => value / length) as vec4
}
